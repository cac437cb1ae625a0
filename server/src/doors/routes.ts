import { createReadStream, createWriteStream } from 'node:fs';
import { mkdtemp, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import express, { Router, type Request, type Response } from 'express';
import {
  calendarSchema,
  doorSchema,
  takeInSchema,
  waySchema,
  type DoorsView,
  type TakeInAnswer,
} from '@back-again/contract/doors';
import { readyFor } from '../compute/compute.ts';
import { act } from '../machine/act.ts';
import { checkBody } from '../http/body.ts';
import { actorOf, type Context } from '../http/context.ts';
import { HttpError, checked } from '../http/errors.ts';
import { putBack } from './everything/in.ts';
import { takeEverything } from './everything/out.ts';
import { feedOf } from './feed.ts';
import { interfaceOf, interfacePage } from './openapi.ts';
import { doorsOf, makeDoor, used, withdraw } from './secrets.ts';
import { calendarOf } from './told.ts';
import { finishByWay, wayView } from './ways.ts';

/** What goes in and out. */

/** A zip that is put back has so many bytes at most. */
const MOST_ZIP = 700_000_000;
/** A feed of so many characters is packed on its way. */
const MOST_PACKED = 1_000_000;
/** 5,000 to-dos with their records. */
const MOST_IN = '24mb';

/** For who is signed in, or has a key. */
export function doorRoutes(context: Context): Router {
  const { db, live, clock } = context;
  const router = Router();

  router.get('/doors', async (_request, response) => {
    const { userId } = actorOf(context, response);
    const view: DoorsView = { doors: await doorsOf(db, userId) };
    response.json(view);
  });
  router.post('/doors', async (request, response) => {
    const { userId, now } = actorOf(context, response);
    const body = checked(doorSchema, request.body);
    response.status(201).json(await makeDoor(db, userId, now, body));
  });
  router.delete('/doors/:id', async (request, response) => {
    await withdraw(db, actorOf(context, response).userId, request.params.id);
    response.status(204).end();
  });

  router.get('/calendar.ics', async (request, response) => {
    const about = checked(calendarSchema, { ...request.query });
    const pieces = calendarOf(db, actorOf(context, response), about);
    // What is wrong is said before anything is sent.
    const first = await pieces.next();
    response.set({
      'Content-Type': 'text/calendar; charset=utf-8',
      'Content-Disposition': 'attachment; filename="back-again.ics"',
    });
    if (!first.done) response.write(first.value);
    for await (const piece of pieces) await written(response, piece);
    response.end();
  });

  router.get('/everything', async (_request, response) => {
    const { path, done } = await takeEverything(db, actorOf(context, response));
    try {
      response.set({
        'Content-Type': 'application/zip',
        'Content-Length': String((await stat(path)).size),
        'Content-Disposition': 'attachment; filename="back-again.zip"',
      });
      // Those who wait for its end are more than usual, each once.
      response.setMaxListeners(30);
      await pipeline(createReadStream(path), response);
    } catch (error) {
      // Who asked for it went away.
      if ((error as { code?: string }).code !== 'ERR_STREAM_PREMATURE_CLOSE') throw error;
    } finally {
      await done();
    }
  });
  router.post('/everything', async (request, response) => {
    const actor = actorOf(context, response);
    const folder = await mkdtemp(join(tmpdir(), 'back-again-in-'));
    try {
      const path = join(folder, 'everything.zip');
      await received(request, path);
      const { view, version } = await putBack(db, actor, path);
      response.json(view);
      live.tell(actor.userId, version);
      clock.wake();
    } finally {
      await rm(folder, { recursive: true, force: true });
    }
  });

  router.post(
    '/take-in',
    express.json({ limit: MOST_IN, inflate: false }),
    checkBody,
    async (request, response) => {
      const actor = actorOf(context, response);
      const body = checked(takeInSchema, request.body);
      const { version } = await act(db, actor, context.now, { ...body, do: 'takeIn' });
      const known = body.todos.filter(({ isThere }) => isThere).length;
      const answer: TakeInAnswer = {
        action: body.id,
        version,
        made: body.todos.length - known,
        changed: known,
      };
      response.json(answer);
      live.tell(actor.userId, version);
      clock.wake();
    },
  );
  return router;
}

/** Whether a tag is among those that a reader has; a weak one is as good. */
const isKnown = (header: string | undefined, tag: string): boolean =>
  header !== undefined &&
  header.split(',').some((it) => [`"${tag}"`, '*'].includes(it.trim().replace(/^W\//u, '')));

/** Writes, and waits where who reads is slower. */
async function written(response: Response, piece: string): Promise<void> {
  if (response.write(piece) || response.destroyed) return;
  await new Promise<void>((resolve) => {
    const over = () => {
      response.off('drain', over).off('close', over);
      resolve();
    };
    response.once('drain', over).once('close', over);
  });
}

/** Keeps a body in a file. @throws HttpError 413 */
async function received(request: Request, path: string): Promise<void> {
  let size = 0;
  const bounded = new Transform({
    transform(piece: Buffer, _encoding, done) {
      size += piece.length;
      if (size > MOST_ZIP) done(new HttpError(413, 'body.large', 'The zip is too large.', 'body'));
      else done(null, piece);
    },
  });
  await pipeline(request, bounded, createWriteStream(path));
}

/** For who has the address: without a session. */
export function addressRoutes(context: Context): Router {
  const { db, live, secrets, now } = context;
  const router = Router();

  router.get('/feeds/:name', async (request, response) => {
    const door = await secrets.found(request, 'feed', request.params.name.replace(/\.ics$/u, ''));
    const user = await db.users.findByPk(door.userId);
    if (!user) throw new HttpError(404, 'door.none', 'There is nothing at this address.');
    await readyFor(user.settings);
    const actor = { userId: user.id, settings: user.settings, now: now() };
    const feed = await feedOf(db, actor, door);
    await used(db, door, actor.now, { counts: false });
    response.set({
      ETag: `"${feed.tag}"`,
      'Cache-Control': 'private, no-cache',
      'Content-Type': 'text/calendar; charset=utf-8',
    });
    // What the reader has already is not sent again (RFC 9110 §13.1.2), whatever else it asks of caches.
    if (isKnown(request.headers['if-none-match'], feed.tag)) {
      response.status(304).end();
      return;
    }
    const text = await feed.text();
    // To pack one of many thousand times takes longer than to send it.
    if (text.length > MOST_PACKED) response.set('Cache-Control', 'private, no-cache, no-transform');
    response.end(text);
  });

  router.get('/ways/:secret', async (request, response) => {
    const door = await secrets.found(request, 'way', request.params.secret);
    response.json(await wayView(db, door, now()));
  });
  router.post('/ways/:secret', async (request, response) => {
    const door = await secrets.found(request, 'way', request.params.secret);
    const { id } = checked(waySchema, request.body ?? {});
    const { userId, version, view } = await finishByWay(db, door, now, id);
    response.json(view);
    if (version !== null) live.tell(userId, version);
  });

  router.get('/openapi.json', (_request, response) => {
    response.json(interfaceOf());
  });
  router.get('/', (_request, response) => {
    response.type('html').send(interfacePage());
  });
  return router;
}
