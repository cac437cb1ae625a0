import { CoreError } from '../errors.ts';

/** How what was handed to a search of planning is checked: what is wrong is said with where. */
export interface Checks {
  /** An error of this search. */
  wrong(code: string, where: string, message: string): CoreError;
  list(value: unknown, where: string): unknown[];
  object(value: unknown, where: string): object;
  /** Minutes as a whole number within bounds, both inclusive. */
  whole(value: unknown, where: string, least: number, most?: number): number;
  id(value: unknown, where: string): string;
  /**
   * Puts times in order of their ids (by code unit), in place, and numbers them.
   * @throws CoreError `….id` for two with the same one
   */
  inOrder(times: { id: string; index: number }[]): void;
}

/** The checks of one search, whose errors begin with its name. */
export function checksOf(search: string): Checks {
  const wrong = (code: string, where: string, message: string) =>
    new CoreError(`${search}.${code}`, where, message);
  return {
    wrong,
    list(value, where) {
      if (!Array.isArray(value)) throw wrong('form', where, 'It is a list.');
      return value;
    },
    object(value, where) {
      if (typeof value !== 'object' || value === null)
        throw wrong('form', where, 'It is an object.');
      return value;
    },
    whole(value, where, least, most = Infinity) {
      if (typeof value !== 'number' || !Number.isInteger(value) || value < least || value > most)
        throw wrong('minutes', where, `Minutes are a whole number, ${least} or more.`);
      return value;
    },
    id(value, where) {
      if (typeof value !== 'string') throw wrong('form', where, 'A time has an id.');
      return value;
    },
    inOrder(times) {
      times.sort((a, b) => (a.id < b.id ? -1 : a.id > b.id ? 1 : 0));
      times.forEach((time, i) => {
        time.index = i;
        if (times[i + 1]?.id === time.id)
          throw wrong('id', 'times', `There are two with the id “${time.id}”.`);
      });
    },
  };
}
