import webPush from 'web-push';
import type { Database } from '../db/database.ts';

/** The keys of this installation, by which push services know it (RFC 8292), in base64url. */
export interface PushKeys {
  publicKey: string;
  privateKey: string;
}

const NAME = 'push keys';

/**
 * The keys, made the first time and kept: browsers subscribe with them, so that others would lose all of these.
 * Of several servers that start at once, one makes them.
 */
export async function pushKeys(db: Database): Promise<PushKeys> {
  const found = await db.madeOnce.findByPk(NAME);
  if (found) return JSON.parse(found.value) as PushKeys;
  const made = webPush.generateVAPIDKeys();
  await db.transaction((transaction) =>
    db.madeOnce.bulkCreate([{ name: NAME, value: JSON.stringify(made) }], {
      ignoreDuplicates: true,
      transaction,
    }),
  );
  const kept = await db.madeOnce.findByPk(NAME);
  return JSON.parse(kept!.value) as PushKeys;
}
