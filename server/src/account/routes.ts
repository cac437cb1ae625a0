import { Router, type Request } from 'express';
import {
  registerSchema,
  settingsSchema,
  signInSchema,
  type NowView,
  type SessionView,
} from '@back-again/contract';
import { DEFAULT_SETTINGS, formatInstant, type Settings } from '@back-again/core';
import type { UserRow } from '../db/models.ts';
import { holidaysFor } from '../compute/holidays.ts';
import { readyFor } from '../compute/compute.ts';
import { changeSettings } from './settings.ts';
import { addUser, plainName, userWith } from './users.ts';
import { personOf, type Context } from '../http/context.ts';
import { HttpError, checked } from '../http/errors.ts';
import { makeTries } from './tries.ts';

export const COOKIE = 'back-again';

/** Begins a session under a new id, so that one planted before signing in is worth nothing. */
function begin(request: Request, user: UserRow): Promise<void> {
  return new Promise((resolve, reject) => {
    request.session.regenerate((error: unknown) => {
      if (error) return reject(error as Error);
      request.session.userId = user.id;
      request.session.save((failed: unknown) => (failed ? reject(failed as Error) : resolve()));
    });
  });
}

type Shown = Pick<UserRow, 'name' | 'settings'>;
const viewOf = ({ name, settings }: Shown): SessionView => ({
  name,
  settings,
  holidays: holidaysFor(settings),
});

/** Making an account and signing in and out: for who has no session yet, or no more. */
export function sessionRoutes({ db, now, config, live }: Context): Router {
  const router = Router();
  const tries = makeTries(config.signInTries);

  router.post('/accounts', async (request, response) => {
    const { name, password, zone } = checked(registerSchema, request.body);
    await tries.counted(request);
    const user = await addUser(db, {
      name,
      password,
      settings: { ...DEFAULT_SETTINGS, zone },
      now: now(),
    });
    await begin(request, user);
    response.status(201).json(viewOf(user));
  });

  router.post('/session', async (request, response) => {
    const { name, password } = checked(signInSchema, request.body);
    const user = await tries.limited(request, plainName(name), async () => {
      const found = await userWith(db, name, password);
      if (found) return found;
      throw new HttpError(
        401,
        'session.wrong',
        'That address and password do not go together.',
        'password',
      );
    });
    await readyFor(user.settings);
    await begin(request, user);
    response.json(viewOf(user));
  });

  router.delete('/session', (request, response, next) => {
    const ended = request.sessionID;
    request.session.destroy((error: unknown) => {
      if (error) return next(error);
      live.leave(ended);
      response.clearCookie(COOKIE).status(204).end();
    });
  });

  router.get('/now', (_request, response) => {
    const view: NowView = { now: formatInstant(now()) };
    response.json(view);
  });
  return router;
}

/** The account of who is signed in. */
export function accountRoutes({ db, now }: Context): Router {
  const router = Router();
  router.get('/session', async (_request, response) => {
    response.json(viewOf(personOf(response)));
  });
  router.put('/settings', async (request, response) => {
    const user = personOf(response);
    const settings = checked(settingsSchema, request.body) as Settings;
    // A region that is unknown is refused before anything changes.
    await readyFor(settings);
    await changeSettings(db, user, settings, now());
    response.json(viewOf({ name: user.name, settings }));
  });
  return router;
}
