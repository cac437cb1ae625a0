import { Router } from 'express';
import { actorOf, type Context } from '../http/context.ts';
import { placePage } from './view.ts';

/** Reading what was done in a place. */
export function placeRoutes(context: Context): Router {
  const router = Router();
  router.get('/places/:id', async (request, response) => {
    response.json(await placePage(context.db, actorOf(context, response), request.params.id));
  });
  return router;
}
