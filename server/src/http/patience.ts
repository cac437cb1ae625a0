import type { RequestHandler } from 'express';
import { SLOW, answerWith } from './errors.ts';

/** So long a request is worked on before it is answered that nothing answers. */
const PATIENCE = 10_000;
/** What is of everything at once takes longer. */
const LONG_PATIENCE = 300_000;
const LONG = ['/everything', '/take-in', '/calendar.ics'];

/** Ends requests that wait for a database that does not answer. */
export const patience: RequestHandler = (request, response, next) => {
  const timer = setTimeout(
    () => {
      if (response.headersSent) return;
      response.locals.late = true;
      answerWith(response, SLOW());
    },
    LONG.includes(request.path) ? LONG_PATIENCE : PATIENCE,
  );
  response.once('close', () => clearTimeout(timer));
  next();
};

/** Gives what a promise gives, or fails after so many milliseconds. */
export async function within<T>(ms: number, promise: Promise<T>): Promise<T> {
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<never>((_resolve, reject) => {
    timer = setTimeout(() => reject(new Error('It took too long.')), ms);
  });
  try {
    return await Promise.race([promise, late]);
  } finally {
    clearTimeout(timer);
  }
}
