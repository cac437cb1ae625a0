import type { Sequelize } from 'sequelize';

/**
 * The first tables. Every row belongs to a user, and ids that clients choose are unique for that
 * user alone: another person's id never collides, and so never shows that it exists.
 */
const TABLES = [
  `CREATE TABLE users (
    id CHAR(36) NOT NULL PRIMARY KEY,
    name VARCHAR(254) NOT NULL,
    passwordHash VARCHAR(255) NOT NULL,
    settings JSON NOT NULL,
    createdAt DATETIME(3) NOT NULL,
    UNIQUE KEY usersByName (name)
  )`,
  `CREATE TABLE sessions (
    sid VARCHAR(64) NOT NULL PRIMARY KEY,
    expires DATETIME NOT NULL,
    data TEXT,
    createdAt DATETIME NOT NULL,
    updatedAt DATETIME NOT NULL,
    KEY sessionsByExpiry (expires)
  )`,
  `CREATE TABLE series (
    userId CHAR(36) NOT NULL,
    id CHAR(36) NOT NULL,
    definition JSON NOT NULL,
    progress JSON NOT NULL,
    wakeAt DATETIME(3) NULL,
    nextDue VARCHAR(16) NULL,
    ended BOOLEAN NOT NULL,
    createdAt DATETIME(3) NOT NULL,
    removedAt DATETIME(3) NULL,
    PRIMARY KEY (userId, id),
    KEY seriesByWake (wakeAt),
    KEY seriesByNext (userId, nextDue),
    CONSTRAINT seriesOfUser FOREIGN KEY (userId) REFERENCES users (id) ON DELETE CASCADE
  )`,
  `CREATE TABLE occurrences (
    userId CHAR(36) NOT NULL,
    seriesId CHAR(36) NOT NULL,
    number INT NOT NULL,
    slot VARCHAR(16) NOT NULL,
    due VARCHAR(16) NULL,
    plan VARCHAR(10) NULL,
    planBy VARCHAR(6) NOT NULL,
    moved BOOLEAN NOT NULL,
    status VARCHAR(7) NOT NULL,
    openedAt DATETIME(3) NULL,
    closedAt DATETIME(3) NULL,
    rolled INT NOT NULL,
    part INT NULL,
    tally INT NULL,
    note TEXT NULL,
    PRIMARY KEY (userId, seriesId, number),
    KEY occurrencesByStatus (userId, status, closedAt),
    KEY occurrencesBySlot (userId, seriesId, slot),
    CONSTRAINT occurrencesOfSeries FOREIGN KEY (userId, seriesId) REFERENCES series (userId, id) ON DELETE CASCADE
  )`,
  `CREATE TABLE actions (
    seq BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
    userId CHAR(36) NOT NULL,
    id CHAR(36) NOT NULL,
    \`do\` VARCHAR(10) NOT NULL,
    at DATETIME(3) NOT NULL,
    undoes CHAR(36) NULL,
    undone BOOLEAN NOT NULL,
    UNIQUE KEY actionsById (userId, id),
    KEY actionsByTime (userId, at),
    CONSTRAINT actionsOfUser FOREIGN KEY (userId) REFERENCES users (id) ON DELETE CASCADE
  )`,
  `CREATE TABLE steps (
    seq BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
    actionSeq BIGINT NOT NULL,
    userId CHAR(36) NOT NULL,
    seriesId CHAR(36) NOT NULL,
    kind VARCHAR(10) NOT NULL,
    at DATETIME(3) NOT NULL,
    deed JSON NULL,
    number INT NULL,
    \`before\` JSON NULL,
    touched JSON NULL,
    undone BOOLEAN NOT NULL,
    KEY stepsOfSeries (userId, seriesId, at, seq),
    KEY stepsOfTime (userId, seriesId, number),
    KEY stepsOfAction (actionSeq),
    CONSTRAINT stepOfAction FOREIGN KEY (actionSeq) REFERENCES actions (seq) ON DELETE CASCADE,
    CONSTRAINT stepOfSeries FOREIGN KEY (userId, seriesId) REFERENCES series (userId, id) ON DELETE CASCADE
  )`,
];

export const first = {
  name: '0001-first',
  async up({ context }: { context: Sequelize }): Promise<void> {
    for (const table of TABLES)
      await context.query(`${table} ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_bin`);
  },
  async down({ context }: { context: Sequelize }): Promise<void> {
    for (const table of ['steps', 'actions', 'occurrences', 'series', 'sessions', 'users'])
      await context.query(`DROP TABLE IF EXISTS ${table}`);
  },
};
