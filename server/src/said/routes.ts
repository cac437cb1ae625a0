import { Router } from 'express';
import { seenSchema, standInSchema } from '@back-again/contract';
import { pushedSchema } from '@back-again/contract/devices';
import { finishByLink, finishView, touchedByLink } from './byLink.ts';
import { markSeen, outboxView, saidView, setStandIn } from './view.ts';
import { actorOf, personOf, type Context } from '../http/context.ts';
import { HttpError, checked } from '../http/errors.ts';

/** What was said to a person, and what was sent. */
export function saidRoutes(context: Context): Router {
  const { db, config } = context;
  const leaves = [
    ...(config.mail ? (['email'] as const) : []),
    ...(config.text ? (['text'] as const) : []),
    ...(config.push ? (['push'] as const) : []),
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
  // From a notification of a device, where no window is open and the session may have run out.
  router.post('/touched/:token', async (request, response) => {
    const { do: deed } = checked(pushedSchema, request.body);
    const touched = await touchedByLink(db, linkOf(request.params.token), deed, now);
    response.json(touched.view);
    if (touched.version !== null) live.tell(touched.userId, touched.version);
  });
  return router;
}
