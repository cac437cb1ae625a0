import { Router } from 'express';
import { seenSchema, standInSchema } from '@back-again/contract';
import {
  finishByLink,
  finishView,
  markSeen,
  outboxView,
  saidView,
  setStandIn,
} from '../store/said.ts';
import { actorFor, signedIn, type Context } from './context.ts';
import { HttpError, checked } from './errors.ts';

/** What was said to a person, what was sent, and the links in it. */
export function saidRoutes(context: Context): Router {
  const { db, live, links, now } = context;
  const router = Router();
  router.get('/said', async (request, response) => {
    const user = await signedIn(context, request);
    response.json(await saidView(db, actorFor(context, user), user.seenThrough));
  });
  router.put('/said/seen', async (request, response) => {
    const user = await signedIn(context, request);
    await markSeen(db, user, checked(seenSchema, request.body).through);
    response.status(204).end();
  });
  router.get('/outbox', async (request, response) => {
    const user = await signedIn(context, request);
    response.json(await outboxView(db, user, actorFor(context, user)));
  });
  router.put('/stand-in', async (request, response) => {
    const user = await signedIn(context, request);
    await setStandIn(db, user, checked(standInSchema, request.body));
    response.status(204).end();
  });

  const linkOf = (token: string) => {
    const link = links.opened(token);
    if (!link)
      throw new HttpError(
        404,
        'link.none',
        'This link was not made here, or not all of it came along.',
      );
    return link;
  };
  // Looking at a link changes nothing: mail programs look at links by themselves.
  router.get('/finish/:token', async (request, response) => {
    response.json(await finishView(db, linkOf(request.params.token), now()));
  });
  router.post('/finish/:token', async (request, response) => {
    const { userId, view } = await finishByLink(db, linkOf(request.params.token), now());
    response.json(view);
    live.tell(userId);
  });
  return router;
}
