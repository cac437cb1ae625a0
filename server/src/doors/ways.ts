import { randomUUID } from 'node:crypto';
import { CoreError, type Instant } from '@back-again/core';
import type { WayView } from '@back-again/contract/doors';
import { readyFor } from '../compute/compute.ts';
import type { Database } from '../db/database.ts';
import type { DoorRow } from '../db/models.ts';
import { act } from '../machine/act.ts';
import { catchUpAll } from '../machine/catchUp.ts';
import { findTodo, todoView } from '../machine/todo.ts';
import { stamp, type Actor } from '../machine/work.ts';
import { used } from './secrets.ts';

/** The way of its own of a to-do: what it would do, and doing it, for who has its address. */

const NO_WAY = () => new CoreError('door.none', '', 'There is nothing at this address.');

async function actorOf(db: Database, { userId }: DoorRow, now: Instant): Promise<Actor> {
  const user = await db.users.findByPk(userId);
  if (!user) throw NO_WAY();
  await readyFor(user.settings);
  return { userId, settings: user.settings, now, via: 'way' };
}

/** @throws CoreError `door.none` where its to-do was taken away */
export async function wayView(db: Database, door: DoorRow, now: Instant): Promise<WayView> {
  return viewFor(db, door, await actorOf(db, door, now));
}

async function viewFor(db: Database, door: DoorRow, actor: Actor): Promise<WayView> {
  const id = door.seriesId!;
  await catchUpAll(db, actor.userId, actor.settings, actor.now, [id]);
  const todo = await findTodo(db, actor, id).catch(() => {
    throw NO_WAY();
  });
  const view = await todoView(todo, actor.now);
  const [open] = view.open;
  const { next } = view;
  return {
    state: open ? 'open' : view.ended ? 'ended' : 'waits',
    title: view.series.title,
    due: open?.due ?? null,
    today: stamp(actor).today,
    next: next && { due: next.due, kind: next.kind },
  };
}

/**
 * Finishes the time that is open, the earliest first; with the same id it does so once. What waits has
 * nothing to be finished, and says when it comes back.
 * @throws CoreError `door.none`
 */
export async function finishByWay(
  db: Database,
  door: DoorRow,
  now: () => Instant,
  id: string = randomUUID(),
): Promise<{ userId: string; version: number | null; view: WayView }> {
  const actor = await actorOf(db, door, now());
  const { userId } = actor;
  const before = await viewFor(db, door, actor);
  const isAgain = await db.actions.findOne({ where: { userId, id } });
  if (before.state !== 'open' && !isAgain) return { userId, version: null, view: before };
  const todo = door.seriesId!;
  const isSoMany = await isQuota(db, actor, todo);
  const answer = await act(db, actor, now, { do: isSoMany ? 'tally' : 'done', id, todo });
  if (!isAgain) await used(db, door, actor.now, { counts: true });
  const after = await viewFor(db, door, { ...actor, now: now() });
  return {
    userId,
    version: answer.version,
    view: { ...after, state: 'done', due: isAgain ? null : before.due },
  };
}

async function isQuota(db: Database, actor: Actor, id: string): Promise<boolean> {
  const { progress } = await findTodo(db, actor, id);
  return progress.series.repeat?.by === 'quota';
}
