import type { Unit } from '../grammar/words.ts';
import type { OfMonths, Speech } from './speech.ts';

const list = (items: readonly string[], link: 'and' | 'or' = 'and') =>
  items.length < 2
    ? items.join('')
    : `${items.slice(0, -1).join(', ')} ${link === 'and' ? 'und' : 'oder'} ${items.at(-1)}`;

const UNITS: Record<Unit, { one: string; many: string; each: string }> = {
  minute: { one: 'Minute', many: 'Minuten', each: 'jede Minute' },
  hour: { one: 'Stunde', many: 'Stunden', each: 'jede Stunde' },
  day: { one: 'Tag', many: 'Tage', each: 'jeden Tag' },
  week: { one: 'Woche', many: 'Wochen', each: 'jede Woche' },
  month: { one: 'Monat', many: 'Monate', each: 'jeden Monat' },
  year: { one: 'Jahr', many: 'Jahre', each: 'jedes Jahr' },
};
const PERS = { month: 'jedes Monats', quarter: 'jedes Quartals', year: 'jedes Jahres' } as const;
const PLACES = ['ersten', 'zweiten', 'dritten', 'vierten', 'fünften'];
const CHANNELS = {
  email: ' per E-Mail',
  text: ' per Textnachricht',
  browser: ' im Browser',
  app: ' in der App',
} as const;
const QUOTA_PERS = { day: 'am Tag', week: 'in der Woche', month: 'im Monat' } as const;

function place(nth: number): string | null {
  const name = PLACES[Math.abs(nth) - 1];
  if (name === undefined) return null;
  if (nth > 0) return name;
  return nth === -1 ? 'letzten' : `${['', 'vor', 'dritt', 'viert', 'fünft'][-nth - 1]}letzten`;
}

function ofText({ n, named, inMonths }: OfMonths): string {
  if (named.length) return `im ${list(named)}`;
  return (n === 1 ? 'jedes Monats' : `jedes ${n}. Monats`) + inMonths;
}

const every = (n: number, unit: Unit) =>
  n === 1 ? UNITS[unit].each : `alle ${n} ${UNITS[unit].many}`;
const adverb = (name: string) => `${name.toLowerCase()}s`;

