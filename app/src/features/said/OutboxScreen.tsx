import type { MessageView, OutboxView, StandIn } from '@back-again/contract';
import type { LocalDate, Settings } from '@back-again/core';
import { router } from 'expo-router';
import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { errorOf, useOutboxQuery, useSessionQuery, useStandInMutation } from '../../data/api.ts';
import { Choice } from '../../ui/Choice.tsx';
import { Screen } from '../../ui/Frame.tsx';
import { Unreachable } from '../../ui/Unreachable.tsx';
import { Card } from '../../ui/Card.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';
import { instantText } from '../../ui/dates.ts';
import { useLook } from '../../ui/look.ts';
import { CHANNEL_NAMES } from './lines.ts';

const OFTEN = 4000;

/** What is sent by e-mail and text message: what waits, what went, and what arrived at the stand-in. */
export function OutboxScreen() {
  const {
    data: view,
    error,
    refetch,
  } = useOutboxQuery(undefined, {
    pollingInterval: OFTEN,
    refetchOnMountOrArgChange: true,
  });
  const { data: session } = useSessionQuery();
  useEffect(() => {
    document.title = 'Outbox · Back Again';
  }, []);
  if (!view || !session)
    return error ? (
      <Unreachable words={errorOf(error).message} onRetry={() => void refetch()} />
    ) : (
      <Waiting lines={5} label="The outbox is on its way" />
    );
  const { messages, today, leaves } = view;
  return (
    <Screen>
      <View style={{ maxWidth: 660 }}>
        <View style={{ padding: 20, paddingBottom: 4, gap: 4, alignItems: 'flex-start' }}>
          <WordLink
            label="Back"
            onPress={() => (router.canGoBack() ? router.back() : router.replace('/said'))}
          />
          <Heading level={1}>Outbox</Heading>
          <Words size={15} tint="soft">
            {messages.length
              ? `What was sent, the latest first.${leavesText(leaves)}`
              : 'Nothing has been sent. Reminders are sent by e-mail or text message once Settings say so, or a to-do does.'}
          </Words>
        </View>
        {staysOf(leaves).length ? <StandInControls view={view} /> : null}
        <View role="list">
          {messages.map((message, i) => (
            <Message
              key={message.id}
              message={message}
              leaves={leaves}
              first={i === 0}
              today={today}
              settings={session.settings}
            />
          ))}
        </View>
      </View>
    </Screen>
  );
}

/** What of e-mail and text messages stays with the stand-in. */
const staysOf = (leaves: OutboxView['leaves']) =>
  (['email', 'text'] as const).filter((it) => !leaves.includes(it));

/** The same in words. */
function leavesText(leaves: OutboxView['leaves']): string {
  const [first, second] = staysOf(leaves);
  if (!first) return '';
  if (second)
    return ' E-mail and text messages do not leave this program yet: they arrive in a mailbox and a telephone of its own, for trying.';
  return first === 'text'
    ? ' Text messages arrive in a telephone of its own, for trying.'
    : ' E-mail arrives in a mailbox of its own, for trying.';
}

interface MessageProps {
  message: MessageView;
  leaves: OutboxView['leaves'];
  first: boolean;
  today: LocalDate;
  settings: Settings;
}

function Message({ message, leaves, first, today, settings }: MessageProps) {
  const look = useLook();
  const [open, setOpen] = useState(false);
  const { channel, address, subject, arrived } = message;
  return (
    <View
      role="listitem"
      testID={`message ${subject}`}
      style={{
        paddingHorizontal: 20,
        paddingVertical: 8,
        borderTopWidth: first ? 0 : 1,
        borderTopColor: look.line,
      }}
    >
      <View style={{ flexDirection: 'row', alignItems: 'center', gap: 12 }}>
        <View style={{ flex: 1, minWidth: 0 }}>
          <Words size={16} weight={600} style={{ lineHeight: 21 }}>
            {subject}
          </Words>
          <Words size={14.5} tint="soft" style={{ lineHeight: 20 }}>
            <Words size={14.5} weight={600} style={{ lineHeight: 20 }}>
              {stateText(message, leaves, today, settings)}
            </Words>
            {` · ${CHANNEL_NAMES[channel]} to ${address || NOWHERE[channel]}`}
          </Words>
        </View>
        <WordLink
          label={open ? 'Hide' : 'Read'}
          name={`${open ? 'Hide' : 'Read'}: ${subject}`}
          expanded={open}
          onPress={() => setOpen(!open)}
        />
      </View>
      {open ? (
        <Card style={{ paddingVertical: 14, marginVertical: 6, gap: 6 }}>
          {(arrived?.text ?? message.text).split('\n').map((line, i) => (
            <Line key={i} line={line} />
          ))}
          {arrived && arrived.copies > 1 ? (
            <Words size={14.5} tint="soft">
              {`Handed over ${arrived.copies} times, and kept once.`}
            </Words>
          ) : null}
        </Card>
      ) : null}
    </View>
  );
}

