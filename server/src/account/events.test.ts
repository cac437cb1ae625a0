import { Writable } from 'node:stream';
import express from 'express';
import { logFor } from '../log.ts';
import { HttpError, answerErrors } from '../http/errors.ts';
import { noteSafety } from './events.ts';

// What concerns safety stands in the log, in one line each, and nothing in it says who that is to a stranger.

function kept() {
  const lines: Record<string, unknown>[] = [];
  const to = new Writable({
    write(piece: Buffer, _coding, done) {
      lines.push(
        ...piece
          .toString()
          .trim()
          .split('\n')
          .map((it) => JSON.parse(it) as never),
      );
      done();
    },
  });
  return { lines, log: logFor('info', to) };
}

test('what a person did, by their id; a line break in it makes no second line', () => {
  const { lines, log } = kept();
  noteSafety(log, 'signed in', 'a\n{"event":"made up"}');
  expect(lines).toEqual([
    expect.objectContaining({ event: 'signed in', user: 'a\n{"event":"made up"}', msg: 'safety' }),
  ]);
  expect(String(lines[0]!.time)).toMatch(/^\d{4}-\d\d-\d\dT.*Z$/u);
});

test.each([
  ['session.wrong', true],
  ['session.tries', true],
  ['key.none', true],
  ['origin.other', true],
  ['todo.none', false],
])('a refusal of %s: %s', async (code, isNoted) => {
  const { lines, log } = kept();
  const app = express();
  app.get('/it/:secret', () => {
    throw new HttpError(401, code, 'No.');
  });
  app.use(answerErrors(log));
  const server = app.listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  const { port } = server.address() as { port: number };
  await fetch(`http://127.0.0.1:${port}/it/hidden`);
  await new Promise((resolve) => server.close(resolve));
  const noted = [expect.objectContaining({ event: 'refused', code, route: '/it/:secret' })];
  expect(lines).toEqual(isNoted ? noted : []);
  expect(JSON.stringify(lines)).not.toContain('hidden');
});
