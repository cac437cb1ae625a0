import type { Deed } from '@back-again/core';
import type { ActionOf } from './schemas.ts';

/** What is no part of a deed: whose it is, and when. */
const ABOUT = ['id', 'todo', 'todos', 'when', 'at'];

/** What an action does to each to-do that it is about. */
export function deedOf(action: ActionOf<Deed['do']>): Deed {
  const parts = Object.entries(action).filter(
    ([key, value]) => !ABOUT.includes(key) && value !== undefined,
  );
  return Object.fromEntries(parts) as unknown as Deed;
}
