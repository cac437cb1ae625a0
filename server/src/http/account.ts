import { Router, type Request } from 'express';
import { rateLimit } from 'express-rate-limit';
import {
  registerSchema,
  settingsSchema,
  signInSchema,
  type NowView,
  type SessionView,
} from '@back-again/contract';
import { DEFAULT_SETTINGS, formatInstant, type Settings } from '@back-again/core';
import type { UserRow } from '../store/models.ts';
import { holidaysFor } from '../store/plans.ts';
import { placesOf } from '../store/places.ts';
import { changeSettings } from '../store/settings.ts';
import { addUser, userWith } from '../store/users.ts';
import { signedIn, type Context } from './context.ts';
import { HttpError, checked } from './errors.ts';

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

/** Accounts, sessions and settings. */
export function accountRoutes(context: Context): Router {
  const { db, now, config } = context;
  const router = Router();
  const view = async ({
    id,
    name,
    settings,
  }: Pick<UserRow, 'id' | 'name' | 'settings'>): Promise<SessionView> => ({
    name,
    settings,
    holidays: holidaysFor(settings),
    places: await placesOf(db, id),
  });
  const limit = rateLimit({
    windowMs: 15 * 60_000,
    limit: config.signInTries,
    skipSuccessfulRequests: true,
    standardHeaders: 'draft-8',
    legacyHeaders: false,
    handler: () => {
      throw new HttpError(429, 'session.tries', 'Too many tries. Wait a quarter of an hour.');
    },
  });

  router.post('/accounts', limit, async (request, response) => {
    const { name, password, zone } = checked(registerSchema, request.body);
    const user = await addUser(db, {
      name,
      password,
      settings: { ...DEFAULT_SETTINGS, zone },
      now: now(),
    });
    await begin(request, user);
    response.status(201).json(await view(user));
  });

  router.post('/session', limit, async (request, response) => {
    const { name, password } = checked(signInSchema, request.body);
    const user = await userWith(db, name, password);
    if (!user)
      throw new HttpError(
        401,
        'session.wrong',
        'That address and password do not go together.',
        'password',
      );
    await begin(request, user);
    response.json(await view(user));
  });

  router.get('/session', async (request, response) => {
    response.json(await view(await signedIn(context, request)));
  });

  router.delete('/session', (request, response, next) => {
    request.session.destroy((error: unknown) => {
      if (error) return next(error);
      response.clearCookie(COOKIE).status(204).end();
    });
  });

  router.get('/now', (_request, response) => {
    const view: NowView = { now: formatInstant(now()) };
    response.json(view);
  });

  router.put('/settings', async (request, response) => {
    const user = await signedIn(context, request);
    const settings = checked(settingsSchema, request.body) as Settings;
    // A region that is unknown is refused before anything changes.
    holidaysFor(settings);
    await changeSettings(db, user, settings, now());
    response.json(await view({ id: user.id, name: user.name, settings }));
  });
  return router;
}
