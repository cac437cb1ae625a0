import type { Sequelize } from 'sequelize';

/** Who is handing a message over: nobody holds its row meanwhile. */
export const leases = {
  name: '0011-leases',
  async up({ context }: { context: Sequelize }): Promise<void> {
    await context.query('ALTER TABLE messages ADD COLUMN lease CHAR(36) NULL');
  },
  async down({ context }: { context: Sequelize }): Promise<void> {
    await context.query('ALTER TABLE messages DROP COLUMN lease');
  },
};
