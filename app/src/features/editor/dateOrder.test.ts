import { dateOrderOf } from './dateOrder.ts';

// Source: Unicode CLDR, short dates of each region.
test.each([
  ['GB-ENG', 'en-US', 'dmy'],
  ['US', 'en-GB', 'mdy'],
  ['DE-BY', 'en-US', 'dmy'],
  ['JP', 'en-US', 'ymd'],
  ['HU', 'en-US', 'ymd'],
  [undefined, 'en-US', 'mdy'],
  ['', 'en-GB', 'dmy'],
  [undefined, 'sv-SE', 'ymd'],
])('%s with %s writes %s', (region, locale, order) =>
  expect(dateOrderOf(region, locale)).toBe(order),
);
