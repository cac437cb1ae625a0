import type { Transaction } from 'sequelize';
import {
  clockOf,
  formatDay,
  formatInstant,
  type Instant,
  type LocalDate,
  type Settings,
} from '@back-again/core';
import type { Database } from '../db/database.ts';
import type { Todo } from './todo.ts';
import type { Own } from './lock.ts';
import type { Writing } from './write.ts';
import type { ActionRow, PlaceRow } from '../db/models.ts';

/** Who acts, by which settings. */
export interface Person {
  userId: string;
  settings: Settings;
  /** By what they act, where that is no window of the app. */
  via?: ActionRow['via'];
}

/** Who looks, and when. */
export interface Actor extends Person {
  now: Instant;
}

/** When it is for who looks: the instant, and their day. */
export const stamp = ({ settings, now }: Actor) => ({
  now: formatInstant(now),
  today: formatDay(clockOf(settings).dayAt(now)),
});

/** What everything in one action shares. */
export interface Work extends Person {
  /** The server’s time; the moment of a step is read from it under the lock of its to-do. */
  now: () => Instant;
  /** When the person did it, where that was before; null: now. */
  at: Instant | null;
  db: Database;
  transaction: Transaction;
  /** The id and the running number of the action. */
  id: string;
  actionSeq: number;
  /** The person’s version with this action. */
  version: number;
  writing: Writing;
  /** What belongs to the person themselves. */
  own: Own;
  /** Their places, once they are asked for. */
  places: Map<string, PlaceRow> | null;
}

/** Up to when a to-do catches up before something is done to it. */
export const upTo = (work: Work): Instant => work.at ?? work.now();

/** The person’s day at an instant. */
export const todayAt = ({ settings }: Work, at: Instant): LocalDate =>
  formatDay(clockOf(settings).dayAt(at));

/** The moment of what happens to a locked to-do now: never before what has happened to it already. */
export const momentOf = (work: Work, { progress }: Todo): Instant =>
  Math.max(work.now(), progress.through ?? -Infinity);

/** The moment at which something is done to a locked to-do: never before it was made. */
export const doneAt = (work: Work, todo: Todo): Instant =>
  work.at === null ? momentOf(work, todo) : Math.max(work.at, todo.row.createdAt.getTime());

/** Whether a moment lies before what has happened to a to-do already: then it is entered there. */
export const isPast = ({ progress }: Todo, at: Instant) => at < (progress.through ?? -Infinity);
