import { existsSync } from 'node:fs';
import type { ServerResponse } from 'node:http';
import { join } from 'node:path';
import compression from 'compression';
import express, { type Express, type RequestHandler } from 'express';
import session from 'express-session';
import compressedStatic from 'express-static-gzip';
import helmet from 'helmet';
import type { Database } from '../db/database.ts';
import { cookieOf, accountRoutes, sessionRoutes } from '../account/routes.ts';
import { readBody } from './body.ts';
import { inTurn, personal, type Context } from './context.ts';
import { answerErrors, notFound } from './errors.ts';
import { makeGate } from './gate.ts';
import { makeLive, type Live } from './live.ts';
import { overHttps, sameOrigin } from './origin.ts';
import { patience, within } from './patience.ts';
import { metricsRoutes } from '../operator/metrics.ts';
import { noMailRoutes } from '../said/noMail.ts';
import { finishRoutes, saidRoutes } from '../said/routes.ts';
import { makeSessions } from '../account/sessions.ts';
import { testClockRoutes } from './testClock.ts';
import { fileRoutes } from '../files/routes.ts';
import { makeSecrets } from '../doors/keys.ts';
import { addressRoutes, doorRoutes } from '../doors/routes.ts';
import { pastRoutes } from '../past/routes.ts';
import { placeRoutes } from '../places/routes.ts';
import { deviceRoutes } from '../push/routes.ts';
import { todoRoutes } from '../todos/routes.ts';

const MONTH = 30 * 24 * 3600_000;

/** The whole HTTP side of the server; `close` ends what it keeps running. */
export function makeApp(given: Omit<Context, 'live' | 'gate' | 'sessions' | 'secrets'>): {
  app: Express;
  live: Live;
  close(): void;
} {
  const { config, db, log, agreement } = given;
  const sessions = makeSessions(db, MONTH);
  const live = makeLive(db, log, sessions.alive);
  const secrets = makeSecrets(db);
  const context: Context = { ...given, live, sessions, secrets, gate: makeGate() };
  const app = express();
  // What a request says of where it came from is believed of the proxy alone.
  app.set('trust proxy', config.secure ? config.proxy : false);
  app.disable('x-powered-by');
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          defaultSrc: ["'self'"],
          scriptSrc: ["'self'"],
          // React Native's web target writes its style sheet into the page.
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", 'data:'],
          workerSrc: ["'self'", 'blob:'],
          objectSrc: ["'none'"],
          baseUri: ["'none'"],
          frameAncestors: ["'none'"],
          formAction: ["'self'"],
          upgradeInsecureRequests: config.secure ? [] : null,
        },
      },
      xFrameOptions: { action: 'deny' },
      strictTransportSecurity: config.secure,
    }),
  );
  app.use(compression());
  app.use(watchRequests(context));

  const api = express.Router();
  api.use((_request, response, next) => {
    response.set('Cache-Control', 'no-store');
    next();
  });
  api.get('/health', async (_request, response) => {
    const database = await answers(db);
    const clock = agreement.current();
    response.status(database ? 200 : 503).json({ ok: database && clock.isClose, database, clock });
  });
  api.use(metricsRoutes(context.metrics, config.operatorKey));
  // Mail programs come without saying where from, and with a form.
  api.use('/no-mail', overHttps(config), noMailRoutes(context));
  api.use(patience, overHttps(config), sameOrigin(config), inTurn(context), ...readBody);
  api.use(
    session({
      name: cookieOf(config),
      secret: config.sessionSecret,
      store: sessions.store,
      resave: false,
      saveUninitialized: false,
      rolling: true,
      cookie: { httpOnly: true, sameSite: 'lax', secure: config.secure, maxAge: MONTH },
    }),
  );
  api.use(sessionRoutes(context), finishRoutes(context), addressRoutes(context));
  if (config.testClock) api.use(testClockRoutes(context));
  api.use(personal(context), accountRoutes(context));
  api.use(todoRoutes(context), pastRoutes(context), placeRoutes(context));
  api.use(fileRoutes(context), saidRoutes(context), deviceRoutes(context), doorRoutes(context));
  api.use(notFound);
  app.use('/api', api);
  if (config.web) serveWeb(app, config.web);
  app.use(notFound);
  app.use(answerErrors(log));
  return {
    app,
    live,
    close() {
      live.stop();
      sessions.stop();
    },
  };
}

/** Whether the database answers, within a moment. */
async function answers({ sequelize }: Database): Promise<boolean> {
  try {
    await within(1500, sequelize.authenticate());
    return true;
  } catch {
    return false;
  }
}

/** The built app: its hashed files for ever, its page for every address that is not a file. */
function serveWeb(app: Express, folder: string): void {
  const compressed = { enableBrotli: true, orderPreference: ['br', 'gz'], index: false as const };
  const forEver = { immutable: true, maxAge: '1y' };
  for (const hashed of ['_expo', 'assets'])
    app.use(
      `/${hashed}`,
      compressedStatic(join(folder, hashed), { ...compressed, serveStatic: forEver }),
    );
  // A device looks for a newer program each time.
  const setHeaders = (response: ServerResponse, path: string) => {
    if (/worker\.js|\.webmanifest|index\.html/u.test(path))
      response.setHeader('Cache-Control', 'no-cache');
  };
  app.use(compressedStatic(folder, { ...compressed, serveStatic: { maxAge: '1h', setHeaders } }));
  const page = join(folder, 'index.html');
  if (!existsSync(page)) throw new Error(`${page} is missing: build the app first.`);
  app.get('/{*path}', (_request, response) => {
    response.set('Cache-Control', 'no-cache').sendFile(page);
  });
}

/** One line and one figure a request: method, route and outcome, without ids, bodies or names. */
function watchRequests({ log, metrics }: Pick<Context, 'log' | 'metrics'>): RequestHandler {
  return (request, response, next) => {
    const from = process.hrtime.bigint();
    response.once('finish', () => {
      const route = request.route as { path?: string } | undefined;
      if (!request.originalUrl.startsWith('/api')) return;
      const ms = Number((process.hrtime.bigint() - from) / 10_000n) / 100;
      // An address that nobody made has no route: each of them would be a figure of its own.
      const of = { method: request.method, route: route?.path ?? '-', status: response.statusCode };
      log.info({ ...of, ms }, 'request');
      metrics.answered(of, ms / 1000);
    });
    next();
  };
}
