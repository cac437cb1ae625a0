import {
  CoreError,
  awake,
  clockOf,
  formatInstant,
  momentText,
  type Instant,
} from '@back-again/core';
import type { FinishView } from '@back-again/contract';
import type { PushedView } from '@back-again/contract/devices';
import { readyFor } from '../compute/compute.ts';
import type { Database } from '../db/database.ts';
import type { MessageRow } from '../db/models.ts';
import type { Opened } from '../finish/links.ts';
import { act } from '../machine/act.ts';
import { catchUpAll } from '../machine/catchUp.ts';
import { findSeries, todoOf, todoView } from '../machine/todo.ts';
import { stamp, type Actor } from '../machine/work.ts';
import { timePart } from './view.ts';

/** What a message lets whoever has it do to the time that it is about, without a session. */

const NO_LINK = () =>
  new CoreError('link.none', 'link', 'This link is about nothing that there is.');

/**
 * What a link in a message is about, and whose; it was found to be one of this installation.
 * @throws CoreError `link.none`
 */
async function linked(db: Database, { messageId }: Opened, now: Instant) {
  const message: MessageRow | null = await db.messages.findByPk(messageId);
  const notice = message && (await db.notices.findOne({ where: { id: message.noticeId } }));
  const user = notice && (await db.users.findByPk(notice.userId));
  if (!notice?.seriesId || !user) throw NO_LINK();
  await readyFor(user.settings);
  const actor: Actor = { userId: user.id, settings: user.settings, now };
  return { notice, seriesId: notice.seriesId, actor };
}

/** A link that was used, or has expired: it says nothing of whom or what it was about. */
const over = (now: Instant): FinishView => ({
  state: 'over',
  title: '',
  due: null,
  today: formatInstant(now).slice(0, 10),
  next: null,
});

/** How what a link is about stands now. */
async function aboutOf(
  db: Database,
  { notice, seriesId, actor }: Awaited<ReturnType<typeof linked>>,
): Promise<FinishView> {
  const { userId, settings, now } = actor;
  await catchUpAll(db, userId, settings, now, [seriesId]);
  const [row] = await findSeries(db, userId, { id: seriesId, removedAt: null });
  if (!row) throw NO_LINK();
  const todo = todoOf(row, settings);
  const { canAct, due } = await timePart(todo, notice, null, now);
  const view = await todoView(todo, now);
  const open = view.open[0];
  return {
    state: canAct ? 'open' : 'ended',
    title: view.series.title,
    due,
    today: stamp(actor).today,
    next: open?.due ? { slot: open.slot, due: open.due, kind: 'firm' } : view.next,
  };
}

async function isOver(db: Database, link: Opened, { userId, now }: Actor): Promise<boolean> {
  if (now >= link.expires) return true;
  return Boolean(await db.actions.findOne({ where: { userId, id: link.actionId } }));
}

/**
 * What a link that finishes a time would do; nothing but that it is over, where it was used or has
 * expired.
 * @throws CoreError `link.none` where its to-do was removed
 */
export async function finishView(db: Database, link: Opened, now: Instant): Promise<FinishView> {
  const found = await linked(db, link, now);
  if (await isOver(db, link, found.actor)) return over(now);
  return { ...(await aboutOf(db, found)), next: null };
}

/**
 * Finishes the time that a link is about, once: its action has an id that nobody else can give. Gives
 * whose to-do it was, and what became of it.
 * @throws CoreError `link.none`
 */
export async function finishByLink(
  db: Database,
  link: Opened,
  now: () => Instant,
): Promise<{ userId: string; version: number | null; view: FinishView }> {
  const found = await linked(db, link, now());
  const { notice, seriesId, actor } = found;
  const { userId } = actor;
  const version = null;
  if (await isOver(db, link, actor)) return { userId, version, view: over(actor.now) };
  const before = await aboutOf(db, found);
  if (before.state !== 'open') return { userId, version, view: { ...before, next: null } };
  const done = { do: 'done', id: link.actionId, todo: seriesId, slot: notice.slot! } as const;
  const answer = await act(db, actor, now, done);
  return {
    userId,
    version: answer.version,
    view: { ...(await aboutOf(db, found)), state: 'done', due: before.due },
  };
}

/** For how long *Later* puts a reminder off, in milliseconds. */
const HOUR = 3_600_000;

/**
 * What was touched in a notification of a device, once each: the time is finished, or put off by an hour. Gives
 * whose to-do it was, and what became of it in words, as there is nothing else to see.
 * @throws CoreError `link.none`
 */
export async function touchedByLink(
  db: Database,
  link: Opened,
  deed: 'done' | 'later',
  now: () => Instant,
): Promise<{ userId: string; version: number | null; view: PushedView }> {
  if (deed === 'later') return laterByLink(db, link, now);
  const { view, ...rest } = await finishByLink(db, link, now);
  return { ...rest, view: { words: wordsOf(view) } };
}

/** What became of a time that was finished, for where the page is not at hand. */
function wordsOf({ state, next, today }: FinishView): string {
  switch (state) {
    case 'done':
      return `Done.${next ? ` Back again ${momentText(next.due, today, true)}.` : ''}`;
    case 'over':
      return 'It was done from here already, or this is older than a week.';
    case 'open':
    case 'ended':
      return 'It was done, skipped or moved meanwhile: nothing was changed.';
  }
}

async function laterByLink(db: Database, link: Opened, now: () => Instant) {
  const found = await linked(db, link, now());
  const { notice, seriesId, actor } = found;
  const { userId, settings } = actor;
  const nothing = (words: string) => ({ userId, version: null, view: { words } });
  if (actor.now >= link.expires) return nothing(wordsOf(over(actor.now)));
  const before = await aboutOf(db, found);
  if (before.state !== 'open') return nothing(wordsOf(before));
  const to = formatInstant(actor.now + HOUR);
  const id = link.laterId;
  const answer = await act(db, actor, now, {
    do: 'later',
    id,
    todo: seriesId,
    slot: notice.slot!,
    to,
  });
  const clock = clockOf(settings);
  const said = clock.momentAt(awake(clock, settings, actor.now + HOUR));
  const words = `Said again ${momentText(said, stamp(actor).today, true)}.`;
  return { userId, version: answer.version, view: { words } };
}
