import { describe, expect, it } from '@jest/globals';
import type { TimeView, TodoView } from '@back-again/core';
import { isSameRow, type Row } from './rows.ts';

// Of a row only what tells rows apart is looked at; the rest of a to-do is the same while it is the same object.
const todo = { id: 'tank' } as TodoView;
const time = { number: 3, slot: '2026-11-24', status: 'done', closedAt: 'T' } as TimeView;
const row: Row = { key: 'tank 2026-11-24', todo, time, action: 'a', later: false };

describe('a row of Today is drawn again', () => {
  it('not where it is worked out anew and says the same', () => {
    expect(isSameRow(row, { ...row, time: { ...time } })).toBe(true);
  });

  it.each<[string, Partial<Row>]>([
    ['its to-do is another', { todo: { ...todo } }],
    ['its time ended otherwise', { time: { ...time, status: 'skipped' } }],
    ['what ended it is another', { action: 'b' }],
    ['it opened', { later: true }],
  ])('where %s', (_what, changed) => {
    expect(isSameRow(row, { ...row, ...changed })).toBe(false);
  });
});
