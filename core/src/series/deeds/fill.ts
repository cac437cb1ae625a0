import type { LocalMoment } from '../../calendar/time.ts';
import type { Answer, Filled, StepText } from '../../definition/details.ts';
import { MOST_OF_TIME, checkFile, type KeptFile } from '../../definition/files.ts';
import { MOST_QUESTIONS, MOST_STEPS, checkStep } from '../../definition/whatChecks.ts';
import { CoreError } from '../../errors.ts';
import type { Occurrence, Progress } from '../life/progress.ts';
import { didTo, openOf, type Deed, type Doing, type WrittenDown } from './deeds.ts';

/** What stands with a time: it changes nothing about when it comes. */

export const MOST_NOTE = 2000;
const MOST_ANSWERS = 4 * MOST_QUESTIONS;

/** A deed that writes something down with a time, open or ended. */
const filling =
  <D extends 'note' | 'tick' | 'addStep' | 'answer' | 'file' | 'unfile'>(
    set: (time: Occurrence, it: Extract<Deed, { do: D }>, now: Progress) => void,
  ): Doing<D> =>
  (it, { now, past }) => {
    const { slot } = it as { slot?: LocalMoment };
    const open = openOf(now, slot);
    if (open) {
      const before = { ...open };
      set(open, it, now);
      return didTo(now, open, before);
    }
    const ended = slot === undefined ? undefined : past.findLast((time) => time.slot === slot);
    if (!ended) return null;
    const time = { ...ended };
    set(time, it, now);
    return didTo(now, time, ended, [time]);
  };

export const note = filling<'note'>((time, it) => setNote(time, it.note));
export const tick = filling<'tick'>((time, it) => setTick(time, it));
export const addStep = filling<'addStep'>((time, it) => setStep(time, it.step));
export const answer = filling<'answer'>((time, it, now) => writeDown(now, time, it));
export const file = filling<'file'>((time, it) => addFile(time, it.file));
export const unfile = filling<'unfile'>((time, it) =>
  setFilled(time, { files: (time.filled?.files ?? []).filter(({ id }) => id !== it.file) }),
);

/** Keeps the answers and the minutes that a deed says with a time. */
export function writeDown(now: Progress, time: Occurrence, it: WrittenDown): void {
  setAnswers(time, it);
  remember(now, time);
}

function setNote(time: Occurrence, note: string): void {
  const text = note.trim();
  if (text.length > MOST_NOTE)
    throw new CoreError('note.long', 'note', 'A note has 2,000 characters at most.');
  if (text) time.note = text;
  else delete time.note;
}

/** What stands with a time, with some of it anew; nothing is kept of what is empty. */
function setFilled(time: Occurrence, parts: Filled): void {
  const said = Object.entries({ ...time.filled, ...parts }).filter(
    ([, value]) => value !== undefined && (typeof value !== 'object' || Object.keys(value).length),
  );
  if (said.length) time.filled = Object.fromEntries(said) as Filled;
  else delete time.filled;
}

function setTick(time: Occurrence, { step, on }: { step: string; on: boolean }): void {
  const others = (time.filled?.ticks ?? []).filter((id) => id !== step);
  if (others.length >= 2 * MOST_STEPS)
    throw new CoreError('tick.many', 'step', 'There are not so many steps.');
  setFilled(time, { ticks: on ? [...others, step] : others });
}

function addFile(time: Occurrence, file: KeptFile): void {
  const others = (time.filled?.files ?? []).filter(({ id }) => id !== file.id);
  if (others.length >= MOST_OF_TIME)
    throw new CoreError('file.many', 'file', `One time has ${MOST_OF_TIME} files at most.`);
  setFilled(time, { files: [...others, checkFile(file)] });
}

function setStep(time: Occurrence, { id, text }: StepText): void {
  const added = time.filled?.added ?? [];
  const others = added.filter((step) => step.id !== id);
  if (!text.trim()) return setFilled(time, { added: others });
  const step = checkStep({ id, text }, 'step');
  if (others.length >= MOST_STEPS)
    throw new CoreError('step.many', 'step', `There are ${MOST_STEPS} steps at most.`);
  const isThere = added.some((it) => it.id === id);
  setFilled(time, {
    added: isThere ? added.map((it) => (it.id === id ? step : it)) : [...added, step],
  });
}

function setAnswers(time: Occurrence, { answers = {}, spent }: WrittenDown): void {
  const said = Object.entries({ ...time.filled?.answers, ...answers }).filter(
    ([, answer]) => answer !== null,
  );
  if (said.length > MOST_ANSWERS)
    throw new CoreError('answer.many', 'answers', 'There are not so many questions.');
  setFilled(time, {
    answers: Object.fromEntries(said) as Record<string, Answer>,
    ...(spent === undefined ? {} : { spent: spent ?? undefined }),
  } as Filled);
}

/** Keeps what was written down with the last two times: one stands beside the fields of the other. */
function remember(now: Progress, { number, filled: { answers, spent } = {} }: Occurrence): void {
  const others = (now.written ?? []).filter((it) => it.number !== number);
  const said = answers !== undefined || spent !== undefined;
  const it = {
    number,
    ...(answers ? { answers } : {}),
    ...(spent === undefined ? {} : { spent }),
  };
  const all = [...others, ...(said ? [it] : [])].sort((a, b) => a.number - b.number).slice(-2);
  if (all.length) now.written = all;
  else delete now.written;
}
