import { CoreError, isSameAbove, putAbove, takeDown, type Above } from '@back-again/core';
import { needPlace, noTime, type ActionOf, type OwnState } from '@back-again/contract';
import type { StepRow } from '../db/models.ts';
import { catchUpMany } from './catchUp.ts';
import { lock } from './lock.ts';
import { keptPlaces } from './places.ts';
import { say, unsay } from './saying.ts';
import { besideStep } from './steps.ts';
import type { Todo } from './todo.ts';
import { todayAt, upTo, type Work } from './work.ts';

/** What belongs to a person themselves: what they have in sight, and what is above all. */

export const ownState = ({ focus, focusAt, above }: Work['own'], version: number): OwnState => ({
  version,
  focus,
  focusAt: focusAt && focusAt.getTime(),
  above,
});

const FOCUS = { kind: 'focus' } as const;
type Focused = { focus: string | null };

export async function focus(work: Work, { place }: ActionOf<'focus'>): Promise<void> {
  const at = upTo(work);
  const { own, writing } = work;
  needPlace(place === null ? [] : await keptPlaces(work), place);
  const describedAt = own.focusAt?.getTime() ?? -Infinity;
  const it = { parts: { focus: own.focus }, describedAt, details: { focus: place }, at };
  const { parts, was } = await say<Focused>(work, FOCUS, it);
  const deed = { do: 'focus' as const, details: { focus: place } };
  writing.step(besideStep(work, { ...FOCUS, at, deed, was: was as Focused }));
  work.own = { ...own, ...parts, focusAt: new Date(Math.max(describedAt, at)) };
  writing.own(work.own);
}

/** Puts a time above all for the day on which that was done, or takes it down. */
export async function above(
  work: Work,
  { slot, on }: ActionOf<'above'>,
  todo: Todo,
): Promise<void> {
  const at = upTo(work);
  const it: Above = { day: todayAt(work, at), todo: todo.row.id, slot };
  const { own, writing } = work;
  const others = own.above.filter(({ day }) => day === it.day).map((one) => one.todo);
  const wanted = others.filter((id) => id !== it.todo);
  const { todos } = wanted.length
    ? await lock(work.db, work.userId, wanted, work.transaction, { mayBeMissing: true })
    : { todos: [] };
  await catchUpMany(work, [todo, ...todos], upTo(work));
  const isOpen = (one: Above) =>
    [todo, ...todos].some(
      ({ row, progress }) =>
        row.id === one.todo && progress.open.some((time) => time.slot === one.slot),
    );
  if (on && !isOpen(it)) throw noTime();
  const place = own.above.findIndex((one) => isSameAbove(one, it));
  set(work, it, on, isOpen);
  const deed = { do: 'above' as const, above: it, on, place };
  writing.step(besideStep(work, { kind: 'above', at, deed, was: null }));
}

function set(
  work: Work,
  it: Above,
  on: boolean,
  isOpen: (one: Above) => boolean,
  at?: number,
): void {
  const { own } = work;
  const above = on ? putAbove(own.above, it, isOpen, at) : takeDown(own.above, it);
  work.own = { ...own, above };
  work.writing.own(work.own);
}

/** Takes back what was said for the person in a step. */
export async function takeBackOwn(work: Work, step: StepRow): Promise<void> {
  if (step.kind === 'focus') {
    const parts = await unsay<Focused>(work, FOCUS, { focus: work.own.focus }, step);
    work.own = { ...work.own, ...parts };
    work.writing.own(work.own);
    return;
  }
  const { above: it, on, place } = step.deed as { above: Above; on: boolean; place: number };
  // It was so already, or was not.
  if (on ? place >= 0 : place < 0) return;
  try {
    set(work, it, !on, () => true, place);
  } catch (error) {
    // Others have taken its room since.
    if (!(error instanceof CoreError)) throw error;
  }
}
