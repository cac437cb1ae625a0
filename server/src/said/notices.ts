import { randomUUID } from 'node:crypto';
import type { Transaction } from 'sequelize';
import {
  clockOf,
  formatDay,
  momentText,
  type Channel,
  type Instant,
  type Overview,
  type Reminding,
  type Settings,
  type SpokenOf,
} from '@back-again/core';
import type { MessageChannel, OverviewContent, OverviewItem } from '@back-again/contract';
import type { Database } from '../db/database.ts';
import { compute } from '../compute/compute.ts';
import { inBatches } from '../db/batches.ts';
import type { MessageRow, NoticeRow, OccurrenceRow } from '../db/models.ts';
import { keptOf, timeOf, type Todo } from '../machine/todo.ts';

interface Words {
  subject: string;
  text: string;
}

/** Something to be said, and in which words it is sent where. */
export interface Draft {
  notice: Omit<NoticeRow, 'seq'>;
  words: Words;
  sent: readonly MessageChannel[];
}

/**
 * What there is to say about a to-do as it stands now, as it is written. What was said already falls
 * away on writing.
 */
export function remindersOf(todo: Todo, said: readonly Reminding[], now: Instant): Draft[] {
  const { row, settings } = todo;
  return said.map((it) => {
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
function ways(
  { channels = [], noMail = false }: Settings,
  channel: Channel | undefined,
): readonly Channel[] {
  const all = channel === undefined ? channels : [channel];
  return noMail ? all.filter((it) => it !== 'email') : all;
}

const isSent = (channel: Channel): channel is 'email' | 'text' =>
  channel === 'email' || channel === 'text';

function draft(
  about: Omit<NoticeRow, 'seq' | 'id' | 'saidAt' | 'browser'>,
  words: Words,
  channels: readonly Channel[],
  now: Instant,
): Draft {
  return {
    notice: {
      ...about,
      id: randomUUID(),
      saidAt: new Date(now),
      browser: channels.includes('browser'),
    },
    words,
    sent: channels.filter(isSent),
  };
}

/** What is sent for a notice: by each channel, and to each device where the browser says it. */
function messagesOf({ notice, words, sent }: Draft, devices: readonly string[]): MessageRow[] {
  const { id: noticeId, userId, saidAt } = notice;
  const one = (channel: MessageChannel, deviceId = ''): MessageRow => ({
    ...{ id: randomUUID(), noticeId, userId, channel, ...words, deviceId },
    ...{ state: 'waiting', tries: 0, nextTryAt: saidAt, decidedAt: saidAt },
    ...{ settledAt: null, why: null, lease: null },
  });
  return [...sent.map((channel) => one(channel)), ...devices.map((id) => one('push', id))];
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
  notices.sort((a, b) => a.at.getTime() - b.at.getTime());
  const ids = new Set<string>();
  await inBatches(notices, async (some) => {
    await db.notices.bulkCreate(some, { ignoreDuplicates: true, transaction });
    const kept = await db.notices.findAll({
      attributes: ['id'],
      where: { id: some.map(({ id }) => id) },
      transaction,
    });
    for (const { id } of kept) ids.add(id);
  });
  const fresh = drafts.filter(({ notice }) => ids.has(notice.id));
  const devices = await devicesFor(db, fresh, transaction);
  const messages = fresh.flatMap((it) => messagesOf(it, devices(it)));
  await inBatches(messages, (some) => db.messages.bulkCreate(some, { transaction }));
  if (fresh.length)
    transaction.afterCommit(() => {
      for (const userId of new Set(fresh.map(({ notice }) => notice.userId))) db.onSaid(userId);
    });
  return fresh;
}

/** The devices to which each of these goes. */
async function devicesFor(
  db: Database,
  drafts: readonly Draft[],
  transaction: Transaction,
): Promise<(draft: Draft) => readonly string[]> {
  const userId = [...new Set(drafts.flatMap(({ notice: it }) => (it.browser ? [it.userId] : [])))];
  const rows = userId.length
    ? await db.devices.findAll({ attributes: ['id', 'userId'], where: { userId }, transaction })
    : [];
  return ({ notice: it }) =>
    it.browser ? rows.filter(({ userId: of }) => of === it.userId).map(({ id }) => id) : [];
}

/** How a time of which something was said stands now; null for an overview. */
export async function spokenOf(
  todo: Todo,
  { slot, due }: Pick<NoticeRow, 'slot' | 'due'>,
  ended: OccurrenceRow | null,
  now: Instant,
): Promise<SpokenOf | null> {
  if (slot === null) return null;
  const time = ended && timeOf(ended);
  return compute('spokenOf', { todo: keptOf(todo), slot, due, ended: time, now });
}

const MOST_SUBJECT = 250;
/** A text of so many characters at most; none is cut in two. */
export function cut(text: string, most = MOST_SUBJECT): string {
  if (text.length <= most) return text;
  return `${text.slice(0, most - 1).replace(/[\uD800-\uDBFF]$/u, '')}…`;
}

function reminderWords(
  { settings, progress, details }: Todo,
  { slot, due }: Reminding,
  now: Instant,
) {
  const today = formatDay(clockOf(settings).dayAt(now));
  const { title } = details;
  const open = progress.open.find((time) => time.slot === slot);
  const date = momentText(due, today);
  const late = due.slice(0, 10) < today;
  const lines = [`${title} ${late ? 'was' : 'is'} due ${date}.`];
  if (open?.plan && open.plan !== due.slice(0, 10) && open.planBy === 'person')
    lines.push(`You planned it for ${momentText(open.plan, today)}.`);
  if (open?.note) lines.push(open.note);
  return { subject: cut(`${title}, due ${date}`), text: lines.join('\n') };
}

/** So many of a part of an overview are named, and then how many more there are. */
const MOST_NAMED = 20;
const MOST_NAME = 120;

function overviewWords({ day, late, today, soon, more: unnamed }: OverviewContent) {
  const named = (title: string) => cut(title, MOST_NAME);
  const part = (title: string, items: readonly OverviewItem[], others = 0) => {
    const more = items.length + others - MOST_NAMED;
    const lines = items
      .slice(0, MOST_NAMED)
      .map((it) => `- ${named(it.title)}${it.due ? `, ${momentText(it.due, day)}` : ''}`);
    return items.length
      ? ['', `${title}:`, ...lines, ...(more > 0 ? [`and ${more} more`] : [])]
      : [];
  };
  const [nLate, nToday] = [
    late.length + (unnamed?.late ?? 0),
    today.length + (unnamed?.today ?? 0),
  ];
  const head = `${nLate ? `${nLate} late, ` : ''}${nToday} for today`;
  return {
    subject: `${momentText(day, day)}: ${head}`,
    text: [
      `${momentText(day, day)}. ${head}.`,
      ...part('Late', late, unnamed?.late),
      ...part('For today', today, unnamed?.today),
      ...part('Coming back soon', soon, unnamed?.soon),
    ].join('\n'),
  };
}
