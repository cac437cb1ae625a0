import type { Sequelize } from 'sequelize';

/** To-dos that go together, written once: a person’s bundles. */
export const bundles = {
  name: '0008-bundles',
  async up({ context }: { context: Sequelize }): Promise<void> {
    await context.query('ALTER TABLE users ADD COLUMN bundles JSON NULL');
  },
  async down({ context }: { context: Sequelize }): Promise<void> {
    await context.query('ALTER TABLE users DROP COLUMN bundles');
  },
};
