import { register } from 'tsx/esm/api';

// A worker does not take over what its parent was started with.
register();
await import('./worker.ts');
