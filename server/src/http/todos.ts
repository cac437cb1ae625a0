import { Router } from 'express';
import { actionSchemaFor } from '@back-again/contract';
import { act } from '../store/actions.ts';
import { todayView, todoPage, todosView } from '../store/views.ts';
import { actorOf, signedIn, type Context } from './context.ts';
import { checked } from './errors.ts';

/** Reading to-dos, and the one way to change them. */
export function todoRoutes(context: Context): Router {
  const { db, live, clock } = context;
  const router = Router();
  router.get('/today', async (request, response) => {
    response.json(await todayView(db, await actorOf(context, request)));
  });
  router.get('/todos', async (request, response) => {
    response.json(await todosView(db, await actorOf(context, request)));
  });
  router.get('/todos/:id', async (request, response) => {
    response.json(await todoPage(db, await actorOf(context, request), request.params.id));
  });
  router.post('/actions', async (request, response) => {
    const actor = await actorOf(context, request);
    const action = checked(actionSchemaFor(request.body), request.body);
    response.json(await act(db, actor, action));
    live.tell(actor.userId);
    // It may be due before the clock would look again.
    clock.wake();
  });
  router.get('/events', async (request, response) => {
    live.listen((await signedIn(context, request)).id, response);
  });
  return router;
}
