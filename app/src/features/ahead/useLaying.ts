import type { KeptBundle, TodoState } from '@back-again/contract';
import {
  MOST_ITEMS,
  layingOf,
  type Bundle,
  type BundleItem,
  type Laying,
} from '@back-again/core/bundles';
import {
  parseDay,
  shortDate,
  weekdayIndex,
  type FromBundle,
  type LocalDate,
} from '@back-again/core';
import { useState } from 'react';
import type { Draft } from '../../data/act.ts';
import { newId } from '../../data/ids.ts';
import type { Shown } from '../../data/todos.ts';
import { later, monthDays } from '../../ui/span.ts';
import type { Saying, Standing } from '../../parts/time/moving.ts';

/** What is proposed of a bundle until it is kept. */
interface Proposed {
  name: string;
  all: Laying[];
  /** How many of it lie there already. */
  there: number;
}

const MARK = 'laying ';

/** Laying a bundle in: it stands on its days as a proposal, is carried about, and is kept at one go. */
export function useLaying(
  shown: Shown,
  does: (draft: Draft, words: string) => boolean,
  say: (words: string) => void,
) {
  const [proposed, setProposed] = useState<Proposed | null>(null);

  /** Proposes a bundle for the week that begins on a day, or for its month; says what lies there already. */
  function lay(bundle: KeptBundle, week: LocalDate): void {
    const span =
      bundle.per === 'week' ? { first: week, last: later(week, 6) } : monthDays(later(week, 3));
    const there = shown
      .all()
      .flatMap(({ details }) => (details.bundle?.id === bundle.id ? [details.bundle] : []))
      .filter(({ on }) => on === span.first);
    const all = layingOf(bundle, span, there);
    if (!all.length) {
      setProposed(null);
      say(`${bundle.name} lies in this ${bundle.per} already.`);
      return;
    }
    setProposed({ name: bundle.name, all, there: there.length });
  }

  const nameOf = (from: FromBundle) => `${MARK}${from.item} ${from.nth}`;
  const isOne = (name: string) => name.startsWith(MARK);

  /** What is proposed, as it stands on its days. */
  const standing: Standing[] = (proposed?.all ?? []).map(({ from, day, details }) => ({
    todo: nameOf(from),
    slot: day,
    number: null,
    nth: null,
    kind: 'firm',
    day,
    at: null,
    due: day,
    once: true,
    byHand: false,
    takes: details.takes,
  }));

  const one = (name: string) => proposed?.all.find(({ from }) => nameOf(from) === name);
  const dayOf = (name: string): LocalDate | null => one(name)?.day ?? null;
  const titleOf = (name: string): string => one(name)?.title ?? '';

  /** What putting one of it on another day would do. */
  function moveOf(name: string, day: LocalDate): Saying {
    if (day === dayOf(name)) return null;
    const on = shortDate(day, shown.today);
    if (day < shown.today) return { refused: `${on} has gone by.` };
    return { words: `to ${on}` };
  }

  function put(name: string, day: LocalDate): void {
    if (day < shown.today) return say(`${shortDate(day, shown.today)} has gone by.`);
    setProposed(
      (now) =>
        now && {
          ...now,
          all: now.all.map((it) => (nameOf(it.from) === name ? { ...it, day } : it)),
        },
    );
  }

  /** Keeps all of it, as one action. */
  function keep(): void {
    if (!proposed) return;
    const { name, all } = proposed;
    const made = all.map(({ day, details }) => ({
      todo: newId(),
      series: { start: day, repeat: null },
      details,
    }));
    const count = made.length === 1 ? 'One is' : `${made.length} are`;
    if (does({ do: 'createAll', made }, `${name}: ${count.toLowerCase()} laid in.`))
      setProposed(null);
  }

  return {
    proposed,
    standing,
    isOne,
    dayOf,
    titleOf,
    moveOf,
    put,
    lay,
    keep,
    leave: () => setProposed(null),
  };
}

/** A bundle made of to-dos: each on the day of the week for which it is planned. */
export function bundleOf(todos: readonly TodoState[]): Omit<Bundle, 'id'> {
  const items = todos.map(({ details, progress, nextDue }): BundleItem => {
    const day = progress.open[0]?.plan ?? nextDue?.slice(0, 10) ?? progress.series.start;
    return {
      key: newId(),
      title: details.title,
      days: [day === null || day === undefined ? 0 : weekdayIndex(parseDay(day))],
      takes: details.takes,
      note: details.note,
      steps: details.steps,
      questions: details.questions,
    };
  });
  return { name: '', per: 'week', items: items.slice(0, MOST_ITEMS) };
}

/** The to-dos that come once alone and stand on some days. */
export function onceAmong(
  todos: readonly TodoState[],
  entries: readonly { todo: string; once: boolean }[],
): TodoState[] {
  const ids = new Set(entries.filter(({ once }) => once).map(({ todo }) => todo));
  return todos.filter(({ id }) => ids.has(id));
}
