import { whatOf } from '../../definition/check.ts';
import { NO_DETAILS } from '../../definition/details.ts';
import { ruleOf } from '../../series/definition/definition.ts';
import { DETAILED } from '../check/detailed.ts';
import { read } from './read.ts';
import type { ReadOptions } from './reading.ts';
import { say, typed } from '../speech/readable.ts';

const TODAY = '2027-06-01';
const OPTIONS: ReadOptions = {
  places: ['Bees', 'Aboard', 'Work', { id: 'yard', name: 'The yard' }],
};

test('there are eighty', () => expect(DETAILED.length).toBeGreaterThanOrEqual(80));

describe.each(DETAILED)('%s', (text, wanted, repeat) => {
  const { steps, questions, ...plain } = wanted;
  const reading = read(text, TODAY, OPTIONS);
  const details = whatOf(reading.series);

  test('is read', () => {
    expect(reading.problems).toEqual([]);
    expect(details).toEqual({
      ...NO_DETAILS,
      ...plain,
      ...(plain.place === 'The yard' ? { place: 'yard' } : {}),
      steps: (steps ?? []).map((words, i) => ({ id: String(i + 1), text: words })),
      questions: details.questions,
    });
    const asked = details.questions.map((question) => {
      const { id: _id, asks, kind } = question;
      const more =
        question.kind === 'number'
          ? [question.unit]
          : question.kind === 'scale'
            ? [question.to]
            : question.kind === 'choice'
              ? [question.of]
              : [];
      return [asks, kind, ...more];
    });
    expect(asked).toEqual(questions ?? []);
    if (repeat) expect(ruleOf(reading.series)).toContain(repeat);
  });

  test('is said, and read again', () => {
    for (const sentence of [say, typed]) {
      const said = sentence(reading.series, TODAY, OPTIONS);
      expect(read(said, TODAY, OPTIONS).series).toEqual(reading.series);
    }
  });
});
