import type {
  KeptBundle,
  MessageChannel,
  MessageState,
  OverviewContent,
  StandIn,
} from '@back-again/contract';
import type { DoorKind, Reach } from '@back-again/contract/doors';
import { DataTypes, Model, type ModelStatic, type Sequelize } from 'sequelize';
import type {
  Deed,
  Above,
  Details,
  Ended,
  Filled,
  LocalDate,
  Occurrence,
  PlaceParts,
  Progress,
  Series,
  Settings,
  Status,
} from '@back-again/core';

/** A class of rows with these columns. */
const rowsOf = <T extends object>() => Model as unknown as ModelStatic<Model<T, Partial<T>> & T>;

export interface UserRow {
  id: string;
  name: string;
  passwordHash: string;
  settings: Settings;
  createdAt: Date;
  /** When the next morning overview is said; null where the person wants none. */
  overviewAt: Date | null;
  /** When what there is of them is tidied next. */
  tidyAt: Date | null;
  /** The number of the last notice that the person has seen. */
  seenThrough: number;
  /** Grows by one with each change of something of the person: it puts their changes in one order. */
  version: number;
  /** The version with which their settings last changed. */
  settingsVersion: number;
  /** How the stand-in for e-mail and text messages behaves; null: it works. */
  standIn: StandIn | null;
  /** The sphere that alone is in sight, and when that was said. */
  focus: string | null;
  focusAt: Date | null;
  /** What is above all, today and the day before. */
  above: Above[] | null;
  /** To-dos that go together, to be laid in at once. */
  bundles: KeptBundle[] | null;
  /** The version with which these last changed. */
  ownVersion: number;
}

export interface SeriesRow {
  id: string;
  userId: string;
  title: string;
  /** Where it belongs, by the id of the place. */
  place: string | null;
  /** What else it is. */
  details: Omit<Details, 'title' | 'place'>;
  /** When it was last said what it is; null where that was as it was made. */
  describedAt: Date | null;
  /** When it came back as it was made; what is in force is in `progress`. */
  definition: Series;
  progress: Progress;
  /** When there is next something to say of it; null for never, or where it was removed. */
  speaksAt: Date | null;
  /** When it next changes by itself; null when it never will. */
  changesAt: Date | null;
  /** The due date of the next time that has not opened. */
  nextDue: string | null;
  ended: boolean;
  createdAt: Date;
  removedAt: Date | null;
  /** The place of its last step. */
  steps: number;
  /** The version with which it last changed. */
  version: number;
  /** What the person ended of it since yesterday. */
  lately: Ended[] | null;
  /** How it began, where it came in with a record; null: as its definition begins. */
  begun: Progress | null;
  /** By which days of the person its ended times are counted; null: they have to be counted again. */
  countedAs: string | null;
}

/** Where to-dos belong. */
export interface PlaceRow {
  userId: string;
  id: string;
  parts: PlaceParts;
  /** When something was last said of it. */
  describedAt: Date;
  createdAt: Date;
  version: number;
}

export interface OccurrenceRow {
  seriesId: string;
  number: number;
  userId: string;
  slot: string;
  due: string | null;
  plan: string | null;
  planAt: string | null;
  planBy: Occurrence['planBy'];
  moved: boolean;
  status: Status;
  openedAt: Date | null;
  closedAt: Date | null;
  rolled: number;
  part: number | null;
  tally: number | null;
  note: string | null;
  /** What else was written down with it. */
  filled: Filled | null;
  /** The version with which it last changed; 0 where that came with time. */
  version: number;
  /** Where it has ended: its due day, or else the day on which it ended. */
  dueOn: LocalDate | null;
  /** Where it was done: the day, how late, the minutes, and the part of them that was not entered. */
  doneOn: LocalDate | null;
  late: number | null;
  minutes: number | null;
  estimated: number | null;
  /** Where it has ended: where it belonged then. */
  place: string | null;
}

/** What a client sent, once for each of its ids. */
export interface ActionRow {
  seq: number;
  userId: string;
  id: string;
  do: string;
  /** When it arrived. */
  at: Date;
  /** When the person did it. */
  doneAt: Date;
  /** For an undo: the action that it took back. */
  undoes: string | null;
  undone: boolean;
  version: number;
  /** By what it came: a key, or the way of its own of a to-do; null for a window of the app. */
  via: 'key' | 'way' | null;
}

