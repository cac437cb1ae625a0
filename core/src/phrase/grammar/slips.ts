/** Slips of the key in words that say when: “tommorow”, “evry”, “wensday”. */

const WORDS =
  'every tomorrow monday tuesday wednesday thursday friday saturday sunday mondays tuesdays wednesdays thursdays fridays saturdays sundays daily weekly monthly yearly fortnightly quarterly weekday weekdays weekend weekends until except january february september october november december'.split(
    ' ',
  );
/** Slips that are further away than one key. */
const FAR = new Map([
  ['tomorow', 'tomorrow'],
  ['tommorow', 'tomorrow'],
  ['tommorrow', 'tomorrow'],
  ['tomorrrow', 'tomorrow'],
  ['tmrw', 'tomorrow'],
  ['tmr', 'tomorrow'],
  ['tmw', 'tomorrow'],
  ['wensday', 'wednesday'],
  ['wendsday', 'wednesday'],
  ['wednsday', 'wednesday'],
  ['saterday', 'saturday'],
  ['febuary', 'february'],
  ['evey', 'every'],
  ['evry', 'every'],
  ['evrey', 'every'],
  ['eveyr', 'every'],
  ['ervery', 'every'],
  ['untill', 'until'],
]);
/** Words of their own that are one key away. */
const OWN = new Set(
  'very ever emery weakly meekly weedly dairy daisy dally gaily early nearly pearly dearly untie sundae reverie'.split(
    ' ',
  ),
);

const LEAST = 5;

/** All that is left of a word with one letter taken out, and itself. */
function withoutOne(word: string): string[] {
  return [word, ...Array.from(word, (_, i) => word.slice(0, i) + word.slice(i + 1))];
}

let near: Map<string, string> | null = null;
const KNOWN = new Set(WORDS);

/**
 * The word that was meant perhaps by one that is a key away from it: one letter too many, too few,
 * another or two changed places (Damerau, 1964); null where it is none, or a word of its own.
 */
export function slipOf(low: string): string | null {
  const far = FAR.get(low);
  if (far) return far;
  if (low.length < LEAST || low.length > 12 || KNOWN.has(low) || OWN.has(low)) return null;
  near ??= new Map(WORDS.flatMap((word) => withoutOne(word).map((it) => [it, word] as const)));
  for (const piece of withoutOne(low)) {
    const word = near.get(piece);
    if (word && isNear(low, word)) return word;
  }
  return null;
}

function isNear(a: string, b: string): boolean {
  if (Math.abs(a.length - b.length) > 1 || a[0] !== b[0]) return false;
  let i = 0;
  while (i < a.length && a[i] === b[i]) i++;
  const [restA, restB] = [a.slice(i), b.slice(i)];
  if (a.length > b.length) return restA.slice(1) === restB;
  if (a.length < b.length) return restB.slice(1) === restA;
  const isOther = restA.slice(1) === restB.slice(1);
  const isTurned =
    restA[0] === restB[1] && restA[1] === restB[0] && restA.slice(2) === restB.slice(2);
  return isOther || isTurned;
}
