import type { LocalDate, Settings } from '@back-again/core';
import type { Choice, Doubt } from '@back-again/core/reading';
import { useMemo } from 'react';
import { Pressable, View } from 'react-native';
import { Words, underline } from '../../ui/Words.tsx';
import { momentText, shortDate } from '../../ui/dates.ts';
import { useLook } from '../../ui/look.ts';
import { previewOf } from './preview.ts';
import { whenLate } from './whenLate.ts';

interface DoubtsProps {
  doubts: readonly Doubt[];
  settings: Settings;
  holidays: readonly LocalDate[];
  today: LocalDate;
  now: number;
  onChoose: (doubt: Doubt, choice: Choice) => void;
}

/** More questions at once than this are no help. */
const MOST_ASKED = 2;

/** What may be meant in another way: what was taken and what else, each with its next dates. */
export function Doubts({ doubts, ...rest }: DoubtsProps) {
  return doubts
    .slice(0, MOST_ASKED)
    .map((doubt) => <OneDoubt key={doubt.code} doubt={doubt} {...rest} />);
}

function OneDoubt({
  doubt,
  settings,
  holidays,
  today,
  now,
  onChoose,
}: Omit<DoubtsProps, 'doubts'> & { doubt: Doubt }) {
  const look = useLook();
  // Lives are played through for them: not again for each touch beside it.
  const dates = useMemo(
    () => doubt.choices.map((choice) => datesOf(doubt, choice, { settings, holidays, today, now })),
    [doubt, settings, holidays, today, now],
  );
  return (
    <View
      role="group"
      aria-label={`“${doubt.where}”: ${doubt.asks}`}
      testID={`doubt ${doubt.code}`}
      style={{
        borderLeftWidth: 4,
        borderLeftColor: look.slate,
        paddingLeft: 14,
        marginVertical: 4,
      }}
    >
      <Words size={15.5}>
        <Words size={15.5} weight={650}>{`“${doubt.where}”. `}</Words>
        {doubt.asks}
      </Words>
      {doubt.choices.map((choice, i) => {
        const shown = dates[i];
        return (
          <Pressable
            key={choice.words}
            role="button"
            aria-pressed={i === 0}
            aria-label={`${choice.words}${shown ? `: ${shown}` : ''}${i === 0 ? '. Taken for now' : ''}`}
            onPress={() => onChoose(doubt, choice)}
            style={{ minHeight: 52, justifyContent: 'center', paddingVertical: 4 }}
          >
            <View style={{ alignItems: 'flex-start' }}>
              <View
                style={[
                  underline(look),
                  i === 0 ? { borderBottomWidth: 4, borderBottomColor: look.ink } : null,
                ]}
              >
                <Words size={16} weight={650}>
                  {choice.words}
                </Words>
              </View>
              {i === 0 || shown ? (
                <Words size={14.5} tint="soft">
                  {[i === 0 ? 'Taken for now.' : '', shown].filter(Boolean).join(' ')}
                </Words>
              ) : null}
            </View>
          </Pressable>
        );
      })}
    </View>
  );
}

/** The next dates of a choice, in words; of what may be after it is finished, when it is back again. */
function datesOf(
  { code }: Doubt,
  { series }: Choice,
  { settings, holidays, today, now }: Pick<DoubtsProps, 'settings' | 'holidays' | 'today' | 'now'>,
): string {
  if (code === 'fixedOrAfter') {
    const { onTime, late, days } = whenLate(series, settings, holidays);
    if (onTime === null || late === null) return '';
    const on = shortDate(onTime, today);
    const after = `${days === 1 ? 'a day' : `${days} days`} late`;
    return onTime === late
      ? `Back again ${on}, also when done ${after}`
      : `Back again ${on}, or ${shortDate(late, today)} when done ${after}`;
  }
  // The words of a one-off say its date already.
  if (!series.repeat) return '';
  const dates = previewOf(series, settings, now, holidays)?.dates ?? [];
  return dates
    .slice(0, 2)
    .map(({ due }) => momentText(due, today))
    .join(', then ');
}