/** German, for reading back alone. */
export const GERMAN: Speech = {
  language: 'de',
  locale: 'de-DE',
  list,
  count: (n, unit) => `${n} ${n === 1 ? UNITS[unit].one : UNITS[unit].many}`,
  workdays: (n) => `${n} ${n === 1 ? 'Arbeitstag' : 'Arbeitstage'}`,
  joints: {
    comesBack: ': ',
    undated: ': ',
    once: ': ',
    onDay: ' am ',
    mode: ' ',
    at: ' um ',
    until: ', bis ',
    within: ', für ',
    first: ', zuerst am ',
    from: ', ab ',
    counted: ', gezählt ab ',
    opens: ', offen ab ',
    remind: ', Erinnerung ',
    takes: ', dauert ',
    place: ', gehört zu ',
    and: ' und ',
  },
  undated: 'noch ohne Datum',
  once: 'einmal',
  mode: 'nach dem Erledigen',
  times: (n) => `${n}-mal`,

  every,
  onDays: (names, isMondayToFriday) =>
    isMondayToFriday ? 'montags bis freitags' : list(names.map(adverb)),
  weeksOn: (n, names) => `alle ${n} Wochen am ${list(names)}`,
  inMonths: (names) => `im ${list(names)}`,
  exceptMonths: (names) => `außer im ${list(names)}`,
  monthDays(days, of, lacking) {
    const said = days.map((day) => (day < 0 ? `${place(day)!} Tag` : `${day}.`));
    const text = `am ${list(said)} ${ofText(of)}`;
    if (lacking === null) return text;
    return lacking === 'last' ? `${text}, sonst am letzten Tag` : `${text}, der ihn hat`;
  },
  positions: (groups, of) =>
    `${list(groups.map(({ nth, names }) => `am ${list(nth.map((n) => place(n)!))} ${list(names)}`))} ${ofText(of)}`,
  ofSet: (nth, set, of) =>
    `am ${list(nth.map((n) => place(n)!))} ${set === 'weekday' ? 'Wochentag (Montag bis Freitag)' : 'Tag am Wochenende'} ${ofText(of)}`,
  isPlace: (nth) => place(nth) !== null,
  yearlyOn: (n, day, month) => `${every(n, 'year')} am ${day}. ${month}`,
  yearly: (n, what) => `${every(n, 'year')} ${what}`,
  nthWorkday(nth, per) {
    const said = place(nth);
    if (said) return `am ${said} Arbeitstag ${PERS[per]}`;
    const end = nth < 0 ? ' vom Ende her' : '';
    return `am ${Math.abs(nth)}. Arbeitstag${end} ${PERS[per]}`;
  },
  everyWorkday: (n) => (n === 1 ? 'jeden Arbeitstag' : `alle ${n} Arbeitstage`),
  onDates: (dates) => `am ${dates}`,
  onSomeDates: (n) => `an ${n} ${n === 1 ? 'Tag' : 'Tagen'}`,
  quota: (n, per) => `${n === 1 ? 'einmal' : `${n}-mal`} ${QUOTA_PERS[per]}`,
  except: (dates) => `außer am ${dates}`,
  extra: (dates) => `und auch am ${dates}`,
  exceptAt: (moments) => `aber nicht ${moments}`,
  extraAt: (moments) => `und auch ${moments}`,
  momentOn: ({ time, date }) => `um ${time} am ${date}`,
  thenOn: (names) => `dann am nächsten ${list(names, 'or')}`,
  thenBy: (rule) => `dann am nächsten Tag nach der Regel ${rule}`,
  by: (rule) => `nach der Regel ${rule}`,

  closed: {
    keep: 'wenn geschlossen, trotzdem an dem Tag',
    before: 'wenn geschlossen, am Arbeitstag davor',
    after: 'wenn geschlossen, am Arbeitstag danach',
    nearest: 'wenn geschlossen, am nächstgelegenen Arbeitstag',
    drop: 'wenn geschlossen, gar nicht',
  },
  opens: (span) => `${span} vorher`,
  waits: 'bleibt an seinem Tag, wenn es spät ist',
  lapses: (grace) =>
    grace === null
      ? 'verpasst, sobald es vorbei ist'
      : `verpasst, wenn es ${grace} lang überfällig ist`,
  owes: 'jedes Mal zählt',
  reminder({ before: span, isAtDue, on, at, of, channel, again }) {
    const before = on === null ? span : `am ${on}`;
    const whenOf = {
      due: isAtDue
        ? 'zur Stunde'
        : before === null
          ? at === null
            ? 'an dem Tag'
            : ''
          : `${before} vorher`,
      plan: before === null ? 'am geplanten Tag' : `${before} vor dem geplanten Tag`,
      opens: before === null ? 'wenn es offen ist' : `${before} bevor es offen ist`,
    }[of];
    const clock = at === null ? '' : `${whenOf ? ' ' : ''}um ${at}`;
    const repeated = again
      ? `, dann wieder nach ${again.every}, höchstens ${again.atMost}-mal`
      : '';
    return `${whenOf}${clock}${channel ? CHANNELS[channel] : ''}${repeated}`;
  },
  paused: (from, to) => (to === null ? `pausiert ab ${from}` : `pausiert von ${from} bis ${to}`),
  what: {
    importance: { high: 'wichtig', low: 'weniger wichtig' },
    tagged: (tags) => `Stichwort ${tags}`,
    steps: (steps) => `Schritte: ${steps}`,
    asks: {
      number: (asks, unit) =>
        `fragt nach ${asks}${unit === null || unit === asks ? '' : ` in ${unit}`}`,
      scale: (asks, to) => `fragt ${asks}, 1 bis ${to}`,
      yesno: (asks) => `fragt, ob ${asks}`,
      choice: (asks, of) => `fragt, welches ${asks}: ${of}`,
      text: (asks) => `fragt ${asks}`,
      minutes: () => 'fragt, wie lange es gedauert hat',
    },
    between: (from, to) => `zwischen ${from} und ${to}`,
    slack: (before, after) =>
      before === null
        ? `darf ${after} später sein`
        : `darf ${before} früher${after === null ? '' : ` oder ${after} später`} sein`,
    then: (title, after) => `${after} danach ${title}`,
    someday: 'irgendwann',
    takingUp: 'als neue Gewohnheit',
  },
};