/** Something put above all or taken down, with how to take that back. */
export interface PutDeed {
  do: 'above';
  above: Above;
  on: boolean;
  /** Where it stood; -1: it was not there. */
  place: number;
  /** Those of long ago that were left out with it. */
  gone: Above[];
  /** How many of its day there were then. */
  beside: number;
}

/** A bundle written anew, or taken away: how it was, and how it is since. */
export interface BundleDeed {
  do: 'bundle';
  id: string;
  was: KeptBundle | null;
  now: KeptBundle | null;
}

/** What is done beside the machine. */
export type DoneBeside =
  | { do: 'describe'; details: Partial<Details> }
  | { do: 'place'; details: Partial<PlaceParts> }
  | { do: 'focus'; details: { focus: string | null } }
  | PutDeed
  | BundleDeed;

/** What one action did to one to-do, to a place, or for the person. */
export interface StepRow {
  seq: number;
  actionSeq: number;
  userId: string;
  /** The to-do; null for what was done to none. */
  seriesId: string | null;
  placeId: string | null;
  /** A to-do that an action made beside what it did is `made`. */
  kind: 'create' | 'made' | 'remove' | 'deed' | 'describe' | 'place' | 'focus' | 'above' | 'bundle';
  /** Its place in the order of the to-do’s steps, from 1: one that was entered earlier puts the later ones back. */
  place: number;
  /** The moment at which it counts. */
  at: Date;
  deed: Deed | DoneBeside | null;
  /** The time it was done to. */
  number: number | null;
  before: Progress | null;
  touched: Occurrence | null;
  /** The parts of what it is, as they were before. */
  was: Partial<Details> | Partial<PlaceParts> | { focus: string | null } | null;
  undone: boolean;
}

/** What was said to a person: a reminder of a time, or a morning overview. */
export interface NoticeRow {
  /** A running number. */
  seq: number;
  id: string;
  userId: string;
  /** Null for an overview. */
  seriesId: string | null;
  /** What makes it the same one: it is said once. */
  mark: string;
  slot: string | null;
  /** The running number of its time; null where that had not opened. */
  number: number | null;
  due: string | null;
  /** The moment that it is of. */
  at: Date;
  saidAt: Date;
  /** Whether the browser says it too. */
  browser: boolean;
  overview: OverviewContent | null;
}

/** What is sent for a notice in one way. */
export interface MessageRow {
  id: string;
  noticeId: string;
  userId: string;
  channel: MessageChannel;
  subject: string;
  text: string;
  state: MessageState;
  tries: number;
  /** While it waits: when it is tried next. */
  nextTryAt: Date | null;
  decidedAt: Date;
  settledAt: Date | null;
  /** Why the last try failed, or why it was not sent. */
  why: string | null;
  /** While it is being handed over: by whom. `nextTryAt` is then when that is given up. */
  lease: string | null;
  /** By push: for which device; empty otherwise. */
  deviceId: string;
}

/** A browser that is told with no window open. */
export interface DeviceRow {
  /** SHA-256 of its endpoint, in hexadecimal digits: a browser tells whoever subscribed with it last. */
  sum: string;
  id: string;
  userId: string;
  /** In which session it subscribed, by its name: it ends with that. */
  session: string;
  name: string;
  endpoint: string;
  p256dh: string;
  auth: string;
  createdAt: Date;
  usedAt: Date | null;
}

/** How much of a limit was taken, and until when, in milliseconds since 1970. */
export interface LimitRow {
  name: string;
  points: number;
  ends: number;
}

/** What is made once for an installation, and kept. */
export interface MadeOnceRow {
  name: string;
  value: string;
}

/** What has come, or will come, to the person’s mailbox or telephone. */
export interface ArrivalRow {
  messageId: string;
  userId: string;
  channel: MessageChannel;
  address: string;
  subject: string;
  text: string;
  arrivesAt: Date;
  /** How often it was handed over: all but the first were recognised by its id. */
  copies: number;
}

/** A key, the address of a feed, or the way of its own of a to-do: known by the hash of its secret alone. */
export interface DoorRow {
  hash: string;
  id: string;
  userId: string;
  kind: DoorKind;
  name: string;
  reach: Reach | null;
  placeId: string | null;
  seriesId: string | null;
  createdAt: Date;
  usedAt: Date | null;
  uses: number;
}

/** The tables of one database, each a class of its own there. */
export type Models = ReturnType<typeof defineModels>;

