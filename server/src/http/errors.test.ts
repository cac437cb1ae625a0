import express from 'express';
import request from 'supertest';
import { DatabaseError } from 'sequelize';
import { logFor } from '../log.ts';
import { answerErrors } from './errors.ts';

// What the database says when it cannot answer just now (MariaDB error codes) is no fault of the program, and is
// tried again by whoever asked; what it refuses is one.

const answered = async (errno: number) => {
  const app = express();
  app.get('/', () => {
    const original = Object.assign(new Error('so'), { errno, sql: 'SELECT 1' });
    throw new DatabaseError(original);
  });
  app.use(answerErrors(logFor('silent')));
  const { status, body } = await request(app).get('/');
  return [status, (body as { error: { code: string } }).error.code];
};

test.each([
  ['a reading that waits for a node that is behind, or a row that is held', 1205],
  ['another node that had been there before', 1213],
  ['a node that takes part in no cluster', 1047],
  ['a node that lost its place while it committed', 1180],
])('%s: it is asked again', async (_what, errno) => {
  expect(await answered(errno)).toEqual([503, 'server.slow']);
});

test('no room is said, and what was not foreseen is a fault', async () => {
  expect(await answered(1114)).toEqual([507, 'server.full']);
  expect(await answered(1064)).toEqual([500, 'server.failed']);
});
