import type { Bundle } from '@back-again/core/bundles';
import type {
  Above,
  Ahead,
  Deed,
  LocalDate,
  Details,
  Ended,
  Instant,
  KeptPlace,
  KeptTodo,
  LocalMoment,
  SectionId,
  Settings,
  TimeView,
  TodoView,
} from '@back-again/core';
import type { Action, StandIn } from './schemas.ts';

export type { TimeView, TodoView } from '@back-again/core';

/** A to-do as it is kept on a person’s devices, which go on from it by themselves. */
export interface TodoState extends KeptTodo {
  made: Instant;
  /** The person’s version with which it last changed. */
  version: number;
  details: Details;
  /** When it was last said what it is; null where that was as it was made. */
  describedAt: Instant | null;
  changesAt: Instant | null;
  speaksAt: Instant | null;
  nextDue: LocalMoment | null;
  /** Nothing is open and nothing will come. */
  over: boolean;
  /** What the person ended of it since yesterday. */
  lately: Ended[];
}

/** A place as it is kept on a person’s devices. */
export interface PlaceState extends KeptPlace {
  version: number;
  /** When something was last said of it. */
  describedAt: Instant;
}

/** What belongs to a person themselves. */
export interface OwnState {
  version: number;
  /** The sphere that alone is in sight. */
  focus: string | null;
  /** When that was said; null where it never was. */
  focusAt: Instant | null;
  /** What is above all, today and the day before. */
  above: Above[];
  /** To-dos that go together, to be laid into a week or a month; absent where there are none. */
  bundles?: KeptBundle[];
}

/** A bundle, and when it was last said what is in it. */
export interface KeptBundle extends Bundle {
  at: Instant;
}

/** What ended on some days, in order. */
export interface EndedView {
  ended: {
    todo: string;
    number: number;
    slot: LocalMoment;
    due: LocalMoment | null;
    planAt: LocalMoment | null;
    status: 'done' | 'skipped' | 'missed';
    closedAt: string;
  }[];
}

/** What has changed of a person since a version, a page at a time. */
export interface ChangesView {
  /** The version that these changes lead to, once all pages are there. */
  version: number;
  now: string;
  /** Whether this is all that there is: what is not in it is no more. */
  all: boolean;
  /** Absent where they did not change. */
  settings?: Settings;
  holidays?: readonly LocalDate[];
  todos: TodoState[];
  removed: string[];
  /** Places that changed; one that was taken away is gone. On the first page alone. */
  places?: PlaceState[];
  own?: OwnState;
  /** What to ask for the next page with, as `after`; null for the last one. */
  next: string | null;
}

/** The answer to an action, and what of it a person sees in place. */
export interface ActionAnswer {
  /** The person’s version with it: one more than before, where nothing else came between. */
  version: number;
  now: string;
  today: LocalDate;
  action: { id: string; do: Action['do'] };
  /** The to-dos that changed, as they are now; a removed one is not among them. */
  todos: TodoState[];
  removed: string[];
  /** Places that changed; absent where none did. */
  places?: PlaceState[];
  /** Absent where it did not change. */
  own?: OwnState;
}

/** A row of Today. */
export interface TodayRow {
  todo: string;
  slot: LocalMoment;
  title: string;
  due: LocalMoment | null;
  plan: LocalDate | null;
}

/** What Today shows: its sections in order, and what is back soon. */
export interface TodayView {
  now: string;
  today: LocalDate;
  sections: { id: SectionId; rows: TodayRow[] }[];
  soon: { todo: string; title: string; due: LocalMoment; kind: Ahead['kind'] }[];
  elsewhere: number;
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
  /** Ended times, the last one first, a page of 50 at most. */
  record: (TimeView & {
    action: string | null;
    /** By what it was finished, where that was no window of the app. */
    via?: 'key' | 'way';
    /** The steps and questions that it had when it ended, where something was written down with it. */
    had?: Pick<Details, 'steps' | 'questions'>;
  })[];
  /** Whether there are older ones. */
  more: boolean;
  /** How many ended in which way. */
  totals: { done: number; skipped: number; missed: number };
  /** What was done to it last and can be taken back, the latest first; on the first page alone. */
  deeds: LastDeedView[];
}

/** One deed to a to-do, by the action that takes it back. */
export interface LastDeedView {
  action: string;
  at: string;
  /** What was done to it. */
  do: Deed['do'] | 'describe';
  /** What the action was: one such as `bring` is a move of several. */
  by: string;
  slot?: LocalMoment;
  /** For a move: where to; for a pause: its last day. */
  to?: LocalMoment;
  part?: number;
  /** For another description: of which parts. */
  parts?: string[];
}

/** A country, or a part of one, whose public holidays are known, by the name that people know it by. */
export interface RegionView {
  /** As in Settings: GB, GB-ENG. */
  code: string;
  name: string;
}

/** What was taken away in the last 30 days. */
export interface RemovedView {
  removed: {
    todo: string;
    title: string;
    at: string;
    /** The action that took it away, and takes it back; with so many others. */
    action: string;
    others: number;
  }[];
}

/** What was done in a place, and in all that it holds. */
export interface PlacePage {
  now: string;
  today: LocalDate;
  /** The last ones first, 30 at most, each by what it was called then. */
  done: { todo: string; title: string; slot: LocalMoment; closedAt: string }[];
  /** The last twelve months, `YYYY-MM`, the oldest first: what it took, in minutes, where that is known. */
  months: { month: string; minutes: number; done: number }[];
}

/** The ways in which something is sent: push reaches the browser of a device with no window open. */
export type MessageChannel = 'email' | 'text' | 'push';
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
  /** What leaves this program; the rest stays with the stand-in. */
  leaves: MessageChannel[];
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
}

/** The server's time: what is shown before saving counts from it, not from the device's clock. */
export interface NowView {
  now: string;
}

/** How far a file has been sent. */
export interface FileView {
  id: string;
  /** So many pieces it has, each of this many bytes but the last. */
  pieces: number;
  pieceBytes: number;
  /** Those that are there, from 0. */
  there: number[];
  /** All of it is there, and is what it was said to be. */
  done: boolean;
}

/** What was found in the record: what was written down with times that have ended, the latest first. */
export interface FoundView {
  found: { todo: string; title: string; slot: string; closedAt: string; text: string }[];
  /** Where the next page begins; null where all was looked through. */
  next: string | null;
}
