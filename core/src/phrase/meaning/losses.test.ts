import { chance } from '../../chance.ts';
import { leftIn, tornSentence, withoutEach } from '../check/losses.ts';
import { isLoud } from '../check/meanings.ts';
import { read } from './read.ts';

// Whatever is joined, dropped and swapped: a definition that says less than its sentence is in doubt.

const TODAY = '2027-06-01';
const HOW_MANY = Number(process.env.LOSSES ?? 1200);

test('nothing that was said is lost in silence', () => {
  const of = chance(Number(process.env.SEED ?? 20270601));
  const lost: string[][] = [];
  let quiet = 0;
  for (let i = 0; i < HOW_MANY; i++) {
    const torn = tornSentence(of);
    const reading = read(torn.text, TODAY);
    if (isLoud(reading)) continue;
    quiet++;
    const left = leftIn(reading.series.title, torn.title);
    if (left.length) lost.push([torn.text, `left in the title: ${left.join(', ')}`]);
    const said = JSON.stringify(reading.series);
    for (const { word, text } of withoutEach(torn)) {
      const other = read(text, TODAY);
      if (!isLoud(other) && JSON.stringify(other.series) === said)
        lost.push([torn.text, `says the same without “${word}”`]);
    }
  }
  expect(lost).toEqual([]);
  // Enough of them are read without a doubt for that to mean something.
  expect(quiet).toBeGreaterThan(HOW_MANY / 10);
});
