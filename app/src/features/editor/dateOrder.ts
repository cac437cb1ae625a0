import type { DateOrder } from '@back-again/core/reading';

/**
 * In which order the numbers of a date are written in a region (Unicode CLDR, through Intl): that
 * of the person's holidays where they have chosen one, else that of their language.
 * @param region a country, or a part of one, as `GB-ENG`; empty for none.
 * @param locale the language of the browser, as `en-GB`.
 */
export function dateOrderOf(region: string | undefined, locale: string): DateOrder {
  const country = region?.slice(0, 2);
  const tag = country
    ? `${new Intl.Locale(`und-${country}`).maximize().language}-${country}`
    : locale;
  const parts = new Intl.DateTimeFormat(tag, {
    year: 'numeric',
    month: 'numeric',
    day: 'numeric',
    calendar: 'gregory',
  }).formatToParts(0);
  const order = parts.map(({ type }) => type).filter((type) => ORDERED.has(type));
  if (order[0] === 'year') return 'ymd';
  return order[0] === 'month' ? 'mdy' : 'dmy';
}

const ORDERED: ReadonlySet<string> = new Set(['year', 'month', 'day']);
