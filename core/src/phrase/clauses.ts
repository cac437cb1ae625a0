import { DETAIL_CLAUSES } from './detailClauses.ts';
import type { Clause } from './facts.ts';
import { REPEAT_CLAUSES } from './repeatClauses.ts';

/** Every clause that is read. Of those that fit at one place the longest is taken, else the first. */
export const CLAUSES: readonly Clause[] = [...REPEAT_CLAUSES, ...DETAIL_CLAUSES];
