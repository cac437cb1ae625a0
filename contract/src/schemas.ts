import { checkBundle, type Bundle } from '@back-again/core/bundles';
import {
  CoreError,
  NO_DETAILS,
  checkDetails,
  checkFile,
  checkHolds,
  checkFileName,
  checkFileSize,
  checkReminders,
  checkUp,
  MOST_ANSWER,
  MOST_NOTE,
  MOST_STEP,
  MOST_TAG,
  MOST_TAKES,
  PHONE,
  checkPlaceParts,
  checkSeries,
  checkZone,
  parseDay,
  parseInstant,
  parseMoment,
  partOf,
  type Answer,
  type Details,
  type KeptFile,
  type Left,
  type PlaceParts,
  type Reminder,
  type Series,
  type Settings,
  UNDATED,
  WEEKDAYS,
  type Weekday,
} from '@back-again/core';
import {
  array,
  boolean,
  mixed,
  number,
  object,
  string,
  type InferType,
  type Schema,
  type TestContext,
  type ValidationError,
} from 'yup';

/** Runs a check of the core as a Yup test, with the core's own words. */
export function passes(check: (value: unknown) => unknown) {
  return (value: unknown, context: TestContext): boolean | ValidationError => {
    if (value === undefined || value === null) return true;
    try {
      check(value);
      return true;
    } catch (error) {
      if (!(error instanceof CoreError)) throw error;
      const inside = context.path && !error.where.startsWith(context.path);
      const path = inside ? `${context.path}.${error.where}` : error.where;
      return context.createError({ message: error.message, path, params: { code: error.code } });
    }
  };
}

const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/;
/** A UUID. */
export const id = (label: string) =>
  string()
    .strict()
    .required(`${label} is missing.`)
    .matches(UUID, `${label} must be a UUID in lower case.`);
const moment = (label: string) =>
  string()
    .strict()
    .typeError(`${label} must be text.`)
    .test(passes((value) => parseMoment(value as string, label)));
const slot = string()
  .strict()
  .typeError('A slot is text.')
  .test(passes((value) => value === UNDATED || parseMoment(value as string, 'slot')));

const name = string()
  .strict()
  .typeError('A name is text.')
  .required('Give an e-mail address.')
  .test(
    'length',
    'An e-mail address has 254 characters at most.',
    // Some letters are longer in lower case, as which it is kept.
    (value) => (value ?? '').toLowerCase().length <= 254,
  )
  .matches(/^[^\s@]+@[^\s@]+\.[^\s@]+$/, 'That is not written as an e-mail address.');
const password = string()
  .strict()
  .typeError('A password is text.')
  .required('Give a password.')
  .min(10, 'A password has 10 characters at least.')
  .max(200, 'A password has 200 characters at most.');
const zone = string()
  .strict()
  .typeError('A time zone is text.')
  .required('Give a time zone.')
  .test(passes((value) => checkZone(value as string, 'zone')));

const timeOfDay = (label: string) =>
  string()
    .strict()
    .typeError(`${label} is text.`)
    .matches(/^([01]\d|2[0-3]):[0-5]\d$/, `${label} is written as 18:30.`);

export const registerSchema = object({ name, password, zone }).noUnknown().strict();
export type Register = InferType<typeof registerSchema>;

export const signInSchema = object({
  name: string()
    .strict()
    .typeError('A name is text.')
    .required('Give an e-mail address.')
    .max(254, 'That is too long for an e-mail address.'),
  password: string()
    .strict()
    .typeError('A password is text.')
    .required('Give a password.')
    .max(200, 'That is too long for a password.'),
})
  .noUnknown()
  .strict();
export type SignIn = InferType<typeof signInSchema>;

