import { randomUUID } from 'node:crypto';
import { QueryTypes, type Sequelize } from 'sequelize';

/**
 * Places are a table of their own, and a to-do belongs to one by its id: each name that stood with a
 * to-do is a sphere from here on. With a time stands what was written down with it, with a person what
 * they have in sight and above all. A step may be of a place, or of the person.
 */
export const belongings = {
  name: '0006-belongings',
  async up({ context }: { context: Sequelize }): Promise<void> {
    await context.query(`CREATE TABLE places (
      userId CHAR(36) NOT NULL,
      id CHAR(36) NOT NULL,
      parts JSON NOT NULL,
      describedAt DATETIME(3) NOT NULL,
      createdAt DATETIME(3) NOT NULL,
      version BIGINT NOT NULL,
      PRIMARY KEY (userId, id),
      KEY placesByVersion (userId, version),
      CONSTRAINT placesOfUser FOREIGN KEY (userId) REFERENCES users (id) ON DELETE CASCADE
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_bin`);
    await context.query(`ALTER TABLE users
      ADD COLUMN focus CHAR(36) NULL, ADD COLUMN focusAt DATETIME(3) NULL,
      ADD COLUMN above JSON NULL, ADD COLUMN ownVersion BIGINT NOT NULL DEFAULT 1`);
    await context.query(
      'ALTER TABLE steps MODIFY COLUMN seriesId CHAR(36) NULL, ADD COLUMN placeId CHAR(36) NULL, ADD KEY stepsOfPlace (userId, placeId)',
    );
    await context.query('ALTER TABLE occurrences ADD COLUMN filled JSON NULL');
    await context.query('ALTER TABLE actions MODIFY COLUMN `do` VARCHAR(16) NOT NULL');
    await makePlaces(context);
    await context.query('ALTER TABLE series MODIFY COLUMN place CHAR(36) NULL');
  },
  async down({ context }: { context: Sequelize }): Promise<void> {
    await context.query(`UPDATE series s JOIN places p ON p.userId = s.userId AND p.id = s.place
      SET s.place = LEFT(JSON_VALUE(p.parts, '$.name'), 36)`);
    await context.query('ALTER TABLE series MODIFY COLUMN place VARCHAR(60) NULL');
    await context.query('ALTER TABLE occurrences DROP COLUMN filled');
    await context.query('DELETE FROM steps WHERE seriesId IS NULL');
    await context.query('ALTER TABLE steps DROP KEY stepsOfPlace, DROP COLUMN placeId');
    await context.query(
      'ALTER TABLE users DROP COLUMN focus, DROP COLUMN focusAt, DROP COLUMN above, DROP COLUMN ownVersion',
    );
    await context.query('DROP TABLE places');
  },
};

type Json = Record<string, unknown>;
const parsed = (value: unknown): Json | null =>
  typeof value === 'string' ? (JSON.parse(value) as Json) : (value as Json | null);

/** Makes a sphere of each name that stands, or stood, with a to-do. */
async function makePlaces(sequelize: Sequelize): Promise<void> {
  const set = (sql: string, replacements: unknown[]) => sequelize.query(sql, { replacements });
  const ids = new Map<string, string>();
  const idOf = async (userId: string, name: string) => {
    const key = `${userId} ${name.toLowerCase()}`;
    const known = ids.get(key);
    if (known) return known;
    const id = randomUUID();
    ids.set(key, id);
    const parts = {
      kind: 'sphere',
      name,
      in: null,
      state: 'on',
      from: null,
      to: null,
      note: '',
      order: ids.size,
      heldSince: null,
      gone: false,
    };
    await set(
      `INSERT INTO places (userId, id, parts, describedAt, createdAt, version)
        SELECT id, ?, ?, createdAt, createdAt, version + 1 FROM users WHERE id = ?`,
      [id, JSON.stringify(parts), userId],
    );
    return id;
  };
  const rows = await sequelize.query<{ userId: string; id: string; place: string }>(
    'SELECT userId, id, place FROM series WHERE place IS NOT NULL ORDER BY createdAt, id',
    { type: QueryTypes.SELECT },
  );
  for (const { userId, id, place } of rows)
    await set(
      `UPDATE series SET place = ?, version = (SELECT version + 1 FROM users WHERE id = ?)
        WHERE userId = ? AND id = ?`,
      [await idOf(userId, place), userId, userId, id],
    );
  const steps = await sequelize.query<{ seq: number; userId: string; deed: unknown; was: unknown }>(
    "SELECT seq, userId, deed, was FROM steps WHERE kind = 'describe' ORDER BY seq",
    { type: QueryTypes.SELECT },
  );
  for (const step of steps) {
    const deed = parsed(step.deed);
    const was = parsed(step.was);
    for (const parts of [deed?.details as Json | undefined, was])
      if (typeof parts?.place === 'string') parts.place = await idOf(step.userId, parts.place);
    await set('UPDATE steps SET deed = ?, was = ? WHERE seq = ?', [
      JSON.stringify(deed),
      JSON.stringify(was),
      step.seq,
    ]);
  }
  // Devices hear of it as of any change.
  await sequelize.query(
    'UPDATE users SET version = version + 1 WHERE id IN (SELECT userId FROM places)',
  );
}
