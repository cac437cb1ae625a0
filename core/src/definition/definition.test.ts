import { chance } from '../chance.ts';
import { read } from '../phrase/meaning/read.ts';
import { say, typed } from '../phrase/speech/readable.ts';
import { rewritten } from '../phrase/speech/rewrite.ts';
import {
  checkDefinition,
  checkDetails,
  checkSeries,
  definitionOf,
  whatOf,
  whenOf,
} from './check.ts';
import type { Definition } from './definition.ts';
import { describe as entered, undescribe, type Describing } from './describing.ts';
import { NO_DETAILS, type Details } from './details.ts';
import { PARTS, controlOf, offersOf, type Part } from './parts.ts';

const TODAY = '2027-06-01';
const WEIGH = read('Weigh the hives every Friday, takes 30 min, belongs to Bees', TODAY).series;

describe('when, and what', () => {
  test('a definition is two halves, which make it again', () => {
    expect(whenOf(WEIGH)).toEqual({
      start: '2027-06-04',
      repeat: { by: 'calendar', rule: 'FREQ=WEEKLY;BYDAY=FR' },
    });
    expect(whatOf(WEIGH)).toEqual({
      ...NO_DETAILS,
      title: 'Weigh the hives',
      takes: 30,
      place: 'Bees',
    });
    expect(definitionOf(whenOf(WEIGH), whatOf(WEIGH))).toEqual(WEIGH);
    expect(JSON.stringify(definitionOf(whenOf(WEIGH), whatOf(WEIGH)))).toBe(JSON.stringify(WEIGH));
  });

  test('the machine passes by what is none of its own; what is no part at all is refused', () => {
    const { title, ...when } = WEIGH;
    expect(checkSeries({ title, ...when, importance: 'high', tags: ['bees'] })).toEqual(
      whenOf(WEIGH),
    );
    expect(() => checkSeries({ ...when, colour: 'red' })).toThrow(
      expect.objectContaining({ where: 'colour' }),
    );
  });

  test.each([
    [{ title: ' ' }, 'title'],
    [{ title: 'x'.repeat(201) }, 'title'],
    [{ takes: 0 }, 'takes'],
    [{ takes: 1.5 }, 'takes'],
    [{ takes: 'PT30M' }, 'takes'],
    [{ place: '' }, 'place'],
    [{ start: TODAY }, 'start'],
    [null, 'series'],
  ])('what it is, is refused with its place: %j', (given, where) => {
    expect(() => checkDetails(given)).toThrow(expect.objectContaining({ where }));
  });

  test('null takes a part away', () => {
    expect(checkDetails({ takes: null, place: ' Bees ' })).toEqual({ takes: null, place: 'Bees' });
  });
});

/** Where it is done: a part that is in the table and nowhere else. */
const WEATHER: Part = {
  key: 'weather',
  half: 'what',
  kind: 'weather',
  check(value) {
    if (value === undefined || value === null) return undefined;
    if (value !== 3 && value !== 5) throw new Error('no such weather');
    return value;
  },
  reads: [{ pattern: 'in wind {n}', value: ({ n }) => n }],
  says: (n: number) => ({ joint: ', ', text: `in wind ${n}` }),
  control: {
    title: 'In which wind',
    offer: { label: 'in which wind', isFree: () => true },
    as: { kind: 'number', label: 'Wind', from: 3, to: 5 },
  },
};

describe('a part that is added to the table alone', () => {
  beforeAll(() => void PARTS.push(WEATHER));
  afterAll(() => void PARTS.pop());
  const with5 = { ...WEIGH, weather: 5 } as Definition;

  test('is checked', () => {
    expect(checkDefinition(with5)).toEqual(with5);
    expect(checkDetails({ weather: 5 })).toEqual({ weather: 5 });
    expect(() => checkDefinition({ ...WEIGH, weather: 4 })).toThrow('no such weather');
    expect(checkSeries(with5)).toEqual(whenOf(WEIGH));
  });

  test('is read, said, and read again', () => {
    const text = 'Weigh the hives every Friday in wind 5';
    const { series, sources } = read(text, TODAY);
    expect(series).toMatchObject({ title: 'Weigh the hives', weather: 5 });
    expect(sources.find(({ part }) => part === 'weather')?.text).toBe('in wind 5');
    expect(say(series, TODAY)).toContain(', in wind 5.');
    expect(read(say(series, TODAY), TODAY).series).toEqual(series);
    expect(read(typed(series, TODAY), TODAY).series).toEqual(series);
  });

  test('is offered where it is not set, with its control', () => {
    expect(offersOf(WEIGH)).toContainEqual({ kind: 'weather', label: 'in which wind' });
    expect(offersOf(with5).map(({ kind }) => kind)).not.toContain('weather');
    expect(controlOf('weather')).toBe(WEATHER.control);
  });

  test('is taken away, in the sentence and from what it is', () => {
    const text = 'Weigh the hives in wind 5 every Friday';
    const plain = read('Weigh the hives every Friday', TODAY).series;
    expect(rewritten(text, read(text, TODAY), plain, TODAY)).toBe('Weigh the hives every Friday');
    expect(checkDetails({ weather: null })).toEqual({ weather: null });
    expect(definitionOf(whenOf(with5), { ...whatOf(with5), weather: null } as Details)).toEqual(
      WEIGH,
    );
  });
});

test('described in any order and taken back, it is what was said last and is left', () => {
  const below = chance(5);
  const first: Details = { ...NO_DETAILS, title: 'Weigh the hives' };
  for (let run = 0; run < 200; run++) {
    let details = first;
    let log: Describing[] = [];
    for (let i = 0; i < 12; i++) {
      if (log.length && below(4) === 0) {
        const n = below(log.length);
        const undone = undescribe(details, log.slice(n));
        details = undone.details;
        log = [...log.slice(0, n), ...undone.log];
      } else {
        const step = {
          key: String(i),
          at: below(20),
          details: {
            ...(below(2) ? { title: `Weigh ${i}` } : {}),
            ...(below(2) ? { takes: below(3) ? i : null } : {}),
          },
        };
        const n = log.filter((it) => it.step.at <= step.at).length;
        const next = entered(details, log.slice(n), step);
        details = next.details;
        log = [...log.slice(0, n), ...next.log];
      }
      let anew = first;
      for (const { step, was } of log) {
        for (const part of Object.keys(step.details) as (keyof Details)[])
          expect(was[part]).toEqual(anew[part]);
        anew = { ...anew, ...step.details };
      }
      expect(details).toEqual(anew);
    }
  }
});
