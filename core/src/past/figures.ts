/** What is usual, and how far things went: of numbers in any order. */
export interface Spread {
  /** The median; of an even number of them the lower middle. */
  usual: number;
  least: number;
  greatest: number;
}

const byValue = (a: number, b: number) => a - b;

/** What is usual of numbers, with the least and the greatest; null of none. */
export function spreadOf(values: readonly number[]): Spread | null {
  if (!values.length) return null;
  const sorted = [...values].sort(byValue);
  return {
    usual: sorted[(sorted.length - 1) >> 1]!,
    least: sorted[0]!,
    greatest: sorted.at(-1)!,
  };
}

/** Done ÷ (done + missed) to a whole per cent, halves up; null of none of both. */
export function keptOf(done: number, missed: number): number | null {
  const all = done + missed;
  return all ? Math.floor((200 * done + all) / (2 * all)) : null;
}

const MOST_DECIMALS = 12;

/** The sum of numbers as they are written in decimals, so that 0.1 and 0.2 are 0.3. */
export function sumOf(values: readonly number[]): number {
  const decimals = values.reduce((most, value) => Math.max(most, decimalsOf(value)), 0);
  const scale = 10 ** decimals;
  const whole = values.reduce((sum, value) => sum + Math.round(value * scale), 0);
  if (decimals > MOST_DECIMALS || !Number.isSafeInteger(whole))
    return values.reduce((sum, value) => sum + value, 0);
  return whole / scale;
}

function decimalsOf(value: number): number {
  const [digits = '', exponent = '0'] = String(value).split('e');
  const after = digits.split('.')[1]?.length ?? 0;
  return Math.max(0, after - Number(exponent));
}
