/** The work went on for longer than it may. */
export class Spent extends Error {
  constructor() {
    super('The work went on for longer than it may.');
  }
}

/** How many pieces of work, of a few microseconds each, are done between two looks at the clock. */
const EACH = 32;

let until = Infinity;
let pieces = 0;

/** Called for each piece of work; throws {@link Spent} once the budget is used up. */
export function spend(): void {
  if (++pieces < EACH) return;
  pieces = 0;
  if (performance.now() > until) throw new Spent();
}

/** Does work that may take so many milliseconds: what goes on regardless is stopped with {@link Spent}. */
export function budgeted<T>(ms: number, work: () => T): T {
  const before = until;
  until = Math.min(until, performance.now() + ms);
  try {
    return work();
  } finally {
    until = before;
  }
}
