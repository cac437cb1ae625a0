import { QueryTypes, type Sequelize } from 'sequelize';

/**
 * When a to-do comes back, and what it is, lie apart: the machine reads the one; title, place and the
 * rest are columns of the to-do. A change of what it is, is a step of its own kind.
 */
export const whenAndWhat = {
  name: '0005-when-and-what',
  async up({ context }: { context: Sequelize }): Promise<void> {
    await context.query(`ALTER TABLE series
      ADD COLUMN title VARCHAR(300) NOT NULL DEFAULT '' AFTER id,
      ADD COLUMN place VARCHAR(60) NULL AFTER title,
      ADD COLUMN details JSON NOT NULL DEFAULT '{}' AFTER place,
      ADD COLUMN describedAt DATETIME(3) NULL AFTER details,
      ADD KEY seriesByTitle (userId, title(80)),
      ADD KEY seriesByPlace (userId, place)`);
    await context.query('ALTER TABLE steps ADD COLUMN was JSON NULL AFTER touched');
    const ids = await context.query<{ userId: string; id: string }>(
      'SELECT userId, id FROM series ORDER BY userId, id',
      { type: QueryTypes.SELECT },
    );
    for (const it of ids) await splitOne(context, it);
  },
  async down({ context }: { context: Sequelize }): Promise<void> {
    // What was split is not joined again: only the columns go.
    await context.query('ALTER TABLE steps DROP COLUMN was');
    await context.query(`ALTER TABLE series DROP KEY seriesByTitle, DROP KEY seriesByPlace,
      DROP COLUMN title, DROP COLUMN place, DROP COLUMN details, DROP COLUMN describedAt`);
  },
};

type Json = Record<string, unknown>;
interface Details extends Json {
  title: string;
  place: string | null;
  takes: number | null;
}
const WHAT = ['title', 'place', 'takes'];

const parsed = (value: unknown): Json | null =>
  typeof value === 'string' ? (JSON.parse(value) as Json) : (value as Json | null);

/** “PT1H30M” in minutes. */
function minutesOf(span: unknown): number | null {
  const found = /^PT(?:(\d+)H)?(?:(\d+)M)?$/u.exec(String(span));
  const minutes = found ? Number(found[1] ?? 0) * 60 + Number(found[2] ?? 0) : 0;
  return minutes || null;
}

/** The parts of what it is that stand in a definition. */
function whatIn(series: Json): Partial<Details> {
  const found: Json = {};
  if ('title' in series) found.title = series.title;
  if ('place' in series) found.place = series.place ?? null;
  if ('takes' in series) found.takes = series.takes === null ? null : minutesOf(series.takes);
  return found as Partial<Details>;
}

const whenIn = (series: Json): Json =>
  Object.fromEntries(Object.entries(series).filter(([key]) => !WHAT.includes(key)));

/** A progress whose definitions are those of when alone. */
function progressOf(progress: Json): Json {
  const turns = (progress.turns as { series: Json }[] | undefined) ?? [];
  return {
    ...progress,
    series: whenIn(progress.series as Json),
    turns: turns.map((turn) => ({ ...turn, series: whenIn(turn.series) })),
  };
}

const NONE = { place: null, takes: null };

interface StepRow {
  seq: number;
  actionSeq: number;
  kind: string;
  at: Date;
  deed: unknown;
  before: unknown;
  place: number;
  undone: number;
}

async function splitOne(sequelize: Sequelize, it: { userId: string; id: string }): Promise<void> {
  const set = (sql: string, values: unknown[]) => sequelize.query(sql, { replacements: values });
  const [row] = await sequelize.query<{ definition: unknown; progress: unknown }>(
    'SELECT definition, progress FROM series WHERE userId = ? AND id = ?',
    { replacements: [it.userId, it.id], type: QueryTypes.SELECT },
  );
  const definition = parsed(row!.definition)!;
  const progress = parsed(row!.progress)!;
  const turns = progress.turns as { series: Json }[] | undefined;
  // What was said last holds for all that is open or to come.
  const last = turns?.at(-1)?.series ?? (progress.series as Json);
  const { title, place, ...rest } = { ...NONE, ...whatIn(last) } as Details;

  const steps = await sequelize.query<StepRow>(
    `SELECT seq, actionSeq, kind, at, deed, \`before\`, place, undone FROM steps
      WHERE userId = ? AND seriesId = ? ORDER BY place, seq`,
    { replacements: [it.userId, it.id], type: QueryTypes.SELECT },
  );
  let now: Details = { ...NONE, ...whatIn(definition) } as Details;
  let describedAt: Date | null = null;
  for (const step of steps) {
    const before = parsed(step.before);
    if (before)
      await set('UPDATE steps SET `before` = ? WHERE seq = ?', [
        JSON.stringify(progressOf(before)),
        step.seq,
      ]);
    const deed = parsed(step.deed);
    if (deed?.do !== 'change') continue;
    const details = whatIn(deed.series as Json);
    if (!Object.keys(details).length) continue;
    const was = Object.fromEntries(Object.keys(details).map((part) => [part, now[part]]));
    if (!step.undone) {
      now = { ...now, ...details };
      describedAt = step.at;
    }
    const when = whenIn(deed.series as Json);
    const said = JSON.stringify({ do: 'describe', details });
    if (!Object.keys(when).length)
      await set(
        "UPDATE steps SET kind = 'describe', deed = ?, `before` = NULL, was = ? WHERE seq = ?",
        [said, JSON.stringify(was), step.seq],
      );
    else {
      await set('UPDATE steps SET deed = ? WHERE seq = ?', [
        JSON.stringify({ ...deed, series: when }),
        step.seq,
      ]);
      await set(
        `INSERT INTO steps (actionSeq, userId, seriesId, kind, place, at, deed, was, undone)
          VALUES (?, ?, ?, 'describe', ?, ?, ?, ?, ?)`,
        [
          step.actionSeq,
          it.userId,
          it.id,
          step.place,
          step.at,
          said,
          JSON.stringify(was),
          step.undone,
        ],
      );
    }
  }
  await set(
    `UPDATE series SET definition = ?, progress = ?, title = ?, place = ?, details = ?, describedAt = ?
      WHERE userId = ? AND id = ?`,
    [
      JSON.stringify(whenIn(definition)),
      JSON.stringify(progressOf(progress)),
      title,
      place,
      JSON.stringify(rest),
      describedAt,
      it.userId,
      it.id,
    ],
  );
}
