import { Router, type Request, type Response } from 'express';
import {
  registerSchema,
  settingsSchema,
  signInSchema,
  type NowView,
  type SessionView,
} from '@back-again/contract';
import {
  addressSchema,
  forgottenSchema,
  passwordSchema,
  removalSchema,
  resetSchema,
} from '@back-again/contract/account';
import { DEFAULT_SETTINGS, formatInstant, type Settings } from '@back-again/core';
import type { Config } from '../config.ts';
import type { UserRow } from '../db/models.ts';
import { holidaysFor } from '../compute/holidays.ts';
import { readyFor } from '../compute/compute.ts';
import { regions } from '../compute/regions.ts';
import {
  changeAddress,
  changePassword,
  deviceOf,
  needPassword,
  removeAccount,
  sessionsView,
} from './own.ts';
import { sessionName } from './sessions.ts';
import { noteSafety } from './events.ts';
import { changeSettings } from './settings.ts';
import { addUser, plainName, userWith } from './users.ts';
import { personOf, type Context } from '../http/context.ts';
import { HttpError, checked } from '../http/errors.ts';
import { makeTries } from './tries.ts';

/** The name of the session's cookie: over HTTPS one that no page of another host can set (RFC 6265bis §4.1.3.2). */
export const cookieOf = ({ secure }: Pick<Config, 'secure'>) =>
  secure ? '__Host-back-again' : 'back-again';

/** Begins a session under a new id, so that one planted before signing in is worth nothing. */
function begin(request: Request, user: UserRow): Promise<void> {
  return new Promise((resolve, reject) => {
    request.session.regenerate((error: unknown) => {
      if (error) return reject(error as Error);
      request.session.userId = user.id;
      request.session.device = deviceOf(request.headers['user-agent']);
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
export function sessionRoutes({ db, now, config, live, sessions, resets, log }: Context): Router {
  const router = Router();
  const tries = makeTries(db, config.signInTries);

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
    noteSafety(log, 'registered', user.id);
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
    noteSafety(log, 'signed in', user.id);
    response.json(viewOf(user));
  });

  router.delete('/session', (request, response, next) => {
    const ended = request.sessionID;
    noteSafety(log, 'signed out', request.session.userId);
    request.session.destroy((error: unknown) => {
      if (error) return next(error);
      live.leave(ended);
      response.clearCookie(cookieOf(config)).status(204).end();
    });
  });

  // The answer is the same for every address, and comes as fast: what there is to send is sent after it.
  router.post('/forgotten', async (request, response) => {
    const { name } = checked(forgottenSchema, request.body);
    await tries.counted(request);
    noteSafety(log, 'link asked for');
    response.status(204).end();
    await resets.send(name, now()).catch((error: unknown) => log.error({ err: error }, 'a link'));
  });
  router.post('/new-password', async (request, response) => {
    const { token, password } = checked(resetSchema, request.body);
    const user = await tries.limited(request, 'new password', () => resets.opened(token, now()));
    for (const ended of await changePassword(db, sessions, user, password, null)) live.leave(ended);
    noteSafety(log, 'password changed', user.id);
    response.status(204).end();
  });

  router.get('/now', (_request, response) => {
    const view: NowView = { now: formatInstant(now()) };
    response.json(view);
  });
  return router;
}

/** The account of who is signed in. */
export function accountRoutes({ db, now, config, live, sessions, log }: Context): Router {
  const router = Router();
  const tries = makeTries(db, config.signInTries);
  /** Lets somebody change the account who knows its password; it can be tried so often only. */
  const withPassword = (request: Request, response: Response, old: string) => {
    const user = personOf(response);
    return tries.limited(request, user.name, () => needPassword(db, user, old));
  };
  const leave = (ended: readonly string[]) => ended.forEach((sid) => live.leave(sid));

  router.get('/session', async (_request, response) => {
    response.json(viewOf(personOf(response)));
  });
  router.get('/regions', (_request, response) => {
    // They change with the program alone.
    response.set('Cache-Control', 'private, max-age=86400').json(regions());
  });
  router.put('/settings', async (request, response) => {
    const user = personOf(response);
    const settings = checked(settingsSchema, request.body) as Settings;
    // A region that is unknown is refused before anything changes.
    await readyFor(settings);
    const kept = await changeSettings(db, user, settings, now());
    response.json(viewOf({ name: user.name, settings: kept }));
  });
  router.post('/account/password', async (request, response) => {
    const { old, password } = checked(passwordSchema, request.body);
    await withPassword(request, response, old);
    leave(await changePassword(db, sessions, personOf(response), password, request.sessionID));
    noteSafety(log, 'password changed', personOf(response).id);
    response.status(204).end();
  });
  router.post('/account/address', async (request, response) => {
    const { old, name } = checked(addressSchema, request.body);
    await withPassword(request, response, old);
    const user = personOf(response);
    leave(await changeAddress(db, sessions, user, name, request.sessionID));
    noteSafety(log, 'address changed', user.id);
    response.json(viewOf({ ...user, name: plainName(name) }));
  });
  router.post('/account/remove', async (request, response, next) => {
    const { old } = checked(removalSchema, request.body);
    await withPassword(request, response, old);
    leave(await removeAccount(db, sessions, personOf(response).id));
    noteSafety(log, 'account removed', personOf(response).id);
    request.session.destroy((error: unknown) => {
      if (error) return next(error);
      response.clearCookie(cookieOf(config)).status(204).end();
    });
  });
  router.get('/account/sessions', async (request, response) => {
    response.json(await sessionsView(sessions, personOf(response).id, request.sessionID));
  });
  router.delete('/account/sessions/:id', async (request, response) => {
    const rows = await sessions.of(personOf(response).id);
    const found = rows.find(({ sid }) => sessionName(sid) === request.params.id);
    if (!found) throw new HttpError(404, 'session.gone', 'That session has ended already.');
    await sessions.endOne(found.sid);
    noteSafety(log, 'session ended', personOf(response).id);
    leave([found.sid]);
    response.status(204).end();
  });
  return router;
}
