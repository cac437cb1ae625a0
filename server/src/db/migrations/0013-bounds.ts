import type { Sequelize } from 'sequelize';

/**
 * Nothing grows without bound. States before steps repeat themselves: they are compressed where they lie (MariaDB,
 * storage-engine independent column compression). When each person's things are tidied next. Tries that were taken,
 * for all servers.
 */
export const bounds = {
  name: '0013-bounds',
  async up({ context }: { context: Sequelize }): Promise<void> {
    await context.query(
      'ALTER TABLE steps MODIFY COLUMN `before` LONGTEXT COMPRESSED COLLATE utf8mb4_bin NULL',
    );
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
    await context.query('ALTER TABLE steps MODIFY COLUMN `before` JSON NULL');
  },
};
