import { withDatabase } from './lib/withDatabase.mjs';

/** What goes in and out, in large: see `doorsWork.ts`. More of a heap than 200 MB is not to be had. */
await withDatabase('doorsWork.ts', '--max-old-space-size=200', '--expose-gc');