const instant = DataTypes.DATE(3);
const uuid = DataTypes.CHAR(36);

export function defineModels(sequelize: Sequelize) {
  class Users extends rowsOf<UserRow>() {}
  Users.init(
    {
      id: { type: uuid, primaryKey: true },
      name: DataTypes.STRING(254),
      passwordHash: DataTypes.STRING(255),
      settings: DataTypes.JSON,
      createdAt: instant,
      overviewAt: instant,
      tidyAt: instant,
      seenThrough: { type: DataTypes.BIGINT, defaultValue: 0 },
      version: { type: DataTypes.BIGINT, defaultValue: 1 },
      settingsVersion: { type: DataTypes.BIGINT, defaultValue: 1 },
      standIn: DataTypes.JSON,
      focus: uuid,
      focusAt: instant,
      above: DataTypes.JSON,
      bundles: DataTypes.JSON,
      ownVersion: { type: DataTypes.BIGINT, defaultValue: 1 },
    },
    { sequelize, modelName: 'users' },
  );
  class Todos extends rowsOf<SeriesRow>() {}
  Todos.init(
    {
      id: { type: uuid, primaryKey: true },
      userId: { type: uuid, primaryKey: true },
      title: DataTypes.STRING(300),
      place: uuid,
      details: DataTypes.JSON,
      describedAt: instant,
      definition: DataTypes.JSON,
      progress: DataTypes.JSON,
      speaksAt: instant,
      changesAt: instant,
      nextDue: DataTypes.STRING(16),
      ended: DataTypes.BOOLEAN,
      createdAt: instant,
      removedAt: instant,
      steps: { type: DataTypes.INTEGER, defaultValue: 0 },
      version: { type: DataTypes.BIGINT, defaultValue: 1 },
      lately: DataTypes.JSON,
      begun: DataTypes.JSON,
      countedAs: DataTypes.STRING(80),
    },
    { sequelize, modelName: 'series' },
  );
  class Places extends rowsOf<PlaceRow>() {}
  Places.init(
    {
      userId: { type: uuid, primaryKey: true },
      id: { type: uuid, primaryKey: true },
      parts: DataTypes.JSON,
      describedAt: instant,
      createdAt: instant,
      version: DataTypes.BIGINT,
    },
    { sequelize, modelName: 'places' },
  );
  class Occurrences extends rowsOf<OccurrenceRow>() {}
  Occurrences.init(
    {
      seriesId: { type: uuid, primaryKey: true },
      number: { type: DataTypes.INTEGER, primaryKey: true },
      userId: { type: uuid, primaryKey: true },
      slot: DataTypes.STRING(16),
      due: DataTypes.STRING(16),
      plan: DataTypes.STRING(10),
      planAt: DataTypes.STRING(16),
      planBy: DataTypes.STRING(6),
      moved: DataTypes.BOOLEAN,
      status: DataTypes.STRING(7),
      openedAt: instant,
      closedAt: instant,
      rolled: DataTypes.INTEGER,
      part: DataTypes.INTEGER,
      tally: DataTypes.INTEGER,
      note: DataTypes.TEXT,
      filled: DataTypes.JSON,
      version: { type: DataTypes.BIGINT, defaultValue: 0 },
      dueOn: DataTypes.DATEONLY,
      doneOn: DataTypes.DATEONLY,
      late: DataTypes.INTEGER,
      minutes: DataTypes.INTEGER,
      estimated: DataTypes.INTEGER,
      place: uuid,
    },
    { sequelize, modelName: 'occurrences' },
  );
  class Actions extends rowsOf<ActionRow>() {}
  Actions.init(
    {
      seq: { type: DataTypes.BIGINT, primaryKey: true, autoIncrement: true },
      userId: uuid,
      id: uuid,
      do: DataTypes.STRING(16),
      at: instant,
      doneAt: instant,
      undoes: uuid,
      undone: DataTypes.BOOLEAN,
      version: { type: DataTypes.BIGINT, defaultValue: 1 },
      via: DataTypes.STRING(4),
    },
    { sequelize, modelName: 'actions' },
  );
  class Steps extends rowsOf<StepRow>() {}
  Steps.init(
    {
      seq: { type: DataTypes.BIGINT, primaryKey: true, autoIncrement: true },
      actionSeq: DataTypes.BIGINT,
      userId: uuid,
      seriesId: uuid,
      placeId: uuid,
      kind: DataTypes.STRING(10),
      place: DataTypes.INTEGER,
      at: instant,
      deed: DataTypes.JSON,
      number: DataTypes.INTEGER,
      before: DataTypes.JSON,
      touched: DataTypes.JSON,
      was: DataTypes.JSON,
      undone: DataTypes.BOOLEAN,
    },
    { sequelize, modelName: 'steps' },
  );
  // A column that is compressed does not say that it is JSON, so that nobody reads it as such.
  Steps.addHook('afterFind', (found: unknown) => {
    for (const row of [found].flat() as ({ before?: unknown } | null)[])
      if (typeof row?.before === 'string') row.before = JSON.parse(row.before);
  });
  class Notices extends rowsOf<NoticeRow>() {}
  Notices.init(
    {
      seq: { type: DataTypes.BIGINT, primaryKey: true, autoIncrement: true },
      id: uuid,
      userId: uuid,
      seriesId: uuid,
      mark: DataTypes.STRING(190),
      slot: DataTypes.STRING(16),
      number: DataTypes.INTEGER,
      due: DataTypes.STRING(16),
      at: instant,
      saidAt: instant,
      browser: DataTypes.BOOLEAN,
      overview: DataTypes.JSON,
    },
    { sequelize, modelName: 'notices' },
  );
  class Messages extends rowsOf<MessageRow>() {}
  Messages.init(
    {
      id: { type: uuid, primaryKey: true },
      noticeId: uuid,
      userId: uuid,
      channel: DataTypes.STRING(7),
      subject: DataTypes.STRING(255),
      text: DataTypes.TEXT,
      state: DataTypes.STRING(8),
      tries: DataTypes.INTEGER,
      nextTryAt: instant,
      decidedAt: instant,
      settledAt: instant,
      why: DataTypes.STRING(255),
      lease: uuid,
      deviceId: { type: uuid, defaultValue: '' },
    },
    { sequelize, modelName: 'messages' },
  );
  class Devices extends rowsOf<DeviceRow>() {}
  Devices.init(
    {
      sum: { type: DataTypes.CHAR(64), primaryKey: true },
      id: uuid,
      userId: uuid,
      session: DataTypes.CHAR(32),
      name: DataTypes.STRING(60),
      endpoint: DataTypes.STRING(1000),
      p256dh: DataTypes.CHAR(87),
      auth: DataTypes.CHAR(22),
      createdAt: instant,
      usedAt: instant,
    },
    { sequelize, modelName: 'devices' },
  );
  class MadeOnce extends rowsOf<MadeOnceRow>() {}
  MadeOnce.init(
    { name: { type: DataTypes.STRING(30), primaryKey: true }, value: DataTypes.STRING(500) },
    { sequelize, modelName: 'madeOnce', tableName: 'madeOnce' },
  );
  class Arrivals extends rowsOf<ArrivalRow>() {}
  Arrivals.init(
    {
      messageId: { type: uuid, primaryKey: true },
      userId: uuid,
      channel: DataTypes.STRING(7),
      address: DataTypes.STRING(254),
      subject: DataTypes.STRING(255),
      text: DataTypes.TEXT,
      arrivesAt: instant,
      copies: DataTypes.INTEGER,
    },
    { sequelize, modelName: 'arrivals' },
  );
  class Doors extends rowsOf<DoorRow>() {}
  Doors.init(
    {
      hash: { type: DataTypes.CHAR(64), primaryKey: true },
      id: uuid,
      userId: uuid,
      kind: DataTypes.STRING(4),
      name: DataTypes.STRING(100),
      reach: DataTypes.STRING(6),
      placeId: uuid,
      seriesId: uuid,
      createdAt: instant,
      usedAt: instant,
      uses: DataTypes.INTEGER,
    },
    { sequelize, modelName: 'doors' },
  );
  class Limits extends rowsOf<LimitRow>() {}
  Limits.init(
    {
      name: { type: DataTypes.STRING(255), primaryKey: true },
      points: DataTypes.INTEGER,
      ends: DataTypes.BIGINT,
    },
    { sequelize, modelName: 'limits' },
  );
  return {
    limits: Limits,
    doors: Doors,
    users: Users,
    series: Todos,
    places: Places,
    occurrences: Occurrences,
    actions: Actions,
    steps: Steps,
    notices: Notices,
    messages: Messages,
    arrivals: Arrivals,
    devices: Devices,
    madeOnce: MadeOnce,
  };
}
