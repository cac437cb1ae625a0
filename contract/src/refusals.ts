import { CoreError } from '@back-again/core';

/** Why a deed cannot be done, in the same words on both sides. */

export const noTodo = () => new CoreError('todo.none', 'todo', 'There is no such to-do.');

export const noPlace = () =>
  new CoreError('place.none', 'place', 'There is no such place any more.');

export const todoTaken = () =>
  new CoreError('todo.taken', 'todo', 'There is a to-do with that id already.');

export const noTime = () =>
  new CoreError(
    'time.none',
    'slot',
    'There is no such time any more: it was done, skipped or moved meanwhile.',
  );

export const notYet = () => new CoreError('when.future', 'when', 'That moment has not come yet.');

export const noFile = () => new CoreError('file.none', 'file', 'There is no such file any more.');
