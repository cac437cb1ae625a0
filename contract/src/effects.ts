import {
  CoreError,
  checkAnswer,
  madeBy,
  type Answer,
  type Deed,
  type Details,
  type Instant,
  type Made,
  type PersonalClock,
  type Progress,
} from '@back-again/core';
import { MOST_BUNDLES, checkBundle } from '@back-again/core/bundles';
import type { ActionOf } from './schemas.ts';
import type { KeptBundle } from './views.ts';

/** What is no part of a deed: whose it is, and when. */
const ABOUT = ['id', 'todo', 'todos', 'when', 'at', 'details', 'left'];

/** What an action does to each to-do that it is about, as a step of the machine; null where there is none. */
export function deedOf(action: ActionOf<Deed['do']>): Deed | null {
  if (action.do === 'change' && action.series === undefined) return null;
  const parts = Object.entries(action).filter(
    ([key, value]) => !ABOUT.includes(key) && value !== undefined,
  );
  return Object.fromEntries(parts) as unknown as Deed;
}

type MoveDeed = Extract<Deed, { do: 'move' }>;

/** The moves of several times, each as what is done to its to-do. */
export const arranged = ({ id, moves }: ActionOf<'arrange'>): { todo: string; deed: MoveDeed }[] =>
  moves.map((move) => ({
    todo: move.todo,
    deed: deedOf({ do: 'move', id, ...move }) as MoveDeed,
  }));

/**
 * The to-dos that a time makes as it is finished; none where nothing was.
 * @param before the to-do as it stood just before
 * @param at when it was finished
 */
export function madeByDone(
  clock: PersonalClock,
  action: ActionOf<'done' | 'tally'>,
  before: { progress: Progress; details: Details },
  after: Progress,
  at: Instant,
): Made[] {
  const { progress, details } = before;
  if (after.done <= progress.done) return [];
  const { slot } = action;
  const time = slot === undefined ? progress.open[0] : progress.open.find((it) => it.slot === slot);
  const left = 'left' in action ? action.left : undefined;
  return madeBy(clock, action.id, { details, time: time ?? {}, at, left });
}

/**
 * Checks answers against the questions of a to-do; one to a question that is no more is kept as it is.
 * @throws CoreError `answer.…`
 */
export function answersFit(
  { questions }: Pick<Details, 'questions'>,
  answers: Readonly<Record<string, Answer | null>>,
): void {
  for (const question of questions) {
    const answer = answers[question.id];
    if (answer !== undefined) checkAnswer(question, answer);
  }
}

/** What is said of a to-do by what is said of several: a tag is put to those that it has, once. */
export const saidOf = (
  { details, tag }: ActionOf<'describe'>,
  { tags }: Pick<Details, 'tags'>,
): Partial<Details> => (tag === undefined ? details : { ...details, tags: [...tags, tag] });

/**
 * The bundles of a person with one written anew, or taken away; null where what was said of it later holds.
 * @throws CoreError `bundle.many`
 */
export function bundlesAfter(
  bundles: readonly KeptBundle[],
  { bundle: id, has }: Pick<ActionOf<'bundle'>, 'bundle' | 'has'>,
  at: Instant,
): KeptBundle[] | null {
  const there = bundles.find((it) => it.id === id);
  if (there && at < there.at) return null;
  if (has === null) return bundles.filter((it) => it !== there);
  const now: KeptBundle = { ...checkBundle(has), id, at };
  if (there) return bundles.map((it) => (it === there ? now : it));
  if (bundles.length >= MOST_BUNDLES)
    throw new CoreError('bundle.many', 'bundle', `There are ${MOST_BUNDLES} bundles at most.`);
  return [...bundles, now];
}
