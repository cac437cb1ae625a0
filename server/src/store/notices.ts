import { randomUUID } from 'node:crypto';
import type { Transaction } from 'sequelize';
import {
  comingAt,
  formatDay,
  hasReminders,
  momentText,
  newestRemindersIn,
  type Channel,
  type Instant,
  type Overview,
  type Progress,
  type Reminding,
  type Settings,
} from '@back-again/core';
import type { MessageChannel, OverviewContent, OverviewItem } from '@back-again/contract';
import type { Database } from './database.ts';
import type { MessageRow, NoticeRow } from './models.ts';
import type { Todo } from './todos.ts';

/** Something to be said, and what is sent for it. */
export interface Draft {
  notice: Omit<NoticeRow, 'seq'>;
  messages: MessageRow[];
}

/**
 * What there is to say about a to-do that has gone from `before` to how it stands now: of each time
 * and channel the newest alone (R17, after an outage). What was said already falls away on writing.
 */
export function remindersOf(todo: Todo, before: Progress, now: Instant): Draft[] {
  const { row, planner, progress, settings } = todo;
  if (!hasReminders(progress) || row.removedAt !== null) return [];
  const from = before.through ?? row.createdAt.getTime();
  if (now <= from) return [];
  return newestRemindersIn(planner, progress, settings, from, now).map((it) => {
    const { subject, text } = reminderWords(todo, it, now);
    const about = {
      userId: row.userId,
      seriesId: row.id,
      mark: `${row.id} ${it.key}`,
      slot: it.slot,
      number: it.number,
      due: it.due,
      at: new Date(it.at),
      overview: null,
    };
    return draft(about, { subject, text }, ways(settings, it.channel), now);
  });
}

/** A morning overview as something to be said. */
export function overviewOf(
  userId: string,
  settings: Settings,
  overview: Overview,
  content: OverviewContent,
  now: Instant,
): Draft {
  const about = {
    userId,
    seriesId: null,
    mark: `overview ${overview.day}`,
    slot: null,
    number: null,
    due: null,
    at: new Date(overview.at),
    overview: content,
  };
  return draft(about, overviewWords(content), ways(settings, undefined), now);
}

/** The ways of one notice beside the list in the app. */
function ways({ channels = [] }: Settings, channel: Channel | undefined): readonly Channel[] {
  return channel === undefined ? channels : [channel];
}

const isSent = (channel: Channel): channel is MessageChannel =>
  channel === 'email' || channel === 'text';

function draft(
  about: Omit<NoticeRow, 'seq' | 'id' | 'saidAt' | 'browser'>,
  words: { subject: string; text: string },
  channels: readonly Channel[],
  now: Instant,
): Draft {
  const id = randomUUID();
  const saidAt = new Date(now);
  return {
    notice: { ...about, id, saidAt, browser: channels.includes('browser') },
    messages: channels.filter(isSent).map((channel) => ({
      id: randomUUID(),
      noticeId: id,
      userId: about.userId,
      channel,
      ...words,
      state: 'waiting',
      tries: 0,
      nextTryAt: saidAt,
      decidedAt: saidAt,
      settledAt: null,
      why: null,
    })),
  };
}

/**
 * Writes what is to be said, and what is sent for it, in the transaction of the decision. Gives those
 * that were new: each mark of a person is said once, whoever decides it how often.
 */
export async function writeDrafts(
  db: Database,
  drafts: readonly Draft[],
  transaction: Transaction,
): Promise<Draft[]> {
  if (!drafts.length) return [];
  const notices = drafts.map(({ notice }) => notice);
  await db.notices.bulkCreate(
    notices.sort((a, b) => a.at.getTime() - b.at.getTime()),
    { ignoreDuplicates: true, transaction },
  );
  const kept = await db.notices.findAll({
    attributes: ['id'],
    where: { id: drafts.map(({ notice }) => notice.id) },
    transaction,
  });
  const ids = new Set(kept.map(({ id }) => id));
  const fresh = drafts.filter(({ notice }) => ids.has(notice.id));
  const messages = fresh.flatMap((it) => it.messages);
  if (messages.length) await db.messages.bulkCreate(messages, { transaction });
  if (fresh.length)
    transaction.afterCommit(() => {
      for (const userId of new Set(fresh.map(({ notice }) => notice.userId))) db.onSaid(userId);
    });
  return fresh;
}

/** Whether a reminder still holds: its time is open or to come, as due as it was, not held or put off. */
export function stillHolds(
  { planner, progress }: Todo,
  { slot, due }: Pick<NoticeRow, 'slot' | 'due'>,
  now: Instant,
): boolean {
  if (slot === null) return true;
  if (progress.later?.some((it) => it.slot === slot && it.to > now)) return false;
  const open = progress.open.find((time) => time.slot === slot);
  if (!open) return comingAt(planner, progress, slot)?.due === due;
  const held = planner(progress.series).paused.at(planner.clock.dayAt(now)) !== null;
  return open.due === due && !held;
}

const MOST_SUBJECT = 250;
const cut = (text: string) =>
  text.length > MOST_SUBJECT ? `${text.slice(0, MOST_SUBJECT - 1)}…` : text;

function reminderWords({ planner, progress }: Todo, { slot, due }: Reminding, now: Instant) {
  const today = formatDay(planner.clock.dayAt(now));
  const { title } = progress.series;
  const open = progress.open.find((time) => time.slot === slot);
  const date = momentText(due, today);
  const late = due.slice(0, 10) < today;
  const lines = [`${title} ${late ? 'was' : 'is'} due ${date}.`];
  if (open?.plan && open.plan !== due.slice(0, 10) && open.planBy === 'person')
    lines.push(`You planned it for ${momentText(open.plan, today)}.`);
  if (open?.note) lines.push(open.note);
  return { subject: cut(`${title}, due ${date}`), text: lines.join('\n') };
}

function overviewWords({ day, late, today, soon }: OverviewContent) {
  const part = (title: string, items: readonly OverviewItem[]) =>
    items.length
      ? [
          '',
          `${title}:`,
          ...items.map(({ title, due }) => `- ${title}${due ? `, ${momentText(due, day)}` : ''}`),
        ]
      : [];
  const head = `${late.length ? `${late.length} late, ` : ''}${today.length} for today`;
  return {
    subject: `${momentText(day, day)}: ${head}`,
    text: [
      `${momentText(day, day)}. ${head}.`,
      ...part('Late', late),
      ...part('For today', today),
      ...part('Coming back soon', soon),
    ].join('\n'),
  };
}