/** A line of a message; an address of this program in it can be followed. */
function Line({ line }: { line: string }) {
  const found = /^(.*): https?:\/\/[^/]+(\/\S*)$/u.exec(line);
  if (!found) return <Words size={15}>{line}</Words>;
  const [, label, path] = found;
  return (
    <View style={{ alignItems: 'flex-start' }}>
      <WordLink label={label!} onPress={() => router.push(path as never)} />
    </View>
  );
}

const NOWHERE = { email: 'nobody', text: 'no number', push: 'a device of before' } as const;

function stateText(
  { state, channel, tries, nextTryAt, settledAt, decidedAt, arrived, why }: MessageView,
  leaves: OutboxView['leaves'],
  today: LocalDate,
  settings: Settings,
): string {
  const at = (instant: string) => instantText(instant, today, settings);
  switch (state) {
    case 'waiting':
      return tries && nextTryAt
        ? `Tried ${times(tries)}, again ${at(nextTryAt)}`
        : `Waiting since ${at(decidedAt)}`;
    case 'sent':
      if (arrived) return `Arrived ${at(arrived.at)}`;
      // The stand-in knows whether it arrived; whoever else carries it does not say.
      return `Sent ${at(settledAt!)}${leaves.includes(channel) ? '' : ', not arrived yet'}`;
    case 'dropped':
      return 'Not sent: not needed any more';
    case 'given up':
      return tries
        ? `Could not be sent: tried ${times(tries)}, last ${at(settledAt!)}`
        : `Not sent. ${why ?? ''}`.trim();
  }
}

const times = (n: number) => ['', 'once', 'twice'][n] ?? `${n} times`;

const ONE_IN = [
  { value: '0', label: 'never' },
  { value: '10', label: '1 in 10' },
  { value: '2', label: 'every other' },
  { value: '1', label: 'always' },
] as const;
const DELAYS = [
  { value: '0', label: 'at once' },
  { value: '60', label: 'a minute later' },
  { value: '3600', label: 'an hour later' },
] as const;

/** How the stand-in behaves: to see what becomes of a message when something goes wrong. */
function StandInControls({ view: { standIn } }: { view: OutboxView }) {
  const [open, setOpen] = useState(false);
  const [set] = useStandInMutation();
  const change = (part: Partial<StandIn>) => void set({ ...standIn, ...part });
  const works = !standIn.failsOneIn && !standIn.doublesOneIn && !standIn.delay;
  return (
    <View style={{ paddingHorizontal: 20, paddingBottom: 8 }}>
      <View style={{ alignItems: 'flex-start' }}>
        <WordLink
          label={works ? 'Try what happens when sending fails' : 'Sending fails now and then'}
          name={`${works ? 'Try what happens when sending fails' : 'Sending fails now and then'}: change how often`}
          expanded={open}
          onPress={() => setOpen(!open)}
        />
      </View>
      {open ? (
        <Card style={{ paddingVertical: 8 }}>
          <Words size={15} weight={600}>
            It fails
          </Words>
          <Choice
            label="How often it fails"
            options={ONE_IN}
            value={String(standIn.failsOneIn) as '0'}
            onChange={(value) => change({ failsOneIn: Number(value) })}
          />
          <Words size={15} weight={600}>
            It takes a message and loses its answer
          </Words>
          <Choice
            label="How often an answer is lost"
            options={ONE_IN}
            value={String(standIn.doublesOneIn) as '0'}
            onChange={(value) => change({ doublesOneIn: Number(value) })}
          />
          <Words size={15} weight={600}>
            What it takes arrives
          </Words>
          <Choice
            label="When it arrives"
            options={DELAYS}
            value={String(standIn.delay) as '0'}
            onChange={(value) => change({ delay: Number(value) })}
          />
        </Card>
      ) : null}
    </View>
  );
}
