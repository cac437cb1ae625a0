// What comes from and goes to other programs: apart from the rest, so that a screen without it need not load it.
export { toIcal, type ExchangedTime, type ExchangedTodo, type OutInput } from './exchange/out.ts';
export { fromIcal, type Came, type InInput } from './exchange/in.ts';
export { type Problem } from './exchange/entry.ts';
