import type { Deed } from '@back-again/core';
import type { ActionOf } from './schemas.ts';

/** What is no part of a deed: whose it is, and when. */
const ABOUT = ['id', 'todo', 'todos', 'when', 'at', 'details'];

/** What an action does to each to-do that it is about, as a step of the machine; null where there is none. */
export function deedOf(action: ActionOf<Deed['do']>): Deed | null {
  if (action.do === 'change' && action.series === undefined) return null;
  const parts = Object.entries(action).filter(
    ([key, value]) => !ABOUT.includes(key) && value !== undefined,
  );
  return Object.fromEntries(parts) as unknown as Deed;
}
