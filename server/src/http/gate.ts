import { HttpError } from './errors.ts';

/** So many requests of one person are worked on at a time: each holds one connection at most. */
const AT_ONCE = 2;
/** So many more wait for their turn. */
const MOST_WAITING = 50;

interface Person {
  busy: number;
  waiting: (() => void)[];
}

/** Lets each person have a part of the server, whatever they ask for: what is too much waits. */
export interface Gate {
  /**
   * Waits for a turn; gives what ends it.
   * @throws HttpError 429 where too much waits already
   */
  enter(person: string): Promise<() => void>;
}

export function makeGate(): Gate {
  const people = new Map<string, Person>();
  return {
    async enter(key) {
      const person = people.get(key) ?? { busy: 0, waiting: [] };
      people.set(key, person);
      if (person.busy < AT_ONCE) person.busy++;
      else if (person.waiting.length >= MOST_WAITING)
        throw new HttpError(429, 'server.busy', 'That is much at once. Try again in a moment.');
      else await new Promise<void>((resolve) => person.waiting.push(resolve));
      let left = false;
      return () => {
        if (left) return;
        left = true;
        const next = person.waiting.shift();
        if (next) next();
        else if (--person.busy === 0) people.delete(key);
      };
    },
  };
}
