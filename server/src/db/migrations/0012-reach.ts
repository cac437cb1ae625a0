import type { Sequelize } from 'sequelize';

/** What grows with what people do: ids repeat in each of its keys, so that pages take half the room (InnoDB page compression). */
const GROWING = ['occurrences', 'steps', 'actions', 'notices', 'messages', 'arrivals'];

/**
 * Devices that are told with no window open; which of them a message is for; what is made once and kept. Nothing grows
 * without bound: states before steps repeat themselves, and are compressed where they lie (MariaDB, storage-engine
 * independent column compression); when each person's things are tidied next. Tries that were taken, for all servers.
 */
export const reach = {
  name: '0012-reach',
  async up({ context }: { context: Sequelize }): Promise<void> {
    await context.query(`CREATE TABLE devices (
      sum CHAR(64) NOT NULL PRIMARY KEY,
      id CHAR(36) NOT NULL,
      userId CHAR(36) NOT NULL,
      session CHAR(32) NOT NULL,
      name VARCHAR(60) NOT NULL,
      endpoint VARCHAR(1000) NOT NULL,
      p256dh CHAR(87) NOT NULL,
      auth CHAR(22) NOT NULL,
      createdAt DATETIME(3) NOT NULL,
      usedAt DATETIME(3) NULL,
      UNIQUE KEY deviceOfUser (userId, id),
      KEY devicesBySession (session),
      CONSTRAINT devicesOfUser FOREIGN KEY (userId) REFERENCES users (id) ON DELETE CASCADE
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_bin`);
    // A notice goes to each device of a person; the empty id stands for those that have none, as keys take no NULL as equal.
    await context.query(`ALTER TABLE messages ADD COLUMN deviceId CHAR(36) NOT NULL DEFAULT '',
      ADD UNIQUE KEY messagesToEach (noticeId, channel, deviceId), DROP KEY messagesOfNotice`);
    await context.query(`CREATE TABLE madeOnce (
      name VARCHAR(30) NOT NULL PRIMARY KEY,
      value VARCHAR(500) NOT NULL
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_bin`);
    await context.query(
      'ALTER TABLE steps MODIFY COLUMN `before` LONGTEXT COMPRESSED COLLATE utf8mb4_bin NULL',
    );
    // Of the record of one to-do its key finds the rows: these two said the same once more, for a third of its room.
    await context.query(
      'ALTER TABLE occurrences DROP KEY pastOfTodoByDue, DROP KEY pastOfTodoByDone',
    );
    for (const table of GROWING)
      await context.query(`ALTER TABLE ${table} ROW_FORMAT=COMPRESSED KEY_BLOCK_SIZE=8`);
    await context.query(
      'ALTER TABLE users ADD COLUMN tidyAt DATETIME(3) NULL, ADD KEY usersByTidy (tidyAt)',
    );
    await context.query('UPDATE users SET tidyAt = createdAt + INTERVAL 7 DAY');
    await context.query(`CREATE TABLE limits (
      name VARCHAR(255) NOT NULL PRIMARY KEY,
      points INT NOT NULL,
      ends BIGINT NOT NULL,
      KEY limitsByEnd (ends)
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_bin`);
  },
  async down({ context }: { context: Sequelize }): Promise<void> {
    await context.query('DROP TABLE limits');
    await context.query('ALTER TABLE users DROP KEY usersByTidy, DROP COLUMN tidyAt');
    for (const table of GROWING)
      await context.query(`ALTER TABLE ${table} ROW_FORMAT=DYNAMIC KEY_BLOCK_SIZE=0`);
    await context.query(`ALTER TABLE occurrences
      ADD KEY pastOfTodoByDue (userId, seriesId, dueOn, status),
      ADD KEY pastOfTodoByDone (userId, seriesId, doneOn, minutes, estimated)`);
    await context.query('ALTER TABLE steps MODIFY COLUMN `before` JSON NULL');
    await context.query('DROP TABLE madeOnce');
    await context.query("DELETE FROM messages WHERE deviceId <> ''");
    await context.query(`ALTER TABLE messages ADD UNIQUE KEY messagesOfNotice (noticeId, channel),
      DROP KEY messagesToEach, DROP COLUMN deviceId`);
    await context.query('DROP TABLE devices');
  },
};