export const settingsSchema = object({
  zone,
  dayStart: string()
    .strict()
    .typeError('The start of the day is text.')
    .required('Say when your day starts.')
    .matches(/^0\d:[0-5]\d$|^1[01]:[0-5]\d$/, 'The day starts between 00:00 and 11:59.'),
  weekStart: string()
    .strict()
    .oneOf(['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'] as const, 'The week starts on MO to SU.')
    .required('Say when your week starts.'),
  workdays: array(string<Weekday>().strict().oneOf(WEEKDAYS).required('A day is missing.'))
    .strict()
    .typeError('The working days are a list.')
    .max(7, 'A week has seven days.')
    .optional(),
  holidays: string()
    .strict()
    .typeError('The region is text.')
    .matches(/^([A-Z]{2}(-[A-Z0-9]{1,3})?)?$/, 'A region is written as GB or GB-ENG.')
    .optional(),
  remindAt: timeOfDay('The hour of reminders').optional(),
  quiet: object({
    from: timeOfDay('The beginning of the quiet hours').required('Say when they begin.'),
    to: timeOfDay('The end of the quiet hours').required('Say when they end.'),
  })
    .noUnknown()
    .strict()
    .typeError('The quiet hours have a beginning and an end.')
    .default(undefined)
    .optional(),
  channels: array(
    string<'browser' | 'email' | 'text'>()
      .strict()
      .oneOf(['browser', 'email', 'text'])
      .required('A way is missing.'),
  )
    .strict()
    .typeError('The ways of being reminded are a list.')
    .max(3, 'There are three ways beside the list.')
    .optional(),
  noMail: boolean().strict().typeError('That is yes or no.').optional(),
  phone: string()
    .strict()
    .typeError('A number is text.')
    .matches(PHONE, 'A number is written with its country, as +441234567890.')
    .optional(),
  newReminders: mixed<Reminder[]>()
    .test(passes((value) => checkReminders(value, 'newReminders')))
    .optional(),
  overview: timeOfDay('The hour of the overview').optional(),
  holds: mixed<Partial<Record<Weekday, number>>>()
    .test(passes((value) => checkHolds(value, 'holds')))
    .optional(),
  up: object({
    from: string().strict().typeError('An hour is text.').required('Say when you get up.'),
    to: string().strict().typeError('An hour is text.').required('Say when you go to bed.'),
  })
    .noUnknown()
    .strict()
    .typeError('The hours in which you are up have a beginning and an end.')
    .test(passes((value) => checkUp(value, 'up')))
    .default(undefined)
    .optional(),
})
  .noUnknown()
  .strict();

/** When it comes back alone: what it is stands beside it. */
export function checkWhen(given: unknown): Series {
  for (const key of Object.keys(Object(given) as object))
    if (partOf(key)?.half !== 'when')
      throw new CoreError(
        'series.part',
        key,
        `When a to-do comes back has no part named “${key}”.`,
      );
  return checkSeries(given);
}

/** What to-dos are, with a place by its id. */
function checkParts(given: unknown): Partial<Details> {
  const details = checkDetails(given);
  if (typeof details.place === 'string' && !UUID.test(details.place))
    throw new CoreError('series.place', 'place', 'Where it belongs is the id of a place.');
  return details;
}

/** All that is needed to know what a to-do is: its title. */
export function checkWhat(given: unknown): Details {
  const details = checkParts(given);
  if (details.title === undefined)
    throw new CoreError('series.title', 'title', 'Say in a few words what it is.');
  return { ...NO_DETAILS, ...details } as Details;
}

const series = mixed<Series>()
  .required('Say when it comes back.')
  .test(passes((value) => checkWhen(value)));

const timeOf = { todo: id('The to-do'), slot: slot.optional() };
/** A date. */
export const day = (label: string) =>
  string()
    .strict()
    .typeError(`${label} must be text.`)
    .test(passes((value) => parseDay(value as string, label)));
const instant = (label: string) =>
  string()
    .strict()
    .typeError('The moment is text.')
    .test(passes((value) => parseInstant(value as string, label)));
const times = array(
  object({ todo: id('The to-do'), slot: slot.required('A slot is missing.') })
    .noUnknown()
    .strict(),
)
  .strict()
  .typeError('The times are a list.')
  .required('The times are missing.')
  .min(1, 'Say which times.')
  .max(500, 'At most 500 times at once.');
