import { MOST_ABOVE, isSameAbove, putAbove, takeDown, type Above } from '@back-again/core';
import {
  bundlesAfter,
  needPlace,
  noTime,
  type ActionOf,
  type KeptBundle,
  type OwnState,
} from '@back-again/contract';
import type { BundleDeed, PutDeed, StepRow, UserRow } from '../db/models.ts';
import { catchUpMany } from './catchUp.ts';
import { lock } from './lock.ts';
import { keptPlaces } from './heldPlaces.ts';
import { say, unsay } from './saying.ts';
import { besideStep } from './steps.ts';
import type { Todo } from './todo.ts';
import { todayAt, upTo, type Work } from './work.ts';

/** What belongs to a person themselves: what they have in sight, and what is above all. */

export const ownState = (
  { focus, focusAt, above, bundles }: Work['own'],
  version: number,
): OwnState => ({
  version,
  focus,
  focusAt: focusAt && focusAt.getTime(),
  above,
  ...(bundles.length ? { bundles } : {}),
});

/** The same, of a person as they are kept. */
export const ownStateOf = (row: UserRow): OwnState =>
  ownState({ ...row, above: row.above ?? [], bundles: row.bundles ?? [] }, row.ownVersion);

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
  const after = on ? putAbove(own.above, it, isOpen) : takeDown(own.above, it);
  const deed: PutDeed = {
    do: 'above',
    above: it,
    on,
    place: own.above.findIndex((one) => isSameAbove(one, it)),
    gone: on ? own.above.filter((one) => !after.includes(one)) : [],
    beside: ofDay(after, it).length,
  };
  if (!isSoBefore(deed)) setAbove(work, after);
  writing.step(besideStep(work, { kind: 'above', at, deed, was: null }));
}

/** Whether putting it there, or taking it down, changes nothing. */
const isSoBefore = ({ on, place }: PutDeed) => (on ? place >= 0 : place < 0);

const ofDay = (above: Above[], { day }: Above) => above.filter((one) => one.day === day);

function setAbove(work: Work, above: Above[]): void {
  work.own = { ...work.own, above };
  work.writing.own(work.own);
}

/** The list as it was before something was put above all or taken down. */
function aboveBefore(now: Above[], { above: it, on, place, gone, beside }: PutDeed) {
  if (on) return [...gone, ...takeDown(now, it)];
  const others = ofDay(now, it).length;
  // Others have taken its room since, or it is there again.
  if (others > beside && (others >= MOST_ABOVE || now.some((one) => isSameAbove(one, it))))
    return now;
  return [...now.slice(0, place), it, ...now.slice(place)];
}

/** Writes a bundle anew, or takes it away; what was said of it later holds. */
export function bundle(work: Work, action: ActionOf<'bundle'>): void {
  const at = upTo(work);
  const { bundles } = work.own;
  const of = (all: readonly KeptBundle[]) => all.find(({ id }) => id === action.bundle) ?? null;
  const after = bundlesAfter(bundles, action, at);
  const deed: BundleDeed = {
    do: 'bundle',
    id: action.bundle,
    was: of(bundles),
    now: after ? of(after) : of(bundles),
  };
  if (after) setBundles(work, after);
  work.writing.step(besideStep(work, { kind: 'bundle', at, deed, was: null }));
}

function setBundles(work: Work, bundles: KeptBundle[]): void {
  work.own = { ...work.own, bundles };
  work.writing.own(work.own);
}

/** The bundles as they were before one was written; as they are, where it was written since. */
function bundlesBefore(all: KeptBundle[], { id, was, now }: BundleDeed): KeptBundle[] {
  const there = all.find((it) => it.id === id) ?? null;
  if (JSON.stringify(there) !== JSON.stringify(now) || JSON.stringify(was) === JSON.stringify(now))
    return all;
  if (there === null) return was === null ? all : [...all, was];
  return all.flatMap((it) => (it !== there ? [it] : was === null ? [] : [was]));
}

/** Takes back what was said for the person in a step. */
export async function takeBackOwn(work: Work, step: StepRow): Promise<void> {
  if (step.kind === 'focus') {
    const parts = await unsay<Focused>(work, FOCUS, { focus: work.own.focus }, step);
    work.own = { ...work.own, ...parts };
    work.writing.own(work.own);
    return;
  }
  if (step.kind === 'bundle') {
    const after = bundlesBefore(work.own.bundles, step.deed as BundleDeed);
    if (after !== work.own.bundles) setBundles(work, after);
    return;
  }
  const put = step.deed as PutDeed;
  if (!isSoBefore(put)) setAbove(work, aboveBefore(work.own.above, put));
}
