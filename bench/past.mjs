import { withDatabase } from './lib/withDatabase.mjs';

/** A person’s record with 2,000 ended times and with 200,000: see `pastWork.ts`. */
await withDatabase('pastWork.ts');