/** To-dos by their ids; left out: all of them. */
const todos = array(id('The to-do'))
  .strict()
  .typeError('The to-dos are a list.')
  .min(1, 'Say which to-dos.')
  .max(5000, 'At most 5,000 to-dos at once.')
  .optional();

const details = mixed<Partial<Details>>().test(passes((value) => checkParts(value)));
const isOfWhen = (value: unknown) =>
  Object.keys(Object(value) as object).every((key) => partOf(key)?.half !== 'what');

const isParts = (value: unknown) =>
  value === undefined || (typeof value === 'object' && value !== null && !Array.isArray(value));

/**
 * What every action has: an `id` of its own, with which it happens once, however often it is sent; and
 * the moment at which the person did it, left out where that is now.
 */
const sent = { id: id('The id'), at: instant('at').optional() };

const isAnswer = (value: unknown) =>
  value === null ||
  typeof value === 'boolean' ||
  (typeof value === 'number' && Number.isFinite(value)) ||
  (typeof value === 'string' && value.length <= MOST_ANSWER);
/** Answers by the ids of their questions; null takes one away. */
const answers = mixed<Record<string, Answer | null>>()
  .optional()
  .test(
    'answers',
    'The answers are an object: each a number, yes or no, or up to 2,000 characters.',
    (value: unknown) =>
      value === undefined ||
      (typeof value === 'object' &&
        value !== null &&
        !Array.isArray(value) &&
        Object.keys(value).length <= 40 &&
        Object.entries(value).every(([key, it]) => key.length <= 36 && isAnswer(it))),
  );
/** The minutes that it really took; null takes them away. */
const spent = number()
  .strict()
  .typeError('What it took is a number of minutes.')
  .integer('What it took is in whole minutes.')
  .min(0, 'What it took is not less than nothing.')
  .max(MOST_TAKES, 'What it took is a hundred hours at most.')
  .nullable()
  .optional();
const written = { answers, spent };
const yes = (label: string) =>
  boolean().strict().typeError(`${label} is true or false.`).required(`${label} is missing.`);
const stepId = string()
  .strict()
  .typeError('A step is named by its id.')
  .required('Say which step.')
  .max(36, 'There is no such step.');

/** Where a time moves to, for this time only. */
const movesTo = {
  plan: moment('plan').optional(),
  due: moment('due').optional(),
  /** So many times a period: the days for which its missing ones are planned. */
  days: array(day('days').required('A day is missing.'))
    .strict()
    .typeError('The days are a list.')
    .max(31, 'A period has 31 days at most.')
    .optional(),
  /** It was proposed, and not thought of by the person. */
  proposed: boolean().strict().typeError('Whether it was proposed is true or false.').optional(),
};
const SOMEWHERE = 'Say where it moves to: a plan, a due date or both.';
const isSomewhere = ({ plan, due, days }: { plan?: unknown; due?: unknown; days?: unknown }) =>
  plan !== undefined || due !== undefined || days !== undefined;

