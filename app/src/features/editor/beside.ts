import type { Definition, Question, StepText } from '@back-again/core';

/**
 * Parts that are lists and long texts: what was written of them in the sentence is theirs, until a
 * control changes it; from then on they stand beside the sentence.
 */

export const BESIDE = ['steps', 'questions', 'note'] as const;
export type Beside = Pick<Definition, (typeof BESIDE)[number]>;

/** A definition without what stands beside the sentence. */
export function withoutBeside(series: Definition): Definition {
  const { steps: _steps, questions: _questions, note: _note, ...rest } = series;
  return rest;
}

export const besideOf = ({ steps, questions, note }: Definition): Beside => ({
  ...(steps ? { steps } : {}),
  ...(questions ? { questions } : {}),
  ...(note ? { note } : {}),
});

/** What is read and what stands beside it, as one; an empty list beside it is none. */
export function withBeside(series: Definition, beside: Beside): Definition {
  const said = Object.entries({ ...besideOf(series), ...beside }).filter(([, it]) => it.length);
  return { ...withoutBeside(series), ...(Object.fromEntries(said) as Beside) };
}

/** What stands beside the sentence once a control has made `next` of a definition. */
export function besideAfter(before: Definition, next: Definition, beside: Beside): Beside {
  const after: Record<string, unknown> = { ...beside };
  for (const part of BESIDE)
    if (JSON.stringify(before[part]) !== JSON.stringify(next[part]))
      after[part] = next[part] ?? (part === 'note' ? '' : []);
  return after as Beside;
}

/** What is to be written in the sentence: all but what stands beside it. */
export function textOf(next: Definition, beside: Beside): Definition {
  const { steps, questions, note: _note, ...rest } = next;
  return {
    ...rest,
    ...(steps && !beside.steps ? { steps } : {}),
    ...(questions && !beside.questions ? { questions } : {}),
  };
}

/**
 * Steps and questions with ids that stay: those of the same words as before keep theirs, so that ticks and
 * answers stay with them.
 */
export function withIds(
  series: Definition,
  before: Definition | null,
  makeId: () => string,
): Definition {
  const { steps, questions } = series;
  return {
    ...series,
    ...(steps
      ? { steps: named<StepText>(steps, before?.steps ?? [], ({ text }) => text, makeId) }
      : {}),
    ...(questions
      ? {
          questions: named<Question>(
            questions,
            before?.questions ?? [],
            ({ asks }) => asks,
            makeId,
          ),
        }
      : {}),
  };
}

function named<T extends { id: string }>(
  now: readonly T[],
  before: readonly T[],
  wordsOf: (it: T) => string,
  makeId: () => string,
): T[] {
  const taken = new Set<string>();
  return now.map((it) => {
    const same =
      before.find(({ id }) => id === it.id && id.length > 3) ??
      before.find((other) => wordsOf(other) === wordsOf(it) && !taken.has(other.id));
    const id = same?.id ?? makeId();
    taken.add(id);
    return { ...it, id };
  });
}
