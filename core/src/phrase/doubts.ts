import type { Context } from './facts.ts';
import type { Series } from '../series/definition.ts';
import type { Facts } from './scan.ts';
export interface Doubt {
  code: string;
}
export function doubtsOf(_f: Facts, _s: Series, _c: Context, _r: unknown): Doubt[] {
  return [];
}
