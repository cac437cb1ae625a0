import {
  clockOf,
  formatDay,
  formatInstant,
  present,
  type Agenda,
  type AgendaRow,
} from '@back-again/core';
import type { TodayView } from '@back-again/contract';
import { computeBeside } from '../compute/compute.ts';
import type { Database } from '../db/database.ts';
import { placesOf } from '../machine/places.ts';
import { findSeries, stateOf, todoOf } from '../machine/todo.ts';
import type { Actor } from '../machine/work.ts';

/** Today of a person as the core gives it, with the titles of their to-dos. */
export async function agendaOf(
  db: Database,
  { userId, settings, now }: Actor,
): Promise<{ agenda: Agenda; titleOf: (todo: string) => string }> {
  const [user, kept] = await Promise.all([
    db.users.findOne({ attributes: ['focus', 'above'], where: { id: userId } }),
    placesOf(db, userId),
  ]);
  const places = present(kept);
  const focus = places.some(({ id }) => id === user?.focus) ? user!.focus : null;
  const today = formatDay(clockOf(settings).dayAt(now));
  const above = (user?.above ?? []).filter(({ day }) => day === today);
  const rows = await findSeries(db, userId, { removedAt: null, ended: false });
  const todos = rows.map((row) => stateOf(todoOf(row, settings), now));
  const titles = new Map(todos.map(({ id, details }) => [id, details.title]));
  const agenda = await computeBeside('today', { todos, settings, now, places, focus, above });
  return { agenda, titleOf: (todo) => titles.get(todo) ?? '' };
}

/** What Today shows. */
export async function todayView(db: Database, actor: Actor): Promise<TodayView> {
  const { agenda, titleOf } = await agendaOf(db, actor);
  const { today, sections, soon, elsewhere } = agenda;
  const rowOf = ({ todo, slot, due, plan }: AgendaRow) => ({
    todo,
    slot,
    title: titleOf(todo),
    due,
    plan,
  });
  return {
    now: formatInstant(actor.now),
    today,
    sections: sections.map(({ id, rows }) => ({ id, rows: rows.map(rowOf) })),
    soon: soon.map(({ todo, due, kind }) => ({ todo, title: titleOf(todo), due, kind })),
    elsewhere,
  };
}
