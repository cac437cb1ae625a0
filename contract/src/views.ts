import type {
  Ahead,
  LocalDate,
  LocalMoment,
  Series,
  Settings,
  Status,
  Turn,
  Way,
} from '@back-again/core';
import type { Action, StandIn } from './schemas.ts';

/** One time of a to-do as the server gives it; instants are ISO 8601 with `Z`. */
export interface TimeView {
  number: number;
  slot: LocalMoment;
  due: LocalMoment | null;
  plan: LocalDate | null;
  planBy: 'due' | 'person' | 'roll';
  status: Status;
  openedAt: string | null;
  closedAt: string | null;
  rolled: number;
  /** How much of it is done, 1 to 99 in a hundred. */
  part: number | null;
  /** So many times a period: how many times it was done. */
  tally: number | null;
  note: string | null;
  /** How far it is on its way to due; null without a span to measure. */
  way: Way | null;
  /** Until when nothing is said of it, where the person put it off. */
  later: string | null;
}

/** A to-do as it stands. */
export interface TodoView {
  id: string;
  series: Series;
  createdAt: string;
  /** Its open times, oldest first. */
  open: TimeView[];
  /** The next time that has not opened, or is expected after the open one. */
  next: Ahead | null;
  /** Where nothing is open: how far it is on its way to the next time. */
  nextWay: Way | null;
  /** Nothing is open and nothing will come. */
  ended: boolean;
  /** The day on which it was last done. */
  lastDone: LocalDate | null;
  done: number;
  /** What it will be from a later time on. */
  turns: Turn[];
  /** So many times a period: how many. */
  quota: number | null;
  /** In words, why it cannot be worked out; null, as a rule. */
  wrong: string | null;
}

/** The answer to an action, and what of it a person sees in place. */
export interface ActionAnswer {
  now: string;
  today: LocalDate;
  action: { id: string; do: Action['do'] };
  /** The to-dos that changed, as they are now; a removed one is not among them. */
  todos: TodoView[];
  removed: string[];
}

/** A row of Today that ended today. */
export interface EndedRow {
  todo: TodoView;
  time: TimeView;
  /** The action that ended it; null where it ended by itself. */
  action: string | null;
}

/** A time of today that has not opened yet: another of the same day comes before it. */
export interface LaterRow {
  todo: TodoView;
  ahead: Ahead;
}

export interface TodayView {
  now: string;
  today: LocalDate;
  /** To-dos with an open time, in the order in which they were made. */
  open: TodoView[];
  ended: EndedRow[];
  /** What is still to come today, in order; it can be finished ahead. */
  later: LaterRow[];
  /** To-dos whose next time has not opened and is due within the coming week. */
  soon: TodoView[];
  /** What will still be said today, in order. */
  reminders: (ReminderView & { title: string })[];
}

export interface TodosView {
  now: string;
  today: LocalDate;
  todos: TodoView[];
}

export interface TodoPage {
  now: string;
  today: LocalDate;
  todo: TodoView;
  /** The definition as one plain sentence. */
  says: string;
  /** The times to come, firm or expected. */
  ahead: Ahead[];
  /** The next reminders. */
  reminders: ReminderView[];
  /** How many times are still to come; null where that has no end. */
  left: number | null;
  /** Ended times, the last one first, at most 50. */
  record: (TimeView & { action: string | null })[];
  /** How many ended in which way. */
  totals: { done: number; skipped: number; missed: number };
}

/** The ways in which something is sent; the list in the app and the browser need none. */
export type MessageChannel = 'email' | 'text';
/** It waits for its next try, was handed over, is no longer needed, or was given up. */
export type MessageState = 'waiting' | 'sent' | 'dropped' | 'given up';

/** One to-do in a morning overview, as it stood then. */
export interface OverviewItem {
  todo: string;
  title: string;
  due: LocalMoment | null;
}
export interface OverviewContent {
  day: LocalDate;
  late: OverviewItem[];
  today: OverviewItem[];
  soon: OverviewItem[];
  /** How many more there are of each; absent where all are named. */
  more?: { late: number; today: number; soon: number };
}

/** How what was said went out in one way. */
export interface SentView {
  channel: MessageChannel;
  state: MessageState;
}

/** What was said of one time of a to-do, newest first, or one morning overview. */
export interface SaidRow {
  /** The id of the last notice. */
  id: string;
  /** Its running number. */
  seq: number;
  /** When it was last said. */
  saidAt: string;
  /** How often it was said. */
  times: number;
  /** Whether the browser says the last one too. */
  browser: boolean;
  sent: SentView[];
  overview: OverviewContent | null;
  /** Null for an overview. */
  todo: TodoView | null;
  slot: LocalMoment | null;
  due: LocalMoment | null;
  /** The time as it is now; null where it has not opened, or is no more. */
  time: TimeView | null;
  /** Whether it can be done, put off or skipped. */
  canAct: boolean;
  /** Until when nothing is said of it. */
  later: string | null;
  /** The action that ended it. */
  action: string | null;
}

export interface SaidView {
  now: string;
  today: LocalDate;
  /** How many rows have something that the person has not seen. */
  fresh: number;
  /** The number of the last notice that the person has seen. */
  seenThrough: number;
  rows: SaidRow[];
}

/** One message of the outbox. */
export interface MessageView {
  id: string;
  channel: MessageChannel;
  /** Where it goes; empty where there is no number. */
  address: string;
  subject: string;
  text: string;
  state: MessageState;
  tries: number;
  nextTryAt: string | null;
  decidedAt: string;
  settledAt: string | null;
  why: string | null;
  /** Once it has come to the person: when, and what it says with its links; null before. */
  arrived: { at: string; text: string; copies: number } | null;
}

export interface OutboxView {
  now: string;
  today: LocalDate;
  standIn: StandIn;
  messages: MessageView[];
}

/** What a link in a message is about, for who has the link. */
export interface FinishView {
  /**
   * Whether it can be used, was used just now, is over (used before, or expired: then nothing else is
   * said), or its time has ended or is no more.
   */
  state: 'open' | 'done' | 'over' | 'ended';
  title: string;
  due: LocalMoment | null;
  today: LocalDate;
  /** Now that it was used: when the to-do is back again; null where it is not. */
  next: Ahead | null;
}

/** A reminder that is still to come. */
export interface ReminderView {
  at: string;
  due: LocalMoment;
}

export interface SessionView {
  name: string;
  settings: Settings;
  /** The public holidays of the person’s region, as dates in order. */
  holidays: readonly LocalDate[];
  /** The places that their to-dos belong to, in order. */
  places: readonly string[];
}

/** The server's time: what is shown before saving counts from it, not from the device's clock. */
export interface NowView {
  now: string;
}
