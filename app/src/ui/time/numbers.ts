/** Numbers as people write them. */

/** A number with a point or a comma before its fraction; null for none. */
export function numberIn(text: string): number | null {
  const plain = text.trim().replace(/(?<=\d)[\s  ](?=\d{3})/gu, '');
  if (!/^[-−+]?\d+(?:[.,]\d+)?$/u.test(plain)) return null;
  return Number(plain.replace('−', '-').replace(',', '.'));
}

/** A number as it is shown, in the language of the browser. */
export const numberText = (n: number): string =>
  new Intl.NumberFormat(undefined, { maximumFractionDigits: 6, useGrouping: false }).format(n);
