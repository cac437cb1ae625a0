import type { Component, Property } from './jcal.ts';

/** What tells whether properties are as we wrote them. */

const IGNORED = ['dtstamp', 'created', 'last-modified', 'sequence', 'uid', 'x-back-again'];

/** Properties in one order, without those that change by themselves. */
function canonical([name, properties, inside]: Component): string {
  const kept = properties.filter(([property]) => !IGNORED.includes(property));
  const lines = kept.map((property: Property) => JSON.stringify(property)).sort();
  return [name, ...lines, ...inside.map(canonical).sort()].join('\n');
}

const [OFFSET, PRIME, MASK] = [0xcbf29ce484222325n, 0x100000001b3n, (1n << 64n) - 1n];

/** FNV-1a with 64 bits (Fowler, Noll, Vo; constants of draft-eastlake-fnv) of an entry: it guards, and keeps no secret. */
export function hashOf(entry: Component): string {
  let hash = OFFSET;
  for (const byte of new TextEncoder().encode(canonical(entry)))
    hash = ((hash ^ BigInt(byte)) * PRIME) & MASK;
  return hash.toString(16).padStart(16, '0');
}
