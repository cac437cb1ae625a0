import { existsSync } from 'node:fs';
import { join } from 'node:path';
import compression from 'compression';
import connectSessionSequelize from 'connect-session-sequelize';
import express, { type Express, type RequestHandler } from 'express';
import session from 'express-session';
import compressedStatic from 'express-static-gzip';
import helmet from 'helmet';
import { DataTypes } from 'sequelize';
import type { Log } from '../log.ts';
import { COOKIE, accountRoutes } from './account.ts';
import type { Context } from './context.ts';
import { HttpError, answerErrors, notFound } from './errors.ts';
import { makeLive, type Live } from './live.ts';
import { saidRoutes } from './said.ts';
import { testClockRoutes } from './testClock.ts';
import { todoRoutes } from './todos.ts';

const MONTH = 30 * 24 * 3600_000;

/** The whole HTTP side of the server; `close` ends what it keeps running. */
export function makeApp(given: Omit<Context, 'live'>): { app: Express; live: Live; close(): void } {
  const { config, db, log } = given;
  const live = makeLive(db, log);
  const context: Context = { ...given, live };
  const app = express();
  if (config.secure) app.set('trust proxy', 1);
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
          upgradeInsecureRequests: config.secure ? [] : null,
        },
      },
      strictTransportSecurity: config.secure,
    }),
  );
  app.use(compression());
  app.use(logRequests(log));

  const SessionStore = connectSessionSequelize(session.Store);
  db.sequelize.define(
    'sessions',
    {
      sid: { type: DataTypes.STRING(64), primaryKey: true },
      expires: DataTypes.DATE,
      data: DataTypes.TEXT,
      createdAt: DataTypes.DATE,
      updatedAt: DataTypes.DATE,
    },
    { timestamps: true },
  );
  const store = new SessionStore({ db: db.sequelize, table: 'sessions', expiration: MONTH });

  const api = express.Router();
  api.use(sameOrigin, express.json({ limit: '64kb', strict: false, type: () => true }));
  api.use(
    session({
      name: COOKIE,
      secret: config.sessionSecret,
      store,
      resave: false,
      saveUninitialized: false,
      rolling: true,
      cookie: { httpOnly: true, sameSite: 'lax', secure: config.secure, maxAge: MONTH },
    }),
  );
  api.use((_request, response, next) => {
    response.set('Cache-Control', 'no-store');
    next();
  });
  api.get('/health', async (_request, response) => {
    await db.sequelize.authenticate();
    response.json({ ok: true });
  });
  api.use(accountRoutes(context), todoRoutes(context), saidRoutes(context));
  if (config.testClock) api.use(testClockRoutes(context));
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
      store.stopExpiringSessions();
    },
  };
}

/** A request that changes something must come from this very site (OWASP, CSRF prevention: verifying origin). */
const sameOrigin: RequestHandler = (request, _response, next) => {
  const { origin } = request.headers;
  const changes = !['GET', 'HEAD', 'OPTIONS'].includes(request.method);
  if (changes && origin !== undefined && !sameHost(origin, request.headers.host))
    throw new HttpError(403, 'origin.other', 'This request came from another site.');
  next();
};

function sameHost(origin: string, host: string | undefined): boolean {
  return URL.canParse(origin) && new URL(origin).host === host;
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
  app.use(compressedStatic(folder, { ...compressed, serveStatic: { maxAge: '1h' } }));
  const page = join(folder, 'index.html');
  if (!existsSync(page)) throw new Error(`${page} is missing: build the app first.`);
  app.get('/{*path}', (_request, response) => {
    response.set('Cache-Control', 'no-cache').sendFile(page);
  });
}

/** One line a request: method, route and outcome, without ids, bodies or names. */
function logRequests(log: Log): RequestHandler {
  return (request, response, next) => {
    const from = process.hrtime.bigint();
    response.once('finish', () => {
      const route = request.route as { path?: string } | undefined;
      if (!request.originalUrl.startsWith('/api')) return;
      const ms = Number((process.hrtime.bigint() - from) / 10_000n) / 100;
      log.info(
        { method: request.method, route: route?.path ?? '-', status: response.statusCode, ms },
        'request',
      );
    });
    next();
  };
}
