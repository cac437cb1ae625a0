import type { Sequelize } from 'sequelize';

/** What was said to a person, what is sent for it, and what arrived at the stand-in. */
const TABLES = [
  `CREATE TABLE notices (
    seq BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
    id CHAR(36) NOT NULL,
    userId CHAR(36) NOT NULL,
    seriesId CHAR(36) NULL,
    mark VARCHAR(190) NOT NULL,
    slot VARCHAR(16) NULL,
    number INT NULL,
    due VARCHAR(16) NULL,
    at DATETIME(3) NOT NULL,
    saidAt DATETIME(3) NOT NULL,
    browser BOOLEAN NOT NULL,
    overview JSON NULL,
    UNIQUE KEY noticesById (id),
    UNIQUE KEY noticesByMark (userId, mark),
    KEY noticesOfUser (userId, saidAt, seq),
    KEY noticesOfSeries (userId, seriesId),
    CONSTRAINT noticeOfUser FOREIGN KEY (userId) REFERENCES users (id) ON DELETE CASCADE,
    CONSTRAINT noticeOfSeries FOREIGN KEY (userId, seriesId) REFERENCES series (userId, id) ON DELETE CASCADE
  )`,
  `CREATE TABLE messages (
    id CHAR(36) NOT NULL PRIMARY KEY,
    noticeId CHAR(36) NOT NULL,
    userId CHAR(36) NOT NULL,
    channel VARCHAR(7) NOT NULL,
    subject VARCHAR(255) NOT NULL,
    text TEXT NOT NULL,
    state VARCHAR(8) NOT NULL,
    tries INT NOT NULL,
    nextTryAt DATETIME(3) NULL,
    decidedAt DATETIME(3) NOT NULL,
    settledAt DATETIME(3) NULL,
    why VARCHAR(255) NULL,
    UNIQUE KEY messagesOfNotice (noticeId, channel),
    KEY messagesToSend (nextTryAt),
    KEY messagesOfUser (userId, decidedAt),
    CONSTRAINT messageOfNotice FOREIGN KEY (noticeId) REFERENCES notices (id) ON DELETE CASCADE,
    CONSTRAINT messageOfUser FOREIGN KEY (userId) REFERENCES users (id) ON DELETE CASCADE
  )`,
  // The stand-in is a service of its own: nothing but the person ties it to the rest.
  `CREATE TABLE arrivals (
    messageId CHAR(36) NOT NULL PRIMARY KEY,
    userId CHAR(36) NOT NULL,
    channel VARCHAR(7) NOT NULL,
    address VARCHAR(254) NOT NULL,
    subject VARCHAR(255) NOT NULL,
    text TEXT NOT NULL,
    arrivesAt DATETIME(3) NOT NULL,
    copies INT NOT NULL,
    KEY arrivalsOfUser (userId),
    CONSTRAINT arrivalOfUser FOREIGN KEY (userId) REFERENCES users (id) ON DELETE CASCADE
  )`,
];

export const speakingUp = {
  name: '0002-speaking-up',
  async up({ context }: { context: Sequelize }): Promise<void> {
    for (const table of TABLES)
      await context.query(`${table} ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_bin`);
    await context.query(`ALTER TABLE users
      ADD COLUMN overviewAt DATETIME(3) NULL,
      ADD COLUMN seenThrough BIGINT NOT NULL DEFAULT 0,
      ADD COLUMN standIn JSON NULL,
      ADD KEY usersByOverview (overviewAt)`);
    // Today asks one person's to-dos for those that are woken today.
    await context.query('ALTER TABLE series ADD KEY seriesOfUserByWake (userId, wakeAt)');
    // The moments of reminders were no part of it before: the clock works them out at once.
    await context.query(`UPDATE series SET wakeAt = UTC_TIMESTAMP(3)
      WHERE removedAt IS NULL AND ended = FALSE AND (wakeAt IS NULL OR wakeAt > UTC_TIMESTAMP(3))`);
  },
  async down({ context }: { context: Sequelize }): Promise<void> {
    for (const table of ['arrivals', 'messages', 'notices'])
      await context.query(`DROP TABLE IF EXISTS ${table}`);
    await context.query('ALTER TABLE series DROP KEY seriesOfUserByWake');
    await context.query(`ALTER TABLE users
      DROP KEY usersByOverview, DROP COLUMN overviewAt, DROP COLUMN seenThrough, DROP COLUMN standIn`);
  },
};
