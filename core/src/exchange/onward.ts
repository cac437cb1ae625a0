import { formatDay, parseDay } from '../calendar/day.ts';
import { parseMoment } from '../calendar/time.ts';
import { CoreError } from '../errors.ts';
import { datesOf } from '../rule/expand.ts';
import { parseRule } from '../rule/parse.ts';
import { propertyOf, momentsOf, type Context, type Entry, type Group } from './entry.ts';
import type { Component, Property } from './jcal.ts';
import { ruleText } from './rules.ts';
import { slotOf } from './timesIn.ts';

/**
 * One time that is meant for those after it too (RFC 5545 §3.2.13) ends its entry and begins another: what it
 * says itself holds from there on, the rest is as before.
 */
export function splitOnward(context: Context, group: Group): Group[] {
  const onward = group.times
    .filter(({ component }) => propertyOf(component, 'recurrence-id')![1].range !== undefined)
    .sort((a, b) => (slotOf(context, a) < slotOf(context, b) ? -1 : 1));
  let current = { ...group, times: group.times.filter((it) => !onward.includes(it)) };
  const found: Group[] = [];
  for (const entry of onward) {
    const parts = splitAt(context, current, entry);
    if (!parts) {
      context.list(
        entry,
        'changed',
        'It was meant for the times after it too, which no rule of ours says: it comes in as one time.',
      );
      current = { ...current, times: [...current.times, entry] };
      continue;
    }
    found.push(parts[0]);
    current = parts[1];
  }
  return [...found, current];
}

function splitAt(context: Context, group: Group, entry: Entry): [Group, Group] | null {
  const { main } = group;
  const rrule = propertyOf(main.component, 'rrule');
  const start = propertyOf(main.component, 'dtstart');
  const id = propertyOf(entry.component, 'recurrence-id')!;
  if (!rrule || !start) return null;
  const recur = rrule[3] as Record<string, unknown>;
  const slot = slotOf(context, entry);
  const theirs = String(id[3]);
  const theirDay = parseDay(theirs.slice(0, 10));
  const before = ruleUpTo(recur, parseDay(String(start[3]).slice(0, 10)), theirDay);
  if (!before) return null;
  const first = propertyOf(entry.component, 'dtstart') ?? renamed(id, 'dtstart');
  const by = parseMoment(String(first[3]).slice(0, 10)).day - theirDay;
  const isLater = (it: Entry) => slotOf(context, it) >= slot;
  const earlier: Entry = {
    ...main,
    component: bounded(context, main.component, before.rule, (it) => it < slot),
  };
  const rest = bounded(context, main.component, before.rest, (it) => it >= slot);
  const later: Entry = {
    ...main,
    uid: `${main.uid}/${theirs.replaceAll(/[-:]/gu, '')}`,
    component: overlaid(rest, entry.component, first),
    by: (main.by ?? 0) + by,
  };
  return [
    { ...group, main: earlier, times: group.times.filter((it) => !isLater(it)) },
    { main: later, siblings: [], times: group.times.filter(isLater) },
  ];
}

const renamed = (
  [, { range: _range, ...params }, type, ...values]: Property,
  name: string,
): Property => [name, params, type, ...values];

type Recur = Record<string, unknown>;

/** A rule up to a day, and what is left of it from there on; null where it cannot be counted. */
function ruleUpTo(recur: Recur, start: number, day: number): { rule: Recur; rest: Recur } | null {
  const { until: _until, count, ...bare } = recur;
  const rule = { ...bare, until: formatDay(day - 1) };
  if (count === undefined) return { rule, rest: recur };
  try {
    const all = datesOf(parseRule(ruleText(bare)), start).list(start - 1, day - 1, 100_000);
    // A start that is off its rule is counted (RFC 5545 §3.8.5.3).
    const gone = all.length + (all[0] === start ? 0 : 1);
    return { rule, rest: { ...recur, count: Math.max(1, Number(count) - gone) } };
  } catch (error) {
    if (error instanceof CoreError) return null;
    throw error;
  }
}

/** An entry with another rule, and those of its dates that are meant. */
function bounded(
  context: Context,
  [name, properties, inside]: Component,
  rule: Recur,
  isMeant: (moment: string) => boolean,
): Component {
  const kept = properties.flatMap((property): Property[] => {
    const [it, params, type, ...values] = property;
    if (it === 'rrule') return [['rrule', {}, 'recur', rule]];
    if (it !== 'rdate' && it !== 'exdate') return [property];
    const some = values.filter((value) =>
      isMeant(momentsOf(context, ['x', [[it, params, type, value]], []], it)[0]!),
    );
    return some.length ? [[it, params, type, ...some]] : [];
  });
  return [name, kept, inside];
}

/** What one says itself in place of what the other says; its dates and rule stay. */
function overlaid(
  [name, properties, inside]: Component,
  by: Component,
  first: Property,
): Component {
  const own = by[1].filter(
    ([it]) =>
      !['recurrence-id', 'rrule', 'rdate', 'exdate', 'dtstart', 'x-back-again'].includes(it),
  );
  const isOwn = (it: string) => own.some(([other]) => other === it);
  const rest = properties.filter(
    ([it]) =>
      !isOwn(it) &&
      !['dtstart', 'x-back-again'].includes(it) &&
      // Its end is said anew with its start.
      !['dtend', 'due', 'duration'].includes(it),
  );
  return [name, [...rest, first, ...own], by[2].length ? by[2] : inside];
}
