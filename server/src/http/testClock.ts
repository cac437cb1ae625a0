import { Router } from 'express';
import { clockSchema } from '@back-again/contract';
import { formatInstant, parseInstant } from '@back-again/core';
import type { Context } from './context.ts';
import { checked } from './errors.ts';

/** Sets the server's time and lets everything happen that is due then. Only mounted in tests. */
export function testClockRoutes({ now, clock, sender }: Context): Router {
  const router = Router();
  router.put('/test/clock', async (request, response) => {
    now.set(parseInstant(checked(clockSchema, request.body).now));
    const advanced = await clock.tick();
    response.json({ now: formatInstant(now()), advanced, sent: await sender.tick() });
  });
  return router;
}
