import { Op } from 'sequelize';
import { CoreError, formatInstant, type Instant } from '@back-again/core';
import type {
  MessageChannel,
  FinishView,
  MessageView,
  OutboxView,
  SaidRow,
  SaidView,
  StandIn,
} from '@back-again/contract';
import { WORKING } from '../outbox/standIn.ts';
import { readyFor } from '../compute/compute.ts';
import { act } from '../machine/act.ts';
import { stamp, type Actor } from '../machine/work.ts';
import { catchUpAll } from '../machine/catchUp.ts';
import type { Database } from '../db/database.ts';
import type { MessageRow, NoticeRow, OccurrenceRow, UserRow } from '../db/models.ts';
import { spokenOf } from './notices.ts';
import { findSeries, todoOf, todoView, todoViews, type Todo } from '../machine/todo.ts';
import { keyOf } from '../machine/endings.ts';
import { actionsOf } from '../todos/record.ts';

const DAY = 86_400_000;
/** How far back the list goes. */
const LIST_DAYS = 14;
const MOST_NOTICES = 400;
const MOST_MESSAGES = 100;

/** The list of what was said in the last fortnight: one row for each time, the newest first. */
export async function saidView(db: Database, actor: Actor, seenThrough: number): Promise<SaidView> {
  const { userId, settings, now } = actor;
  const notices = await db.notices.findAll({
    where: { userId, saidAt: { [Op.gt]: new Date(now - LIST_DAYS * DAY) } },
    order: [
      ['saidAt', 'DESC'],
      ['seq', 'DESC'],
    ],
    limit: MOST_NOTICES,
  });
  const groups = groupsOf(notices);
  const firsts = groups.map(([first]) => first!);
  const ids = [...new Set(firsts.flatMap(({ seriesId }) => (seriesId ? [seriesId] : [])))];
  const slots = [...new Set(firsts.flatMap(({ slot }) => (slot === null ? [] : [slot])))];
  await catchUpAll(db, userId, settings, now, ids);
  const series = await findSeries(db, userId, { id: ids, removedAt: null });
  const times = await db.occurrences.findAll({
    where: { userId, seriesId: ids, slot: slots },
    order: ['number'],
  });
  const messages = await db.messages.findAll({
    attributes: ['noticeId', 'channel', 'state'],
    where: { userId, noticeId: firsts.map(({ id }) => id) },
    order: ['channel'],
  });
  const todos = new Map(series.map((row) => [row.id, todoOf(row, settings)]));
  const views = await todoViews(todos.values(), now);
  const timeBySlot = new Map(times.map((row) => [`${row.seriesId} ${row.slot}`, row]));
  const actions = await actionsOf(
    db,
    userId,
    times.filter(({ status }) => status !== 'open'),
  );
  const rows: SaidRow[] = [];
  for (const [first, ...older] of groups) {
    const notice = first!;
    const sent = messages.filter(({ noticeId }) => noticeId === notice.id);
    const { seriesId } = notice;
    // What was removed is no longer spoken of.
    if (seriesId !== null && !todos.has(seriesId)) continue;
    const row = timeBySlot.get(`${seriesId} ${notice.slot}`) ?? null;
    rows.push({
      id: notice.id,
      seq: notice.seq,
      saidAt: formatInstant(notice.saidAt.getTime()),
      times: older.length + 1,
      browser: Boolean(notice.browser),
      sent: sent.map(({ channel, state }) => ({ channel, state })),
      overview: notice.overview,
      todo: seriesId === null ? null : views.get(seriesId)!,
      ...(await timePart(seriesId === null ? null : todos.get(seriesId)!, notice, row, now)),
      action: row && (actions.get(keyOf(row))?.id ?? null),
    });
  }
  return {
    ...stamp(actor),
    fresh: rows.filter(({ seq }) => seq > seenThrough).length,
    seenThrough,
    rows,
  };
}

/** Notices of one time together; each overview by itself. */
function groupsOf(notices: readonly NoticeRow[]): NoticeRow[][] {
  const groups = new Map<string, NoticeRow[]>();
  for (const it of notices) {
    const key = it.seriesId === null ? it.id : `${it.seriesId} ${it.slot}`;
    groups.set(key, [...(groups.get(key) ?? []), it]);
  }
  return [...groups.values()];
}

