import { formatDay, parseInstant, type LocalDate } from '@back-again/core';
import { inDayOrder, type DayAhead, type DayInMonth, type Entry } from '@back-again/core/planning';
import { useMemo } from 'react';
import { useEndedQuery } from '../../data/api.ts';
import { useShown, type Shown } from '../../data/todos.ts';

/** Days with what ended on them, as the server has it: this device keeps what ended since yesterday alone. */
export function useWithEnded(shown: Shown, days: DayAhead[] | null): DayAhead[] | null {
  const { today, planner, stateOf } = shown;
  const from = days?.[0]?.date ?? today;
  const to = days?.at(-1)?.date ?? today;
  const isPast = days !== null && from < today;
  const { data } = useEndedQuery({ from, to: to < today ? to : today }, { skip: !isPast });
  return useMemo(() => {
    if (!days || !data) return days;
    const known = new Set(
      days.flatMap(({ entries }) => entries.map(({ todo, number }) => `${todo} ${number}`)),
    );
    const ended = data.ended.flatMap((it): Entry[] => {
      const { todo, slot, number, due, planAt, status } = it;
      const state = stateOf(todo);
      if (!state || known.has(`${todo} ${number}`)) return [];
      const closed = parseInstant(it.closedAt);
      const hasHour = planAt !== null || (due?.includes('T') ?? false);
      return [
        {
          todo,
          slot,
          number,
          nth: null,
          kind: status,
          day: formatDay(planner.clock.dayAt(status === 'missed' ? closed - 1 : closed)),
          at: hasHour && status === 'done' ? planner.clock.momentAt(closed).slice(11) : null,
          due,
          once: state.progress.series.repeat === null,
          byHand: false,
          takes: state.details.takes,
        },
      ];
    });
    return days.map((day) => {
      const more = ended.filter((entry) => entry.day === day.date);
      return more.length ? { ...day, entries: [...day.entries, ...more].sort(inDayOrder) } : day;
    });
  }, [days, data, planner, stateOf]);
}

/** The days of a month with how much ended on those that have gone by. */
export function useEndedDays(
  days: DayInMonth[] | null,
  first: LocalDate,
  today: LocalDate,
): DayInMonth[] | null {
  const { planner } = useShown();
  const isPast = days !== null && first < today;
  const { data } = useEndedQuery({ from: first, to: today }, { skip: !isPast });
  return useMemo(() => {
    if (!days || !data || !isPast) return days;
    const ended = new Map<LocalDate, number>();
    for (const { closedAt } of data.ended) {
      const day = formatDay(planner.clock.dayAt(parseInstant(closedAt)));
      ended.set(day, (ended.get(day) ?? 0) + 1);
    }
    return days.map((day) => ({ ...day, done: Math.max(day.done, ended.get(day.date) ?? 0) }));
  }, [days, data, isPast, planner]);
}
