import type { Sequelize } from 'sequelize';

/** Steps have a place in the order of their to-do, given under its lock, whatever clocks say. */
export const itHolds = {
  name: '0003-it-holds',
  async up({ context }: { context: Sequelize }): Promise<void> {
    await context.query('ALTER TABLE series ADD COLUMN steps INT NOT NULL DEFAULT 0');
    await context.query('ALTER TABLE steps ADD COLUMN place INT NOT NULL DEFAULT 0');
    await context.query(`UPDATE steps JOIN (
        SELECT seq, ROW_NUMBER() OVER (PARTITION BY userId, seriesId ORDER BY at, seq) AS place
        FROM steps
      ) AS placed USING (seq) SET steps.place = placed.place`);
    await context.query(`UPDATE series JOIN (
        SELECT userId, seriesId, COUNT(*) AS n FROM steps GROUP BY userId, seriesId
      ) AS counted ON counted.userId = series.userId AND counted.seriesId = series.id
      SET series.steps = counted.n`);
    await context.query(`ALTER TABLE steps
      DROP KEY stepsOfSeries, ADD KEY stepsOfSeries (userId, seriesId, place)`);
  },
  async down({ context }: { context: Sequelize }): Promise<void> {
    await context.query(`ALTER TABLE steps
      DROP KEY stepsOfSeries, ADD KEY stepsOfSeries (userId, seriesId, at, seq), DROP COLUMN place`);
    await context.query('ALTER TABLE series DROP COLUMN steps');
  },
};
