import { Router } from 'express';
import { isSameBytes } from '../sameBytes.ts';
import { Counter, Gauge, Histogram, Registry, collectDefaultMetrics } from 'prom-client';
import type { Sequelize } from 'sequelize';

/** What an operator may know of a server: figures, and nothing of anybody’s. */
export interface Metrics {
  /** A request that was answered, by its route, and how many seconds that took. */
  answered(of: { method: string; route: string; status: number }, seconds: number): void;
  /** An action that was taken, by what it does. */
  acted(what: string): void;
  /** A reminder that was handed over or shown, and how many seconds after its moment. */
  said(channel: string, lateness: number): void;
  /** What a device was sent of what changed, in bytes. */
  synced(bytes: number): void;
  /** All of it as Prometheus text (its exposition format, version 0.0.4). */
  text(): Promise<string>;
  type: string;
}

/** How slow a request may be to count in each box, in seconds. */
const SECONDS = [0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10, 30];
const LATE = [1, 5, 15, 30, 60, 300, 900, 3600, 6 * 3600, 24 * 3600];
const BYTES = [1e3, 4e3, 16e3, 64e3, 256e3, 1e6, 4e6, 16e6];

/** Figures of one server, in a registry of its own: several may run in one process. */
export function makeMetrics({ sequelize }: { sequelize: Sequelize }): Metrics {
  const registry = new Registry();
  const registers = [registry];
  // Memory, the event loop, handles.
  collectDefaultMetrics({ register: registry });
  const took = new Histogram({
    name: 'back_again_request_seconds',
    help: 'How long requests took, by route and answer',
    labelNames: ['method', 'route', 'status'],
    buckets: SECONDS,
    registers,
  });
  const actions = new Counter({
    name: 'back_again_actions_total',
    help: 'Actions that were taken, by what they do',
    labelNames: ['do'],
    registers,
  });
  const lateness = new Histogram({
    name: 'back_again_message_lateness_seconds',
    help: 'How long after they were decided messages were handed over',
    labelNames: ['channel'],
    buckets: LATE,
    registers,
  });
  const sizes = new Histogram({
    name: 'back_again_changes_bytes',
    help: 'What devices were sent of what changed, before it is compressed',
    buckets: BYTES,
    registers,
  });
  const { pool } = sequelize.connectionManager as unknown as {
    pool: { size: number; available: number; using: number; waiting: number };
  };
  new Gauge({
    name: 'back_again_pool',
    help: 'Connections to the database, and who waits for one',
    labelNames: ['state'],
    registers,
    collect() {
      for (const state of ['size', 'available', 'using', 'waiting'] as const)
        this.set({ state }, Number(pool[state]) || 0);
    },
  });
  return {
    answered: (of, seconds) => took.observe(of, seconds),
    acted: (what) => actions.inc({ do: what }),
    said: (channel, seconds) => lateness.observe({ channel }, Math.max(0, seconds)),
    synced: (bytes) => sizes.observe(bytes),
    text: () => registry.metrics(),
    type: registry.contentType,
  };
}

/** `GET /metrics`, for who has the operator’s key (RFC 6750, in the header); without one there is no such address. */
export function metricsRoutes(metrics: Metrics, key: string | null): Router {
  const router = Router();
  if (key === null) return router;
  const wanted = Buffer.from(`Bearer ${key}`);
  router.get('/metrics', async (request, response) => {
    const got = Buffer.from(request.get('Authorization') ?? '');
    if (!isSameBytes(wanted, got)) {
      response.status(401).set('WWW-Authenticate', 'Bearer').end();
      return;
    }
    response.type(metrics.type).send(await metrics.text());
  });
  return router;
}
