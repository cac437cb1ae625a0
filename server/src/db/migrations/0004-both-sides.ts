import { QueryTypes, type Sequelize } from 'sequelize';

/**
 * A person’s own changes are in one order, that of `users.version`, which every row bears that was
 * written with it. The clock takes what is to be said (`speaksAt`); when a to-do next changes by itself
 * (`changesAt`) is read by who reads the record. A session names its person.
 */
export const bothSides = {
  name: '0004-both-sides',
  async up({ context }: { context: Sequelize }): Promise<void> {
    await context.query(`ALTER TABLE users
      ADD COLUMN version BIGINT NOT NULL DEFAULT 1,
      ADD COLUMN settingsVersion BIGINT NOT NULL DEFAULT 1`);
    // Both were one moment, the earlier of the two: each is worked out again when that has come.
    await context.query(`ALTER TABLE series
      ADD COLUMN version BIGINT NOT NULL DEFAULT 1,
      ADD COLUMN lately JSON NULL,
      ADD COLUMN speaksAt DATETIME(3) NULL,
      ADD COLUMN changesAt DATETIME(3) NULL`);
    await context.query('UPDATE series SET speaksAt = wakeAt, changesAt = wakeAt');
    await context.query(`ALTER TABLE series
      DROP KEY seriesByWake, DROP KEY seriesOfUserByWake, DROP COLUMN wakeAt,
      ADD KEY seriesBySpeaking (speaksAt),
      ADD KEY seriesByVersion (userId, version),
      ADD KEY seriesByChange (userId, changesAt)`);
    await context.query(`ALTER TABLE occurrences
      ADD COLUMN planAt VARCHAR(16) NULL AFTER plan,
      ADD COLUMN version BIGINT NOT NULL DEFAULT 0`);
    await context.query(`ALTER TABLE actions
      ADD COLUMN doneAt DATETIME(3) NULL AFTER at, ADD COLUMN version BIGINT NOT NULL DEFAULT 1`);
    await context.query('UPDATE actions SET doneAt = at');
    await context.query('ALTER TABLE actions MODIFY COLUMN doneAt DATETIME(3) NOT NULL');
    await context.query('ALTER TABLE sessions ADD COLUMN userId CHAR(36) NULL');
    await context.query("UPDATE sessions SET userId = JSON_VALUE(data, '$.userId')");
    await keepLately(context);
  },
  async down({ context }: { context: Sequelize }): Promise<void> {
    await context.query('ALTER TABLE sessions DROP COLUMN userId');
    await context.query('ALTER TABLE actions DROP COLUMN version, DROP COLUMN doneAt');
    await context.query('ALTER TABLE occurrences DROP COLUMN planAt, DROP COLUMN version');
    await context.query('ALTER TABLE series ADD COLUMN wakeAt DATETIME(3) NULL');
    await context.query(
      'UPDATE series SET wakeAt = LEAST(COALESCE(speaksAt, changesAt), COALESCE(changesAt, speaksAt))',
    );
    await context.query(`ALTER TABLE series
      DROP KEY seriesBySpeaking, DROP KEY seriesByVersion, DROP KEY seriesByChange,
      DROP COLUMN version, DROP COLUMN lately, DROP COLUMN speaksAt, DROP COLUMN changesAt,
      ADD KEY seriesByWake (wakeAt), ADD KEY seriesOfUserByWake (userId, wakeAt)`);
    await context.query('ALTER TABLE users DROP COLUMN version, DROP COLUMN settingsVersion');
  },
};

interface Row {
  userId: string;
  seriesId: string;
  action: string;
  doneAt: Date;
  openedAt: Date | null;
  closedAt: Date | null;
  part: number | null;
  tally: number | null;
  note: string | null;
  moved: number;
}

/** Keeps what was ended in the last days beside its to-do, with the last action that did so: it can be taken back in place. */
async function keepLately(sequelize: Sequelize): Promise<void> {
  const rows = await sequelize.query<Row>(
    `SELECT o.number, o.slot, o.due, o.plan, o.planBy, o.moved, o.status, o.openedAt, o.closedAt,
        o.rolled, o.part, o.tally, o.note, t.userId, t.seriesId, a.id AS action, a.at AS doneAt
      FROM actions a
      JOIN steps t ON t.actionSeq = a.seq AND t.undone = FALSE
      JOIN occurrences o ON o.userId = t.userId AND o.seriesId = t.seriesId AND o.number = t.number
      WHERE a.at > (SELECT MAX(at) FROM actions) - INTERVAL 3 DAY AND a.undone = FALSE
        AND a.\`do\` IN ('done', 'tally', 'skip') AND o.status IN ('done', 'skipped')
      ORDER BY t.place`,
    { type: QueryTypes.SELECT },
  );
  const lately = new Map<string, { row: Row; ended: Map<unknown, object> }>();
  for (const row of rows) {
    const { userId, seriesId, action, doneAt, openedAt, closedAt, part, tally, note, ...time } =
      row;
    const key = `${userId} ${seriesId}`;
    const found = lately.get(key) ?? { row, ended: new Map<unknown, object>() };
    const { number } = time as unknown as { number: number };
    found.ended.delete(number);
    found.ended.set(number, {
      time: {
        ...time,
        moved: Boolean(row.moved),
        openedAt: openedAt && openedAt.getTime(),
        closedAt: closedAt && closedAt.getTime(),
        ...(part === null ? {} : { part }),
        ...(tally === null ? {} : { tally }),
        ...(note === null ? {} : { note }),
      },
      action,
      at: doneAt.getTime(),
    });
    lately.set(key, found);
  }
  for (const { row, ended } of lately.values())
    await sequelize.query('UPDATE series SET lately = ? WHERE userId = ? AND id = ?', {
      replacements: [JSON.stringify([...ended.values()]), row.userId, row.seriesId],
    });
}
