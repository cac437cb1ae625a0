import type { PastTodoView } from '@back-again/contract/past';
import { parseDay, shortDate, type LocalDate, type Series, type Span } from '@back-again/core';
import { intervalOf, replay, withInterval, type Replayed } from '@back-again/core/past';
import { useState } from 'react';
import { View } from 'react-native';
import type { useLast } from '../../data/act.ts';
import type { Shown } from '../../data/todos.ts';
import { Action } from '../../ui/Action.tsx';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';
import { useLook } from '../../ui/look.ts';
import { everyText, intervalText, lateText } from './words.ts';

interface InsteadProps {
  view: PastTodoView;
  shown: Shown;
  did: ReturnType<typeof useLast>['did'];
}

/**
 * The other interval that a to-do really has: tried out on the days on which it was done before it is made so,
 * or let be for good.
 */
export function Instead({ view, shown, did }: InsteadProps) {
  const [isTrying, setTrying] = useState(false);
  const { todo, insight } = view;
  const { instead } = insight;
  const state = shown.stateOf(todo);
  // As it stands here, with what waits: the server may not have heard of it yet.
  const series = state?.progress.series;
  const declined = state?.details.declined ?? [];
  const meant = series ? intervalOf(series) : null;
  const isSame = JSON.stringify(series?.repeat) === JSON.stringify(view.series.repeat);
  if (!state || state.over || !series || !meant || !isSame) return null;
  if (!instead || declined.includes(instead)) return null;
  const span = everyText(instead);
  const decline = () =>
    void did(
      { do: 'describe', todos: [todo], details: { declined: [...declined, instead] } },
      `${view.title} stays at ${intervalText(meant)}: ${span} are not offered again.`,
    );
  const make = () =>
    void did(
      { do: 'change', todo, ...changeTo(shown, todo, series, instead) },
      `${view.title} comes back every ${span} from the next time on.`,
    );
  return (
    <View style={{ gap: 4 }}>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 20 }}>
        <WordLink
          label={`Make it ${span}`}
          size={16}
          expanded={isTrying}
          onPress={() => setTrying(true)}
        />
        <WordLink
          label="Try it out"
          size={16}
          expanded={isTrying}
          onPress={() => setTrying(!isTrying)}
        />
        <WordLink label="Leave it so" size={16} onPress={decline} />
      </View>
      {isTrying ? (
        <Tried
          view={view}
          shown={shown}
          series={series}
          instead={instead}
          onMake={make}
          onDecline={decline}
        />
      ) : null}
    </View>
  );
}

/**
 * The change from the next time on: by the calendar from the day on which that is due, so that it stays where
 * it is; with a count in the rule from where it began, which it goes on from.
 */
function changeTo(shown: Shown, todo: string, series: Series, every: Span) {
  const repeat = withInterval(series.repeat, every);
  const next = shown.viewOf(todo)?.next;
  if (series.repeat?.by !== 'calendar' || !next) return { series: { repeat } };
  const hasCount = 'rule' in series.repeat && /COUNT=/iu.test(series.repeat.rule);
  const start = next.due.slice(0, 10);
  return { slot: next.slot, series: hasCount ? { repeat } : { start, repeat } };
}

const MOST_TRIED = 10;

interface TriedProps {
  view: PastTodoView;
  shown: Shown;
  series: Series;
  instead: Span;
  onMake: () => void;
  onDecline: () => void;
}

/** Both ways side by side, on the days on which it really was done. */
function Tried({ view, shown, series, instead, onMake, onDecline }: TriedProps) {
  const { trail, today } = view;
  const meant = intervalOf(series)!;
  const doneOn = trail
    .flatMap(({ doneOn: day }) => (day === null ? [] : [parseDay(day)]))
    .sort((a, b) => a - b)
    .slice(-MOST_TRIED - 1);
  const ways = [
    { every: intervalText(meant), says: 'as it is now', repeat: series.repeat },
    { every: everyText(instead), says: 'instead', repeat: withInterval(series.repeat, instead) },
  ];
  return (
    <View role="region" aria-label="Try it out" style={{ gap: 8 }}>
      <Words size={15} tint="soft">
        How late it would have been, done on the days on which you did it:
      </Words>
      <View style={{ flexDirection: 'row', gap: 16 }}>
        {ways.map(({ every, says, repeat }) => (
          <Way
            key={says}
            every={every}
            says={says}
            times={replay(shown.planner, { ...series, repeat }, doneOn)}
            today={today}
          />
        ))}
      </View>
      <View style={{ flexDirection: 'row', gap: 8 }}>
        <Action
          filled
          label={`Make it ${everyText(instead)}`}
          name={`Make it so: every ${everyText(instead)}`}
          onPress={onMake}
        />
        <Action label="Leave it so" name="Leave it so, as it is now" onPress={onDecline} />
      </View>
    </View>
  );
}

function Way({
  every,
  says,
  times,
  today,
}: {
  every: string;
  says: string;
  times: Replayed[];
  today: LocalDate;
}) {
  const look = useLook();
  const isNow = says === 'as it is now';
  const late = times.filter((time) => time.late > 0).length;
  return (
    <View
      role="group"
      aria-label={`Every ${every}, ${says}`}
      style={{
        flex: 1,
        borderTopWidth: isNow ? 3 : 1,
        borderTopColor: isNow ? look.ink : look.track,
        paddingTop: 6,
      }}
    >
      <Heading level={3} size={16}>{`Every ${every}`}</Heading>
      <Words size={14.5} tint="soft">{`${says}: ${late} of ${times.length} late`}</Words>
      {times.toReversed().map((time, i) => (
        <Words key={`${time.doneOn} ${i}`} size={14.5}>
          {`${shortDate(time.doneOn, today)}: `}
          <Words size={14.5} weight={650} tint={time.late > 0 ? 'late' : 'moss'}>
            {lateText(time.late)}
          </Words>
        </Words>
      ))}
    </View>
  );
}