/** What can be done, by its `do`. */
export const actionSchemas = {
  create: object({
    do: string<'create'>().required(),
    ...sent,
    todo: id('The to-do'),
    series,
    details: mixed<Partial<Details> & Pick<Details, 'title'>>()
      .required('Say what it is.')
      .test(passes((value) => checkWhat(value))),
  }),
  done: object({
    do: string<'done'>().required(),
    ...sent,
    ...timeOf,
    ...written,
    when: instant('when').optional(),
    /** What becomes of its steps that are left; left out: they are let go of. */
    left: string<Left>().strict().oneOf(['drop', 'keep']).optional(),
    /** Whether what was moved after `when`, and no longer fits, comes to nothing; else it is refused. */
    letsGo: boolean().strict().typeError('Whether it lets go is true or false.').optional(),
  }),
  tally: object({
    do: string<'tally'>().required(),
    ...sent,
    ...timeOf,
    ...written,
    when: instant('when').optional(),
  }),
  tick: object({
    do: string<'tick'>().required(),
    ...sent,
    ...timeOf,
    step: stepId,
    on: yes('Whether it is ticked'),
  }),
  /** A step of this time alone; without words it is taken away. */
  addStep: object({
    do: string<'addStep'>().required(),
    ...sent,
    ...timeOf,
    step: object({
      id: stepId,
      text: string()
        .strict()
        .typeError('A step is text.')
        .defined('Say what the step is.')
        .max(MOST_STEP, `A step has ${MOST_STEP} characters at most.`),
    })
      .noUnknown()
      .strict(),
  }),
  answer: object({
    do: string<'answer'>().required(),
    ...sent,
    ...timeOf,
    ...written,
  }),
  /** A file that was sent before belongs to a time from here on. */
  file: object({
    do: string<'file'>().required(),
    ...sent,
    ...timeOf,
    file: mixed<KeptFile>()
      .required('Say which file.')
      .test(passes((value) => checkFile(value)))
      .test('id', 'The file is named by a UUID in lower case.', (it) => UUID.test(it.id)),
  }),
  /** Lets go of a file. */
  unfile: object({
    do: string<'unfile'>().required(),
    ...sent,
    ...timeOf,
    file: id('The file'),
  }),
  part: object({
    do: string<'part'>().required(),
    ...sent,
    ...timeOf,
    part: number()
      .strict()
      .typeError('A part is a number.')
      .required('Say how much of it is done.')
      .integer('A part is a whole number.')
      .min(0, 'A part is 0 to 99 in a hundred.')
      .max(99, 'A part is 0 to 99 in a hundred; all of it is done.'),
  }),
  note: object({
    do: string<'note'>().required(),
    ...sent,
    ...timeOf,
    note: string()
      .strict()
      .typeError('A note is text.')
      .defined('The note is missing.')
      .max(MOST_NOTE, 'A note has 2,000 characters at most.'),
  }),
  later: object({
    do: string<'later'>().required(),
    ...sent,
    ...timeOf,
    /** The instant until which nothing is said of it. */
    to: instant('to').required('Say until when.'),
  }),
  skip: object({ do: string<'skip'>().required(), ...sent, ...timeOf }),
  move: object({
    do: string<'move'>().required(),
    ...sent,
    ...timeOf,
    ...movesTo,
  }).test('somewhere', SOMEWHERE, isSomewhere),
  /** Several times, each to a day of its own: one undo takes all back. */
  arrange: object({
    do: string<'arrange'>().required(),
    ...sent,
    moves: array(
      object({ todo: id('The to-do'), slot: slot.required('A slot is missing.'), ...movesTo })
        .noUnknown()
        .strict()
        .test('somewhere', SOMEWHERE, isSomewhere),
    )
      .strict()
      .typeError('The moves are a list.')
      .required('The moves are missing.')
      .min(1, 'Say which times.')
      .max(500, 'At most 500 times at once.'),
  }),
  bring: object({
    do: string<'bring'>().required(),
    ...sent,
    times,
    /** The day that they are all planned for; left out: today. */
    to: day('to').optional(),
  }),
  pause: object({
    do: string<'pause'>().required(),
    ...sent,
    todos,
    from: day('from').optional(),
    to: day('to').nullable().optional(),
  }),
  resume: object({ do: string<'resume'>().required(), ...sent, todos }),
  change: object({
    do: string<'change'>().required(),
    ...sent,
    ...timeOf,
    series: mixed<Partial<Series>>()
      .optional()
      .test('parts', 'What changes is an object with parts of the definition.', isParts)
      .test('when', 'What it is, is changed beside it.', isOfWhen),
    details: details.optional(),
  }).test(
    'something',
    'Say what changes.',
    (value) => value.series !== undefined || value.details !== undefined,
  ),
  /** What to-dos are: it holds at once for all times that are open or to come. */
  describe: object({
    do: string<'describe'>().required(),
    ...sent,
    todos: todos.required('Say which to-dos.'),
    details: details.required('Say what they are.'),
    /** Put to the tags that each has. */
    tag: string()
      .strict()
      .typeError('A tag is text.')
      .min(1, 'Say which tag.')
      .max(MOST_TAG, `A tag has ${MOST_TAG} characters at most.`)
      .optional(),
  }),
  end: object({ do: string<'end'>().required(), ...sent, ...timeOf }),
  reopen: object({ do: string<'reopen'>().required(), ...sent, todo: id('The to-do') }),
  drop: object({ do: string<'drop'>().required(), ...sent, ...timeOf }),
  /** Puts a time above all for the day on which it is done, or takes it down. */
  above: object({
    do: string<'above'>().required(),
    ...sent,
    todo: id('The to-do'),
    slot: slot.required('Say which time.'),
    on: yes('Whether it is above all'),
  }),
  /** Several to-dos come to be at once: one undo takes all away. */
  createAll: object({
    do: string<'createAll'>().required(),
    ...sent,
    made: array(
      object({
        todo: id('The to-do'),
        series,
        details: mixed<Partial<Details> & Pick<Details, 'title'>>()
          .required('Say what it is.')
          .test(passes((value) => checkWhat(value))),
      })
        .noUnknown()
        .strict(),
    )
      .strict()
      .typeError('The to-dos are a list.')
      .required('The to-dos are missing.')
      .min(1, 'Say which to-dos.')
      .max(300, 'At most 300 to-dos at once.'),
  }),
  /** Writes a bundle anew; null takes it away. What was laid from it stays. */
  bundle: object({
    do: string<'bundle'>().required(),
    ...sent,
    bundle: id('The bundle'),
    has: mixed<Omit<Bundle, 'id'>>()
      .nullable()
      .defined('Say what is in the bundle, or null.')
      .test(passes((value) => value === null || checkBundle(value))),
  }),
  /** The sphere that alone is in sight; null: all are. */
  focus: object({
    do: string<'focus'>().required(),
    ...sent,
    place: id('The place').nullable().defined('Say which sphere, or null.'),
  }),
  /** Makes a place, or changes parts of it. */
  place: object({
    do: string<'place'>().required(),
    ...sent,
    place: id('The place'),
    parts: mixed<Partial<PlaceParts>>()
      .required('Say what of it.')
      .test(passes((value) => checkPlaceParts(value))),
  }),
  unplace: object({ do: string<'unplace'>().required(), ...sent, place: id('The place') }),
  /** A strand rests, or goes on. */
  rest: object({
    do: string<'rest'>().required(),
    ...sent,
    place: id('The place'),
    rests: yes('Whether it rests'),
  }),
  /** A project is finished; what is open in it ends, goes to its strand, or is left. */
  finishProject: object({
    do: string<'finishProject'>().required(),
    ...sent,
    place: id('The place'),
    open: string<'end' | 'strand' | 'leave'>()
      .strict()
      .required('Say what becomes of what is open.')
      .oneOf(['end', 'strand', 'leave'], 'What is open is “end”, “strand” or “leave”.'),
  }),
  undo: object({ do: string<'undo'>().required(), ...sent, of: id('The action') }),
  remove: object({ do: string<'remove'>().required(), ...sent, todo: id('The to-do') }),
  /** Several at once, with their records. */
  removeAll: object({
    do: string<'removeAll'>().required(),
    ...sent,
    todos: todos.required('Say which to-dos.'),
  }),
} as const;

