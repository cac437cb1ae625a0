import { Router } from 'express';
import { actionSchemaFor } from '@back-again/contract';
import { act } from '../store/actions.ts';
import { todayView, todoPage, todosView } from '../store/views.ts';
import { actorOf, personOf, type Context } from './context.ts';
import { checked } from './errors.ts';

/** Reading to-dos, and the one way to change them. */
export function todoRoutes(context: Context): Router {
  const { db, live, clock } = context;
  const router = Router();

  router.get('/today', async (_request, response) => {
    response.json(await todayView(db, actorOf(context, response)));
  });
  router.get('/todos', async (_request, response) => {
    response.json(await todosView(db, actorOf(context, response)));
  });
  router.get('/todos/:id', async (request, response) => {
    response.json(await todoPage(db, actorOf(context, response), request.params.id));
  });

  router.post('/actions', async (request, response) => {
    const person = actorOf(context, response);
    const action = checked(actionSchemaFor(request.body), request.body);
    response.json(await act(db, person, context.now, action));
    live.tell(person.userId);
    // It may be due before the clock would look again.
    clock.wake();
  });

  router.get('/events', (request, response) => {
    live.listen(personOf(response).id, request.sessionID, response);
  });
  return router;
}
