import { Op } from 'sequelize';
import { formatInstant, type Instant } from '@back-again/core';
import type {
  MessageChannel,
  MessageView,
  OutboxView,
  SaidRow,
  SaidView,
  StandIn,
} from '@back-again/contract';
import { WORKING } from '../outbox/standIn.ts';
import { stamp, type Actor } from '../machine/work.ts';
import { catchUpAll } from '../machine/catchUp.ts';
import type { Database } from '../db/database.ts';
import type { MessageRow, NoticeRow, OccurrenceRow, UserRow } from '../db/models.ts';
import { spokenOf } from './notices.ts';
import { findSeries, todoOf, todoViews, type Todo } from '../machine/todo.ts';
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

/** How a time of which something was said stands, and what can be done to it. */
export async function timePart(
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
  const devices = await db.devices.findAll({ where: { userId: user.id } });
  const addressOf = ({ channel, deviceId }: MessageRow) => {
    if (channel === 'push') return devices.find(({ id }) => id === deviceId)?.name ?? '';
    return (channel === 'email' ? user.name : user.settings.phone) ?? '';
  };
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
        address: addressOf(it),
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
