import { PARTS } from '../../definition/parts.ts';
import { DETAIL_CLAUSES } from './detailClauses.ts';
import { FIGURES, type Clause } from './facts.ts';
import { line } from './lines.ts';
import { PLAIN_SPEECH } from './plainSpeech.ts';
import { REPEAT_CLAUSES } from './repeatClauses.ts';
import { WHAT_CLAUSES } from './whatClauses.ts';
import type { Token } from './tokens.ts';
import { VAGUE_CLAUSES } from './vague.ts';
import { LEADS } from './words.ts';

/** Every clause that is read. Of those that fit at one place the longest is taken, else the first. */
export const CLAUSES: readonly Clause[] = [
  ...REPEAT_CLAUSES,
  ...DETAIL_CLAUSES,
  ...WHAT_CLAUSES,
  ...PLAIN_SPEECH,
  ...VAGUE_CLAUSES,
];

const BY_WORD = new Map<string, readonly Clause[]>();
const NONE: readonly Clause[] = [];

let fromTable: { of: number; clauses: readonly Clause[] } = { of: -1, clauses: [] };

/** The clauses of the table of parts, made of their patterns. */
function clausesOfParts(): readonly Clause[] {
  if (fromTable.of !== PARTS.length) {
    const clauses = PARTS.flatMap(({ key, reads = [] }) =>
      reads.map(({ pattern, value }) =>
        line(pattern, (given) => {
          const read = value(given as Parameters<typeof value>[0]);
          return read === undefined ? null : { fact: 'part of it', part: key, value: read };
        }),
      ),
    );
    fromTable = { of: PARTS.length, clauses };
    BY_WORD.clear();
  }
  return fromTable.clauses;
}

/** The clauses that may begin with a token, in order: most words of a title begin none. */
export function clausesAt(token: Token): readonly Clause[] {
  if (token.kind === 'quote') return NONE;
  const isWord = token.kind === 'word' || token.kind === 'sign';
  const key = isWord ? token.low : FIGURES;
  const parts = clausesOfParts();
  const known = BY_WORD.get(key);
  if (known) return known;
  const isLead = !isWord || LEADS.has(key) || key.includes('-');
  const found = [...CLAUSES, ...parts].filter(({ starts }) => (starts ? starts.has(key) : isLead));
  // Only the words of the grammar are kept: typed text has any number of others.
  if (found.length) BY_WORD.set(key, found);
  return found.length ? found : NONE;
}
