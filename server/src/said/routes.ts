import { Router } from 'express';
import { seenSchema, standInSchema } from '@back-again/contract';
import { finishByLink, finishView, markSeen, outboxView, saidView, setStandIn } from './view.ts';
import { actorOf, personOf, type Context } from '../http/context.ts';
import { HttpError, checked } from '../http/errors.ts';

/** What was said to a person, and what was sent. */
export function saidRoutes(context: Context): Router {
  const { db, config } = context;
  const leaves = [
    ...(config.mail ? (['email'] as const) : []),
    ...(config.text ? (['text'] as const) : []),
  ];
  const router = Router();

  router.get('/said', async (_request, response) => {
    const { seenThrough } = personOf(response);
    response.json(await saidView(db, actorOf(context, response), seenThrough));
  });
  router.put('/said/seen', async (request, response) => {
    await markSeen(db, personOf(response), checked(seenSchema, request.body).through);
    response.status(204).end();
  });
  router.get('/outbox', async (_request, response) => {
    response.json(await outboxView(db, personOf(response), actorOf(context, response), leaves));
  });
  router.put('/stand-in', async (request, response) => {
    await setStandIn(db, personOf(response), checked(standInSchema, request.body));
    response.status(204).end();
  });
  return router;
}

/** The links in messages, for who has them: without a session. */
export function finishRoutes({ db, live, links, now }: Context): Router {
  const router = Router();
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
    const { userId, version, view } = await finishByLink(db, linkOf(request.params.token), now);
    response.json(view);
    if (version !== null) live.tell(userId, version);
  });
  return router;
}
