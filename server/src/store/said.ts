import { Op } from 'sequelize';
import { CoreError, advance, formatInstant, type Instant } from '@back-again/core';
import type {
  FinishView,
  MessageView,
  OutboxView,
  SaidRow,
  SaidView,
  StandIn,
} from '@back-again/contract';
import { WORKING } from '../delivery/standIn.ts';
import { act, type Actor } from './actions.ts';
import type { Database } from './database.ts';
import type { MessageRow, NoticeRow, OccurrenceRow, UserRow } from './models.ts';
import { stillHolds } from './notices.ts';
import { findSeries, laterOf, timeOf, timeView, todoOf, todoView, type Todo } from './todos.ts';
import { actionsOf, caughtUp, keyOf, stamp } from './views.ts';

const DAY = 86_400_000;
/** How far back the list goes. */
const LIST_DAYS = 14;
const MOST_NOTICES = 400;
const MOST_MESSAGES = 100;

/** The list of what was said in the last fortnight: one row for each time, the newest first. */
export async function saidView(db: Database, actor: Actor, seenThrough: number): Promise<SaidView> {
  const { userId, settings, now } = actor;
  await caughtUp(db, actor);
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
  const [series, times, messages] = await Promise.all([
    findSeries(db, userId, { id: ids, removedAt: null }),
    db.occurrences.findAll({ where: { userId, seriesId: ids, slot: slots }, order: ['number'] }),
    db.messages.findAll({
      attributes: ['noticeId', 'channel', 'state'],
      where: { userId, noticeId: firsts.map(({ id }) => id) },
      order: ['channel'],
    }),
  ]);
  const todos = new Map(series.map((row) => [row.id, todoOf(row, settings)]));
  const timeBySlot = new Map(times.map((row) => [`${row.seriesId} ${row.slot}`, row]));
  const actions = await actionsOf(
    db,
    userId,
    times.filter(({ status }) => status !== 'open'),
  );
  const rows = groups.flatMap(([first, ...older]): SaidRow[] => {
    const notice = first!;
    const sent = messages.filter(({ noticeId }) => noticeId === notice.id);
    const todo = notice.seriesId === null ? null : todos.get(notice.seriesId);
    // What was removed is no longer spoken of.
    if (todo === undefined) return [];
    const row = timeBySlot.get(`${notice.seriesId} ${notice.slot}`) ?? null;
    return [
      {
        id: notice.id,
        seq: notice.seq,
        saidAt: formatInstant(notice.saidAt.getTime()),
        times: older.length + 1,
        browser: Boolean(notice.browser),
        sent: sent.map(({ channel, state }) => ({ channel, state })),
        overview: notice.overview,
        ...timePart(todo, notice, row, now),
        action: row && (actions.get(keyOf(row)) ?? null),
      },
    ];
  });
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

type TimePart = Pick<SaidRow, 'todo' | 'slot' | 'due' | 'time' | 'canAct' | 'later'>;

function timePart(
  given: Todo | null,
  notice: NoticeRow,
  row: OccurrenceRow | null,
  now: Instant,
): TimePart {
  const { slot, due } = notice;
  if (!given) return { todo: null, slot, due, time: null, canAct: false, later: null };
  const { progress } = advance(given.planner, given.progress, now);
  const todo = { ...given, progress };
  const open = progress.open.find((time) => time.slot === slot);
  const time = open ?? (row && row.status !== 'open' ? timeOf(row) : null);
  const putOff = laterOf(progress, slot!);
  return {
    todo: todoView(todo, now),
    slot,
    due: open?.due ?? due,
    time: time && timeView(todo, time, now),
    canAct: open !== undefined || (time === null && isToCome(todo, notice, now)),
    later: putOff !== null && putOff > formatInstant(now) ? putOff : null,
  };
}

/** Whether a time that has not opened is still to come, put off or not. */
function isToCome(todo: Todo, notice: NoticeRow, now: Instant): boolean {
  const { later: _later, ...progress } = todo.progress;
  return stillHolds({ ...todo, progress }, notice, now);
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
export async function outboxView(db: Database, user: UserRow, actor: Actor): Promise<OutboxView> {
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

/** A link as it was read: of which message, and until when. */
interface Link {
  messageId: string;
  expires: Instant;
}

/**
 * What a link in a message is about, and whose; it was found to be one of this installation.
 * @throws CoreError `link.none` where its to-do was removed
 */
async function linked(db: Database, { messageId }: Link, now: Instant) {
  const message: MessageRow | null = await db.messages.findByPk(messageId);
  const notice = message && (await db.notices.findOne({ where: { id: message.noticeId } }));
  const user = notice && (await db.users.findByPk(notice.userId));
  if (!notice?.seriesId || !user) throw NO_LINK();
  const actor: Actor = { userId: user.id, settings: user.settings, now };
  return { notice, seriesId: notice.seriesId, actor };
}

const NO_LINK = () =>
  new CoreError('link.none', 'link', 'This link is about nothing that there is.');

/** How what a link is about stands now. */
async function standingOf(
  db: Database,
  link: Link,
  { notice, seriesId, actor }: Awaited<ReturnType<typeof linked>>,
): Promise<FinishView> {
  const { userId, settings, now } = actor;
  await caughtUp(db, actor);
  const [row] = await findSeries(db, userId, { id: seriesId, removedAt: null });
  if (!row) throw NO_LINK();
  const todo = todoOf(row, settings);
  const used = await db.actions.findOne({ where: { userId, id: link.messageId } });
  const { canAct, due } = timePart(todo, notice, null, now);
  const view = todoView(todo, now);
  const open = view.open[0];
  return {
    state: used ? 'used' : now >= link.expires ? 'expired' : canAct ? 'open' : 'ended',
    title: view.series.title,
    due,
    today: stamp(actor).today,
    next: !used ? null : open?.due ? { slot: open.slot, due: open.due, kind: 'firm' } : view.next,
  };
}

/**
 * What a link that finishes a time would do.
 * @throws CoreError `link.none` where its to-do was removed
 */
export async function finishView(db: Database, link: Link, now: Instant): Promise<FinishView> {
  return standingOf(db, link, await linked(db, link, now));
}

/**
 * Finishes the time that a link is about, once: the action has the id of its message. Gives whose to-do
 * it was, and what became of it.
 * @throws CoreError `link.none`
 */
export async function finishByLink(
  db: Database,
  link: Link,
  now: Instant,
): Promise<{ userId: string; view: FinishView }> {
  const found = await linked(db, link, now);
  const { notice, seriesId, actor } = found;
  const before = await standingOf(db, link, found);
  if (before.state !== 'open') return { userId: actor.userId, view: before };
  await act(db, actor, { do: 'done', id: link.messageId, todo: seriesId, slot: notice.slot! });
  return { userId: actor.userId, view: await standingOf(db, link, found) };
}