/** What is looked for in the record: words, and where the page begins. */
export const findSchema = object({
  words: string()
    .strict()
    .typeError('What is looked for is text.')
    .required('Say what is looked for.')
    .max(200, 'What is looked for has 200 characters at most.'),
  after: string()
    .strict()
    .matches(/^\d{1,16} [0-9a-f-]{36} \d{1,9}$/, 'That is no page of the record.')
    .optional(),
})
  .noUnknown()
  .strict();

/** From which day to which it is asked what ended. */
export const endedSchema = object({
  from: day('from').required('Say from which day.'),
  to: day('to').required('Say to which day.'),
})
  .noUnknown()
  .strict();

const SHA_256 = /^[0-9a-f]{64}$/;

/** A file that is to be sent, in pieces. */
export const fileSchema = object({
  id: id('The file'),
  name: string()
    .strict()
    .typeError('A file has a name.')
    .required('Say what the file is called.')
    .test(passes((value) => checkFileName(value))),
  /** As it is said to be; empty: not known. */
  type: string().strict().typeError('The type is text.').defined().max(200),
  /** In bytes. */
  size: number()
    .strict()
    .typeError('The size is a number of bytes.')
    .required('Say how long the file is.')
    .test(passes((value) => checkFileSize(value))),
  /** Of what is in it, as hexadecimal digits (SHA-256, FIPS 180-4); null where the device cannot tell. */
  sum: string()
    .strict()
    .matches(SHA_256, 'The sum is a SHA-256 in hexadecimal digits.')
    .nullable()
    .defined(),
})
  .noUnknown()
  .strict();
