import { withDatabase } from './lib/withDatabase.mjs';

/** What the clock does over a midnight for those who have nothing to be told: see `clockWork.ts`. */
await withDatabase('clockWork.ts');