type TimePart = Pick<SaidRow, 'slot' | 'due' | 'time' | 'canAct' | 'later'>;

async function timePart(
  todo: Todo | null,
  notice: NoticeRow,
  row: OccurrenceRow | null,
  now: Instant,
): Promise<TimePart> {
  const { slot, due } = notice;
  const nothing = { slot, due, time: null, canAct: false, later: null };
  if (!todo) return nothing;
  const ended = row && row.status !== 'open' ? row : null;
  try {
    const standing = await spokenOf(todo, notice, ended, now);
    if (!standing) return nothing;
    const { time, canAct, later } = standing;
    return { slot, due: standing.due, time, canAct, later };
  } catch {
    // One that cannot be worked out says so in its view.
    return nothing;
  }
}

/** Keeps up to which notice the person has seen the list; never back. */
export async function markSeen(db: Database, user: UserRow, through: number): Promise<void> {
  const last = ((await db.notices.max('seq', { where: { userId: user.id } })) as number) ?? 0;
  const seenThrough = Math.min(through, last);
  await db.users.update(
    { seenThrough },
    { where: { id: user.id, seenThrough: { [Op.lt]: seenThrough } } },
  );
}

/** The outbox, the newest first, with what has arrived at the stand-in. */
export async function outboxView(
  db: Database,
  user: UserRow,
  actor: Actor,
  /** What leaves this program, and does not stay with the stand-in. */
  leaves: readonly MessageChannel[],
): Promise<OutboxView> {
  const { now } = actor;
  const messages = await db.messages.findAll({
    where: { userId: user.id },
    order: [
      ['decidedAt', 'DESC'],
      ['id', 'ASC'],
    ],
    limit: MOST_MESSAGES,
  });
  const arrivals = await db.arrivals.findAll({
    where: {
      userId: user.id,
      messageId: messages.map(({ id }) => id),
      arrivesAt: { [Op.lte]: new Date(now) },
    },
  });
  const byId = new Map(arrivals.map((it) => [it.messageId, it]));
  const instant = (date: Date | null) => date && formatInstant(date.getTime());
  return {
    ...stamp(actor),
    standIn: user.standIn ?? WORKING,
    leaves: [...leaves],
    messages: messages.map((it): MessageView => {
      const arrival = byId.get(it.id);
      return {
        id: it.id,
        channel: it.channel,
        address: (it.channel === 'email' ? user.name : user.settings.phone) ?? '',
        subject: it.subject,
        text: it.text,
        state: it.state,
        tries: it.tries,
        nextTryAt: instant(it.nextTryAt),
        decidedAt: instant(it.decidedAt)!,
        settledAt: instant(it.settledAt),
        why: it.why,
        arrived: arrival
          ? { at: instant(arrival.arrivesAt)!, text: arrival.text, copies: arrival.copies }
          : null,
      };
    }),
  };
}

export async function setStandIn(db: Database, user: UserRow, standIn: StandIn): Promise<void> {
  await db.users.update({ standIn }, { where: { id: user.id } });
}

/** A link as it was read: of which message, until when, and the id of the action that it takes. */
interface Link {
  messageId: string;
  actionId: string;
  expires: Instant;
}

const NO_LINK = () =>
  new CoreError('link.none', 'link', 'This link is about nothing that there is.');

/**
 * What a link in a message is about, and whose; it was found to be one of this installation.
 * @throws CoreError `link.none`
 */
async function linked(db: Database, { messageId }: Link, now: Instant) {
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

async function isOver(db: Database, link: Link, { userId, now }: Actor): Promise<boolean> {
  if (now >= link.expires) return true;
  return Boolean(await db.actions.findOne({ where: { userId, id: link.actionId } }));
}

/**
 * What a link that finishes a time would do; nothing but that it is over, where it was used or has
 * expired.
 * @throws CoreError `link.none` where its to-do was removed
 */
export async function finishView(db: Database, link: Link, now: Instant): Promise<FinishView> {
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
  link: Link,
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
