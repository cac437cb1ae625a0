import type { Sequelize } from 'sequelize';

/**
 * With an ended time stands how it counts: on which days of the person, how late, and with how many
 * minutes in which place. `countedAs` says by which days that was last worked out for a to-do; null: it
 * has to be worked out before the record is read.
 */
export const past = {
  name: '0009-past',
  async up({ context }: { context: Sequelize }): Promise<void> {
    await context.query(`ALTER TABLE occurrences
      ADD COLUMN dueOn DATE NULL, ADD COLUMN doneOn DATE NULL, ADD COLUMN late INT NULL,
      ADD COLUMN minutes INT NULL, ADD COLUMN estimated INT NULL, ADD COLUMN place CHAR(36) NULL,
      ADD KEY pastByDue (userId, dueOn, place, seriesId, status),
      ADD KEY pastByDone (userId, doneOn, place, seriesId, minutes, estimated),
      ADD KEY pastOfTodoByDue (userId, seriesId, dueOn, status),
      ADD KEY pastOfTodoByDone (userId, seriesId, doneOn, minutes, estimated)`);
    await context.query(`ALTER TABLE series
      ADD COLUMN countedAs VARCHAR(80) NULL, ADD KEY seriesByCounted (userId, countedAs)`);
    await context.query('ALTER TABLE steps ADD KEY stepsByMoment (userId, at)');
  },
  async down({ context }: { context: Sequelize }): Promise<void> {
    await context.query('ALTER TABLE steps DROP KEY stepsByMoment');
    await context.query('ALTER TABLE series DROP KEY seriesByCounted, DROP COLUMN countedAs');
    await context.query(`ALTER TABLE occurrences
      DROP KEY pastByDue, DROP KEY pastByDone, DROP KEY pastOfTodoByDue, DROP KEY pastOfTodoByDone,
      DROP COLUMN dueOn, DROP COLUMN doneOn, DROP COLUMN late,
      DROP COLUMN minutes, DROP COLUMN estimated, DROP COLUMN place`);
  },
};
