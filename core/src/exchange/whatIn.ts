import { NO_DETAILS, type Details } from '../definition/details.ts';
import {
  MOST_DETAIL_NOTE,
  MOST_TAG,
  MOST_TAGS,
  MOST_TAKES,
  MOST_TITLE,
} from '../definition/whatChecks.ts';
import { parseMoment } from '../calendar/time.ts';
import {
  lengthOf,
  numberOf,
  propertyOf,
  textOf,
  type Context,
  type Entry,
  type Ours,
} from './entry.ts';
import type { Component, Property } from './jcal.ts';

/** What an entry is, by its properties; what they cannot say is as we wrote it. */
export function detailsIn(context: Context, main: Entry, ours: Ours | null): Details {
  const { list } = context;
  const { component } = main;
  const cutTo = (text: string, most: number, what: string) => {
    if (text.length <= most) return text;
    const many = most.toLocaleString('en');
    list(main, 'changed', `${what} has more than ${many} characters: it is cut.`);
    // No character is cut in two.
    return text.slice(0, most).replace(/\p{Surrogate}$/u, '');
  };
  const said = textOf(component, 'summary')?.trim();
  const title = cutTo(said || 'Without a title', MOST_TITLE, 'Its title');
  const text = textOf(component, 'description') ?? '';
  const lines = ours?.details?.steps.map(({ text: step }) => `- [ ] ${step}`).join('\n');
  const isOurs = lines !== undefined && lines !== '' && text.endsWith(lines);
  const note = (isOurs ? text.slice(0, -lines.length) : text).trim();
  const priority = numberOf(component, 'priority') ?? 0;
  return {
    ...NO_DETAILS,
    ...ours?.details,
    title,
    note: cutTo(note, MOST_DETAIL_NOTE, 'Its note'),
    steps: isOurs ? ours!.details!.steps : [],
    tags: tagsIn(context, main).map((tag) => cutTo(tag, MOST_TAG, 'A category')),
    importance: priority >= 1 && priority <= 4 ? 'high' : priority >= 6 ? 'low' : 'normal',
    takes: takesIn(context, main),
  };
}

function tagsIn({ list }: Context, main: Entry): string[] {
  const categories = main.component[1].filter(
    ([name, params]) => name === 'categories' && params['x-back-again-place'] !== 'TRUE',
  );
  const texts = categories.flatMap(([, , , ...values]) => values.map((it) => String(it).trim()));
  const tags = [...new Set(texts.filter(Boolean))];
  if (tags.length > MOST_TAGS)
    list(main, 'changed', `It has more than ${MOST_TAGS} categories: the others are left out.`);
  return tags.slice(0, MOST_TAGS);
}

/** The minutes that it takes: as it says, or the length of an event of up to a day. */
function takesIn({ list }: Context, main: Entry): number | null {
  const { component } = main;
  const said = textOf(component, 'estimated-duration');
  const takes = lengthOf(said) ?? (component[0] === 'vevent' ? eventLength(component) : null);
  const isEvent = component[0] === 'vevent';
  if (said !== null && (takes === null || takes < 1 || takes > MOST_TAKES)) {
    list(main, 'changed', 'How long it takes cannot be said: it is left out.');
    return null;
  }
  if (isEvent && takes !== null && takes > 1440) {
    list(main, 'changed', 'It lasts longer than a day: it comes in on the day on which it begins.');
    return null;
  }
  return takes !== null &&
    takes >= 1 &&
    takes <= MOST_TAKES &&
    (said !== null || hasHour(component))
    ? takes
    : null;
}

const hasHour = (component: Component) =>
  String(propertyOf(component, 'dtstart')?.[3] ?? '').includes('T');

/** The minutes of an event, whole days of one without an hour; null where it has no length. */
function eventLength(component: Component): number | null {
  const length = lengthOf(textOf(component, 'duration'));
  if (length !== null) return length;
  const [start, end] = [propertyOf(component, 'dtstart'), propertyOf(component, 'dtend')];
  if (!start || !end) return null;
  const [from, to] = [minutesOf(start), minutesOf(end)];
  return to > from ? to - from : null;
}

/** Of one zone only the hours between matter: the clock’s own changes within an event are let pass. */
function minutesOf(property: Property): number {
  const text = String(property[3]).replace('Z', '');
  const { day, minute } = parseMoment(text.slice(0, text.includes('T') ? 16 : 10));
  return day * 1440 + (minute ?? 0);
}
