import { Router } from 'express';
import {
  lookBackSchema,
  pastDaySchema,
  pastDaysSchema,
  pastTodoSchema,
  totalsSchema,
} from '@back-again/contract/past';
import { actorOf, type Context } from '../http/context.ts';
import { checked } from '../http/errors.ts';
import { pastDay, pastDays } from './days.ts';
import { removeForGood } from './forget.ts';
import { lookBack } from './lookBack.ts';
import { pastTodo } from './todo.ts';
import { totals } from './totals.ts';

/** Reading what really happened. */
export function pastRoutes(context: Context): Router {
  const { db } = context;
  const router = Router();
  router.get('/past/day', async (request, response) => {
    const asked = checked(pastDaySchema, { ...request.query });
    response.json(await pastDay(db, actorOf(context, response), asked));
  });
  router.get('/past/days', async (request, response) => {
    const { todo = null, place = null, ...span } = checked(pastDaysSchema, { ...request.query });
    response.json(await pastDays(db, actorOf(context, response), { ...span, todo, place }));
  });
  router.get('/past/totals', async (request, response) => {
    const asked = checked(totalsSchema, { ...request.query });
    response.json(await totals(db, actorOf(context, response), asked));
  });
  router.get('/past/todos/:id', async (request, response) => {
    const { skip, ...span } = checked(pastTodoSchema, { ...request.query });
    const asked = { ...span, skip: Number(skip ?? 0) };
    response.json(await pastTodo(db, actorOf(context, response), request.params.id, asked));
  });
  router.delete('/past/todos/:id', async (request, response) => {
    await removeForGood(db, actorOf(context, response), request.params.id);
    response.status(204).end();
  });
  router.get('/past/looks/:id', async (request, response) => {
    const { number } = checked(lookBackSchema, { ...request.query });
    const nth = number === undefined ? null : Number(number);
    response.json(await lookBack(db, actorOf(context, response), request.params.id, nth));
  });
  return router;
}
