import { shortDate, type LocalDate } from '@back-again/core';
import type { Proposal, Proposed } from '@back-again/core/planning';
import { useState } from 'react';
import { View } from 'react-native';
import Svg, { Line, Rect } from 'react-native-svg';
import { Action } from '../../ui/Action.tsx';
import { Choice, SomeOf } from '../../ui/Choice.tsx';
import { WordLink, Words } from '../../ui/Words.tsx';
import { useLook } from '../../ui/look.ts';
import { Framed } from './Framed.tsx';
import { minutesText } from '../../ui/dates.ts';
import { dayName, longDay } from '../../parts/time/words.ts';
import { rem } from '../../ui/rem.ts';

interface EvenPanelProps {
  proposal: Proposal;
  today: LocalDate;
  titleOf: (key: string) => string;
  /** Over how many days. */
  days: number;
  onDays: (days: number) => void;
  onTake: (moves: readonly Proposed[]) => void;
  onClose: () => void;
}

/** What would even out these days: each move with its reason, taken one by one or all. */
export function EvenPanel({
  proposal,
  today,
  titleOf,
  days,
  onDays,
  onTake,
  onClose,
}: EvenPanelProps) {
  const { moves, before } = proposal;
  const groups = [...new Set(moves.map(({ group }) => group))];
  const [left, setLeft] = useState<ReadonlySet<number>>(new Set());
  const toggle = (group: number) =>
    setLeft((was) => {
      const next = new Set(was);
      if (!next.delete(group)) next.add(group);
      return next;
    });
  const taken = moves.filter(({ group }) => !left.has(group));
  const after = before.map((day) => ({
    ...day,
    minutes: day.minutes + change(taken, day.date, proposal),
  }));
  const isMeasured = before.some(({ holds }) => holds !== null);
  return (
    <Framed label="Evening out">
      <Choice
        label="Over how long"
        options={SPANS}
        value={String(days)}
        onChange={(next) => onDays(Number(next))}
      />
      <Words size={16} weight={650}>
        {moves.length
          ? 'These would ease the days that hold too much.'
          : isMeasured
            ? 'Nothing needs to move: no move would ease a day.'
            : 'No day has a measure yet: say in Settings how much a day holds.'}
      </Words>
      {groups.map((group) => {
        const some = moves.filter((it) => it.group === group);
        const what = some.map(({ key, to }) => `${titleOf(key)} to ${shortDate(to, today)}`);
        const why = [...new Set(some.map((move) => reasonText(move, titleOf)))].join(' ');
        return (
          <View key={group}>
            <SomeOf
              label={`Whether it moves: ${what.join(' and ')}`}
              options={[{ value: String(group), label: what.join(' and ') }]}
              value={left.has(group) ? [] : [String(group)]}
              onToggle={() => toggle(group)}
            />
            <Words size={14} tint="soft">
              {why}
            </Words>
          </View>
        );
      })}
      {moves.length ? <Rulers before={before} after={after} /> : null}
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', alignItems: 'center', gap: 16 }}>
        {moves.length ? (
          <Action
            filled
            disabled={!taken.length}
            label={taken.length === moves.length ? 'Take them over' : `Take over ${taken.length}`}
            onPress={() => onTake(taken)}
          />
        ) : null}
        <WordLink label={moves.length ? 'Leave it as it is' : 'Close'} onPress={onClose} />
      </View>
    </Framed>
  );
}

const SPANS = [
  { value: '7', label: 'this week' },
  { value: '14', label: 'two weeks' },
  { value: '31', label: '31 days' },
];

/** Why a move is proposed: “Tuesday holds 120, has 185.” */
export function reasonText({ why, from }: Proposed, titleOf: (key: string) => string): string {
  const day = longDay(from).split(' ')[0]!;
  if (why.kind === 'over') return `${day} holds ${why.holds}, has ${why.has}.`;
  return `It makes room on ${day} for ${why.for.map(titleOf).join(' and ')}.`;
}

/** By how many minutes some moves change a day. */
function change(
  moves: readonly Proposed[],
  date: LocalDate,
  { takes }: Pick<Proposal, 'takes'>,
): number {
  return moves.reduce(
    (sum, { key, from, to }) =>
      sum + (to === date ? (takes[key] ?? 0) : 0) - (from === date ? (takes[key] ?? 0) : 0),
    0,
  );
}

/** How full the days are, before and after, with their measure. */
function Rulers({ before, after }: { before: Proposal['before']; after: Proposal['before'] }) {
  const look = useLook();
  const most = Math.max(60, ...before.map((it) => Math.max(it.minutes, it.holds ?? 0)));
  const x = (minutes: number) => (minutes / most) * 128;
  return (
    <View style={{ gap: 2, paddingVertical: 4 }}>
      {before.map((day, i) => {
        const now = after[i]!;
        const over = now.holds !== null && now.minutes > now.holds;
        return (
          <View
            key={day.date}
            style={{ flexDirection: 'row', alignItems: 'center', gap: 8, minHeight: 26 }}
          >
            <Words size={14} style={{ width: rem(54) }}>
              {dayName(day.date)}
            </Words>
            <Svg width={132} height={22} aria-hidden>
              <Rect x={0} y={4} width={x(day.minutes)} height={6} fill="none" stroke={look.track} />
              <Rect x={0} y={13} width={x(now.minutes)} height={6} fill={look.slate} />
              {day.holds === null ? null : (
                <Line
                  x1={x(day.holds)}
                  x2={x(day.holds)}
                  y1={0}
                  y2={22}
                  stroke={look.ink}
                  strokeWidth={2}
                />
              )}
            </Svg>
            <Words size={14} tint={over ? 'ink' : 'soft'} weight={over ? 700 : 400}>
              {day.minutes === now.minutes
                ? minutesText(day.minutes)
                : `${minutesText(day.minutes)}, then ${minutesText(now.minutes)}`}
            </Words>
          </View>
        );
      })}
    </View>
  );
}
