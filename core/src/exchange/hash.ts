import type { Component, Property } from './jcal.ts';

/** What tells whether properties are as we wrote them. */

const IGNORED = ['dtstamp', 'created', 'last-modified', 'sequence', 'uid', 'x-back-again'];

/** Properties in one order, without those that change by themselves. */
function canonical([name, properties, inside]: Component): string {
  const kept = properties.filter(([property]) => !IGNORED.includes(property));
  const lines = kept.map((property: Property) => JSON.stringify(property)).sort();
  return [name, ...lines, ...inside.map(canonical).sort()].join('\n');
}

const TWO_32 = 2 ** 32;
/** The prime is 2^40 + 0x1b3. */
const PRIME_LOW = 0x1b3;

/** FNV-1a with 64 bits (Fowler, Noll, Vo; constants of draft-eastlake-fnv) of an entry: it guards, and keeps no secret. */
export function hashOf(entry: Component): string {
  // The offset basis, in two halves of 32 bits.
  let [high, low] = [0xcbf29ce4, 0x84222325];
  for (const byte of new TextEncoder().encode(canonical(entry))) {
    low = (low ^ byte) >>> 0;
    const product = low * PRIME_LOW;
    const carried = high * PRIME_LOW + Math.floor(product / TWO_32) + ((low << 8) >>> 0);
    high = carried % TWO_32;
    low = product % TWO_32;
  }
  const hex = (n: number) => n.toString(16).padStart(8, '0');
  return hex(high) + hex(low);
}
