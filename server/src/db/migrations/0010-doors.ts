import type { Sequelize } from 'sequelize';

/**
 * Keys, addresses of feeds and ways of to-dos, by the hash of their secrets; how to-dos with a record began
 * here; by what an action came, where that was no window of the app.
 */
export const doors = {
  name: '0010-doors',
  async up({ context }: { context: Sequelize }): Promise<void> {
    await context.query(`CREATE TABLE doors (
      hash CHAR(64) NOT NULL PRIMARY KEY,
      id CHAR(36) NOT NULL,
      userId CHAR(36) NOT NULL,
      kind VARCHAR(4) NOT NULL,
      name VARCHAR(100) NOT NULL,
      reach VARCHAR(6) NULL,
      placeId CHAR(36) NULL,
      seriesId CHAR(36) NULL,
      createdAt DATETIME(3) NOT NULL,
      usedAt DATETIME(3) NULL,
      uses INT UNSIGNED NOT NULL DEFAULT 0,
      UNIQUE KEY doorOfUser (userId, id),
      CONSTRAINT doorsOfUser FOREIGN KEY (userId) REFERENCES users (id) ON DELETE CASCADE
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_bin`);
    await context.query('ALTER TABLE series ADD COLUMN begun JSON NULL');
    await context.query('ALTER TABLE actions ADD COLUMN via VARCHAR(4) NULL');
  },
  async down({ context }: { context: Sequelize }): Promise<void> {
    await context.query('ALTER TABLE actions DROP COLUMN via');
    await context.query('ALTER TABLE series DROP COLUMN begun');
    await context.query('DROP TABLE doors');
  },
};
