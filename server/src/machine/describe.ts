import type { Details } from '@back-again/core';
import { heldBy, needPlace } from '@back-again/contract';
import type { StepRow } from '../db/models.ts';
import { catchUpMany } from './catchUp.ts';
import { doIfAny } from './doing.ts';
import { keptPlaces } from './heldPlaces.ts';
import { say, unsay } from './saying.ts';
import { stepRow } from './steps.ts';
import type { Todo } from './todo.ts';
import { doneAt, isPast, todayAt, upTo, type Work } from './work.ts';
import { besideOf } from './write.ts';

/** What to-dos are: said at a moment, and taken back. The machine is not asked about it. */

const aboutOf = ({ row }: Todo) => ({ kind: 'describe', seriesId: row.id }) as const;

/** Lets a to-do be as it is now said to be. */
async function settle(work: Work, todo: Todo, details: Details): Promise<void> {
  todo.details = details;
  if (!work.writing.stands(todo)) work.writing.stand(todo, await besideOf(todo, work.now()));
}

/** Says what a held to-do is; what was said of it later holds. */
export async function describeOne(
  work: Work,
  todo: Todo,
  details: Partial<Details>,
  { holds = true } = {},
): Promise<void> {
  const at = doneAt(work, todo);
  await refuseUnknown(work, details.place);
  const from = todo.details.place;
  const describedAt = todo.row.describedAt?.getTime() ?? -Infinity;
  const said = { parts: todo.details, describedAt, details, at };
  const { parts, was } = await say<Details>(work, aboutOf(todo), said);
  const deed = { do: 'describe' as const, details };
  work.writing.step(stepRow(work, todo, { kind: 'describe', at, deed, was }));
  todo.row.describedAt = new Date(Math.max(describedAt, at));
  if (isPast(todo, at)) countAgain(todo, details);
  await settle(work, todo, parts);
  if (holds) await holdOrLet(work, todo, from);
}

/** What has ended since counts by what was said of it then. */
function countAgain({ row }: Todo, said: Partial<Details>): void {
  if ('takes' in said || 'place' in said) row.countedAs = null;
}

async function refuseUnknown(work: Work, place: string | null | undefined): Promise<void> {
  if (typeof place === 'string') needPlace(await keptPlaces(work), place);
}

/** What comes to belong to a strand that rests is held; what leaves it goes on. */
async function holdOrLet(work: Work, todo: Todo, from: string | null): Promise<void> {
  const to = todo.details.place;
  if (from === to) return;
  const { failed } = await catchUpMany(work, [todo], upTo(work));
  if (failed.length || todo.row.ended) return;
  const places = await keptPlaces(work);
  const today = todayAt(work, doneAt(work, todo));
  const deed = heldBy(todo.progress.series, places, from, to, today);
  if (deed) await doIfAny(work, todo, deed);
}

/** Takes back what was said of a held to-do in a step. */
export async function undescribeOne(work: Work, todo: Todo, step: StepRow): Promise<void> {
  countAgain(todo, (step.was ?? {}) as Partial<Details>);
  await settle(work, todo, await unsay<Details>(work, aboutOf(todo), todo.details, step));
}