export type FileBody = InferType<typeof fileSchema>;

type Actions = typeof actionSchemas;
/** One action as a client sends it. */
export type Action = { [K in keyof Actions]: InferType<Actions[K]> & { do: K } }[keyof Actions];
export type ActionOf<K extends Action['do']> = Extract<Action, { do: K }>;

const kinds = Object.keys(actionSchemas).join(', ');

/**
 * The schema for an action by what it says it does.
 * @throws CoreError `action.do` where that is nothing that can be done.
 */
export function actionSchemaFor(body: unknown): Schema<Action> {
  const what =
    typeof body === 'object' && body !== null ? (body as { do?: unknown }).do : undefined;
  if (typeof what !== 'string' || !Object.hasOwn(actionSchemas, what))
    throw new CoreError('action.do', 'do', `An action does one of these: ${kinds}.`);
  return actionSchemas[what as keyof Actions].noUnknown().strict() as unknown as Schema<Action>;
}

/** The last thing said that the person has seen, by its running number. */
export const seenSchema = object({
  through: number()
    .strict()
    .typeError('A running number is a number.')
    .required('Say up to what.')
    .integer('A running number is a whole number.')
    .min(0, 'A running number is 0 or more.')
    .max(Number.MAX_SAFE_INTEGER, 'There is no such running number.'),
})
  .noUnknown()
  .strict();

const oneIn = (label: string) =>
  number()
    .strict()
    .typeError(`${label} is a number.`)
    .required(`${label} is missing.`)
    .integer(`${label} is a whole number.`)
    .min(0, `${label} is 0 to 100.`)
    .max(100, `${label} is 0 to 100.`);
/** How the stand-in for e-mail and text messages behaves. */
export const standInSchema = object({
  /** Of so many tries one fails; 0: none. */
  failsOneIn: oneIn('How often it fails'),
  /** Of so many one arrives, though the answer that it did is lost; 0: none. */
  doublesOneIn: oneIn('How often an answer is lost'),
  /** Seconds until what was sent arrives. */
  delay: number()
    .strict()
    .typeError('The delay is a number of seconds.')
    .required('The delay is missing.')
    .integer('The delay is a whole number of seconds.')
    .min(0, 'The delay is 0 to 86,400 seconds.')
    .max(86_400, 'The delay is 0 to 86,400 seconds.'),
})
  .noUnknown()
  .strict();
export type StandIn = InferType<typeof standInSchema>;

export const clockSchema = object({
  now: string()
    .strict()
    .typeError('The time is text.')
    .required('Say what time it is.')
    .test(passes((value) => parseInstant(value as string, 'now'))),
})
  .noUnknown()
  .strict();

/** Settings as a client sends and gets them. */
export type SettingsBody = Settings;

/** A whole number, as text. */
export const whole = (label: string) =>
  string()
    .strict()
    .matches(/^\d{1,15}$/, `${label} is a whole number.`);
/** Behind how many ended times the page of a record begins. */
export const recordSchema = object({ skip: whole('skip').optional() })
  .noUnknown()
  .strict();
/** From which version on changes are asked for, and behind which to-do the page begins. */
export const changesSchema = object({
  since: whole('since').optional(),
  after: id('after').notRequired(),
})
  .noUnknown()
  .strict();
