import type { Sequelize } from 'sequelize';

/** Files of a person, each in pieces, so that every server has them and a backup of the database holds them. */
export const files = {
  name: '0007-files',
  async up({ context }: { context: Sequelize }): Promise<void> {
    await context.query(`CREATE TABLE files (
      userId CHAR(36) NOT NULL,
      id CHAR(36) NOT NULL,
      name VARCHAR(200) NOT NULL,
      type VARCHAR(130) NOT NULL,
      size INT UNSIGNED NOT NULL,
      sum CHAR(64) NULL,
      isDone BOOLEAN NOT NULL DEFAULT FALSE,
      isAsSaid BOOLEAN NOT NULL DEFAULT FALSE,
      seriesId CHAR(36) NULL,
      letGoAt DATETIME(3) NOT NULL,
      createdAt DATETIME(3) NOT NULL,
      PRIMARY KEY (userId, id),
      CONSTRAINT filesOfUser FOREIGN KEY (userId) REFERENCES users (id) ON DELETE CASCADE
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_bin`);
    await context.query(`CREATE TABLE filePieces (
      userId CHAR(36) NOT NULL,
      fileId CHAR(36) NOT NULL,
      n SMALLINT UNSIGNED NOT NULL,
      bytes MEDIUMBLOB NOT NULL,
      PRIMARY KEY (userId, fileId, n),
      CONSTRAINT piecesOfFile FOREIGN KEY (userId, fileId) REFERENCES files (userId, id) ON DELETE CASCADE
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_bin`);
  },
  async down({ context }: { context: Sequelize }): Promise<void> {
    await context.query('DROP TABLE filePieces');
    await context.query('DROP TABLE files');
  },
};
