import { Router } from 'express';
import {
  actionSchemaFor,
  changesSchema,
  endedSchema,
  findSchema,
  recordSchema,
} from '@back-again/contract';
import { act } from '../machine/act.ts';
import { changesView } from './changes.ts';
import { endedBetween } from './ended.ts';
import { findInRecord } from './find.ts';
import { todoPage } from './record.ts';
import { removedView } from './removed.ts';
import { todayView } from './today.ts';
import { actorOf, personOf, type Context } from '../http/context.ts';
import { checked } from '../http/errors.ts';

/** Reading to-dos, and the one way to change them. */
export function todoRoutes(context: Context): Router {
  const { db, live, clock, metrics } = context;
  const router = Router();

  router.get('/today', async (_request, response) => {
    response.json(await todayView(db, actorOf(context, response)));
  });
  router.get('/changes', async (request, response) => {
    const { since, after } = checked(changesSchema, { ...request.query });
    const asked = { since: Number(since ?? 0), after };
    const body = JSON.stringify(await changesView(db, personOf(response), context.now(), asked));
    metrics.synced(body.length);
    response.type('json').send(body);
  });
  router.get('/todos/:id', async (request, response) => {
    const { skip } = checked(recordSchema, { ...request.query });
    const actor = actorOf(context, response);
    response.json(await todoPage(db, actor, request.params.id, Number(skip ?? 0)));
  });

  router.get('/removed', async (_request, response) => {
    response.json(await removedView(db, actorOf(context, response)));
  });

  router.get('/record', async (request, response) => {
    const asked = checked(findSchema, { ...request.query });
    response.json(await findInRecord(db, actorOf(context, response), asked));
  });

  router.get('/ended', async (request, response) => {
    const asked = checked(endedSchema, { ...request.query });
    response.json(await endedBetween(db, actorOf(context, response), asked));
  });

  router.post('/actions', async (request, response) => {
    const person = actorOf(context, response);
    const action = checked(actionSchemaFor(request.body), request.body);
    const answer = await act(db, person, context.now, action);
    metrics.acted(action.do);
    response.json(answer);
    live.tell(person.userId, answer.version);
    // It may be due before the clock would look again.
    clock.wake();
  });

  router.get('/events', (request, response) => {
    const { id, version } = personOf(response);
    live.listen(id, request.sessionID, response, version);
  });
  return router;
}
