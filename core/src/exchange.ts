// What comes from and goes to other programs: apart from the rest, so that a screen without it need not load it.
export { aroundEntries, entryText, toIcal, type OutInput } from './exchange/out.ts';
export type { ExchangedTime, ExchangedTodo } from './exchange/exchanged.ts';
export { seriesTold, settle, timesTold, type Settled } from './exchange/settling.ts';
export { feedEvents, type FeedTodo } from './exchange/feed.ts';
export { fromIcal, type Came, type InInput } from './exchange/in.ts';
export { type Problem } from './exchange/entry.ts';
