import type { Definition } from '../../definition/definition.ts';
import { SENTENCES } from '../check/sentences.ts';
import { SPOKEN, SPOKEN_TODAY } from '../check/spoken.ts';
import { read } from '../meaning/read.ts';
import { rewritten, sentBack } from './rewrite.ts';

const TODAY = '2026-11-26';
const change = (text: string, to: (series: Definition) => Definition) => {
  const reading = read(text, TODAY);
  return rewritten(text, reading, to(reading.series), TODAY);
};
const without = (part: keyof Definition) => (series: Definition) => {
  const { [part]: _gone, ...rest } = series;
  return rest as Definition;
};
const rule = (text: string) => (series: Definition) => ({
  ...series,
  repeat: { by: 'calendar' as const, rule: `FREQ=${text}` },
});

test.each<[string, (series: Definition) => Definition, string]>([
  [
    'At 9 water the beans, every 2 days please',
    (series) => ({ ...series, at: ['10:00'] }),
    'at 10:00 water the beans, every 2 days please',
  ],
  ['At 9 water the beans, every 2 days', without('at'), 'water the beans, every 2 days'],
  [
    'water the beans every 2 days',
    (series) => ({ ...series, at: ['10:00'] }),
    'water the beans every 2 days at 10:00',
  ],
  [
    'water the beans fortnightly from 9 January',
    rule('WEEKLY;INTERVAL=3'),
    'water the beans every 3 weeks from 9 January',
  ],
  [
    'water the beans fortnightly',
    (series) => ({ ...series, start: '2026-12-05' }),
    'water the beans fortnightly starting 5 December',
  ],
  ['take the bins out every Tuesday night', without('at'), 'take the bins out every Tuesday'],
  [
    'feed the hens every day from 3 to 8 August',
    (series) => ({ ...series, ends: { after: 3 } }),
    'feed the hens every day 3 times starting 3 August',
  ],
  [
    'every year on 12 June renew the licence',
    (series) => ({ ...rule('YEARLY;BYMONTH=6;BYMONTHDAY=13')(series), start: '2027-06-13' }),
    'every year on 13 June renew the licence',
  ],
  ['ring the yard on Friday', (series) => ({ ...series, start: null }), 'ring the yard'],
  [
    'ring the yard weekly, remind me at 9',
    (series) => ({ ...series, reminders: [{ before: 'P2D' }] }),
    'ring the yard weekly, remind me 2 days before',
  ],
])('“%s” keeps the words that stand for what did not change', (text, to, wanted) =>
  expect(change(text, to)).toBe(wanted),
);

test('whatever the sentence, the changed text is read as the changed definition', () => {
  const changes: ((series: Definition) => Definition)[] = [
    (series) => (series.start === null ? series : { ...series, takes: 45 }),
    (series) =>
      series.repeat?.by === 'completion' || series.repeat?.by === 'quota' || series.start === null
        ? series
        : { ...series, at: ['06:15'] },
    (series) => (series.repeat ? { ...series, ends: { after: 4 } } : series),
    (series) => (series.start === null ? series : { ...series, reminders: [{ before: 'P2D' }] }),
    (series) => (series.repeat?.by === 'quota' ? series : { ...series, opensBefore: 'P3D' }),
    without('at'),
  ];
  for (const [text] of [...SPOKEN, ...SENTENCES])
    for (const to of changes) {
      const reading = read(text, SPOKEN_TODAY);
      const next = to(reading.series);
      const made = rewritten(text, reading, next, SPOKEN_TODAY);
      expect([made, read(made, SPOKEN_TODAY).series]).toEqual([made, next]);
    }
});

describe('a stretch sent back into the title', () => {
  const back = (text: string, words: string) => {
    const reading = read(text, TODAY);
    return sentBack(
      text,
      reading,
      reading.sources.find((source) => source.text === words)!,
    );
  };

  test.each([
    ['Read Every Day once', 'Every Day', '“Read Every Day” once'],
    ['Read Every Day every week at 8', 'Every Day', '“Read Every Day” every week at 8'],
    ['every Friday ring May at 5', 'at 5', '“ring May at 5” every Friday'],
    ['“Read Every Day” at 8 on Fridays', 'at 8', '“Read Every Day at 8” on Fridays'],
    ['Say ”no” tomorrow weekly', 'tomorrow', '“Say ””no”” tomorrow” weekly'],
  ])('“%s” without “%s”', (text, words, wanted) => {
    const made = back(text, words);
    expect(made).toBe(wanted);
    expect(read(made, TODAY).series.title).toContain(words);
  });

  test('in every sentence the words are title then, and the rest is read as before', () => {
    for (const [text] of [...SPOKEN, ...SENTENCES]) {
      const reading = read(text, SPOKEN_TODAY);
      for (const source of reading.sources) {
        const made = read(sentBack(text, reading, source), SPOKEN_TODAY);
        expect(made.series.title).toContain(source.text.replace(/\.$/u, ''));
        // What has no meaning without it is said to be left over.
        const others = [...made.sources.map((it) => it.text), ...made.notUnderstood];
        expect(others.sort()).toEqual(
          reading.sources
            .filter((it) => it !== source)
            .map((it) => it.text)
            .sort(),
        );
      }
    }
  });
});
