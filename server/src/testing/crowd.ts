import { randomUUID } from 'node:crypto';
import {
  DEFAULT_SETTINGS,
  beginLongAgo,
  type Instant,
  type Progress,
  type Series,
  type Settings,
} from '@back-again/core';
import { openDatabase, type Database } from '../db/database.ts';
import { migrate } from '../db/migrate.ts';
import type { UserRow } from '../db/models.ts';
import { addUser } from '../account/users.ts';
import { freshDatabase } from './harness.ts';

export interface Crowd {
  db: Database;
  url: string;
  series: Map<string, Series>;
}

/** Waits until nothing is left. */
export async function until(left: () => Promise<number>): Promise<void> {
  while ((await left()) > 0) await new Promise((resolve) => setTimeout(resolve, 20));
}

interface Member {
  definition: Series;
  /** What its progress has beside that of a new one. */
  progress?: Partial<Progress>;
}

interface People {
  people: number;
  /** How many to-dos each has. */
  each: number;
  born: Instant;
  settings?: Partial<Settings>;
  user?: Partial<UserRow>;
}

/** Many to-dos of some people, on a database of their own, as they stood when they were made. */
export async function makeCrowd(
  { people, each, born, settings, user: more }: People,
  member: (i: number) => Member,
): Promise<Crowd> {
  const url = await freshDatabase();
  const db = openDatabase(url);
  await migrate(db.sequelize);
  const series = new Map<string, Series>();
  for (let person = 0; person < people; person++) {
    const user = await addUser(db, {
      name: `${randomUUID()}@example.org`,
      password: 'a long password',
      settings: { ...DEFAULT_SETTINGS, ...settings },
      now: born,
    });
    if (more) await db.users.update(more, { where: { id: user.id } });
    const rows = Array.from({ length: each }, (_, i) => {
      const { definition, progress } = member(person * each + i);
      const id = randomUUID();
      series.set(id, definition);
      return {
        id,
        userId: user.id,
        definition,
        progress: { ...beginLongAgo(definition, born), ...progress },
        speaksAt: new Date(born),
        changesAt: new Date(born),
        nextDue: null,
        ended: false,
        createdAt: new Date(born),
        removedAt: null,
      };
    });
    for (let i = 0; i < rows.length; i += 500) await db.series.bulkCreate(rows.slice(i, i + 500));
  }
  return { db, url, series };
}
