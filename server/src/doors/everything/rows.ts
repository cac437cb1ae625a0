import {
  Op,
  QueryTypes,
  type Model,
  type ModelStatic,
  type Transaction,
  type WhereOptions,
} from 'sequelize';
import type { Database } from '../../db/database.ts';

/** The rows of a person, table by table, as they are written: without ids that mean nothing elsewhere. */

const SOME = 1000;

interface Of {
  db: Database;
  userId: string;
  transaction: Transaction;
}

type Row = Record<string, unknown>;

/** A row as JSON has it: moments as ISO 8601, in the order of its columns. */
function plain(row: Row, columns: readonly string[]): Row {
  const told = (value: unknown) => (value instanceof Date ? value.toISOString() : value);
  return Object.fromEntries(columns.map((column) => [column, told(row[column])]));
}

async function* byKey(
  { userId, transaction }: Of,
  model: ModelStatic<Model>,
  keys: readonly string[],
  columns: readonly string[],
): AsyncGenerator<Row> {
  let after: Row | null = null;
  for (;;) {
    const where: WhereOptions[] = [{ userId }];
    if (after) where.push(behind(keys, after));
    const rows = (
      await model.findAll({
        attributes: [...new Set([...keys, ...columns])],
        where: { [Op.and]: where },
        order: keys.map((key) => [key, 'ASC']),
        limit: SOME,
        transaction,
      })
    ).map((row) => row.get() as Row);
    yield* rows;
    if (rows.length < SOME) return;
    after = rows.at(-1)!;
  }
}

/** Rows behind one, in the order of their keys. */
function behind([first, ...others]: readonly string[], after: Row): WhereOptions {
  const key = first!;
  if (!others.length) return { [key]: { [Op.gt]: after[key] } };
  return {
    [Op.or]: [
      { [key]: { [Op.gt]: after[key] } },
      { [Op.and]: [{ [key]: after[key] }, behind(others, after)] },
    ],
  } as WhereOptions;
}

export const PLACES = ['id', 'parts', 'describedAt', 'createdAt'] as const;
export const TODOS = [
  ...[
    'id',
    'title',
    'place',
    'details',
    'describedAt',
    'definition',
    'begun',
    'progress',
    'speaksAt',
  ],
  ...['changesAt', 'nextDue', 'ended', 'createdAt', 'removedAt', 'steps', 'lately', 'countedAs'],
];
export const TIMES = [
  ...[
    'seriesId',
    'number',
    'slot',
    'due',
    'plan',
    'planAt',
    'planBy',
    'moved',
    'status',
    'openedAt',
  ],
  ...[
    'closedAt',
    'rolled',
    'part',
    'tally',
    'note',
    'filled',
    'dueOn',
    'doneOn',
    'late',
    'minutes',
  ],
  ...['estimated', 'place'],
];
export const ACTIONS = ['id', 'do', 'at', 'doneAt', 'undoes', 'undone', 'via'] as const;
export const STEPS = [
  ...[
    'seriesId',
    'placeId',
    'kind',
    'place',
    'at',
    'deed',
    'number',
    'before',
    'touched',
    'was',
    'undone',
  ],
];
export const SAID = [
  ...['seriesId', 'mark', 'slot', 'number', 'due', 'at', 'saidAt', 'browser', 'overview'],
];
export const MESSAGES = [
  ...['channel', 'subject', 'text', 'state', 'tries', 'nextTryAt', 'decidedAt', 'settledAt', 'why'],
];
export const MAILBOX = ['channel', 'subject', 'text', 'arrivesAt', 'copies'] as const;
export const FILES = [
  ...['id', 'name', 'type', 'size', 'sum', 'isAsSaid', 'seriesId', 'letGoAt', 'createdAt'],
];

const BOOLEANS = new Set(['moved', 'undone', 'browser', 'ended', 'isAsSaid']);
const told = (row: Row, columns: readonly string[]) => {
  const it = plain(row, columns);
  for (const key of Object.keys(it)) if (BOOLEANS.has(key)) it[key] = Boolean(it[key]);
  return it;
};

/** All that is a person’s, in the order in which it is put back. */
export function rowsOf(of: Of) {
  const { db, userId, transaction } = of;
  const actions = new Map<number, number>();
  const notices = new Map<number, number>();
  const noticeIds = new Map<string, number>();
  const select = (sql: string) =>
    db.sequelize.query<Row>(sql, {
      type: QueryTypes.SELECT,
      replacements: { userId },
      transaction,
    });
  /** What was sent, in the order of what it was sent for. */
  const bySaid = (rows: readonly Row[], columns: readonly string[]) =>
    rows
      .map((row) => ({ said: noticeIds.get(row.noticeId as string)!, row }))
      .sort((a, b) => a.said - b.said || (String(a.row.channel) < String(b.row.channel) ? -1 : 1))
      .map(({ said, row }) => ({ said, ...told(row, columns) }));
  return {
    async *places() {
      for await (const row of byKey(of, db.places, ['id'], PLACES)) yield told(row, PLACES);
    },
    async *todos() {
      for await (const row of byKey(of, db.series, ['id'], TODOS)) yield told(row, TODOS);
    },
    async *times() {
      for await (const row of byKey(of, db.occurrences, ['seriesId', 'number'], TIMES))
        yield told(row, TIMES);
    },
    async *actions() {
      for await (const row of byKey(of, db.actions, ['seq'], ACTIONS)) {
        actions.set(row.seq as number, actions.size + 1);
        yield told(row, ACTIONS);
      }
    },
    /** `action` is the line of its action, from 1. */
    async *steps() {
      for await (const row of byKey(of, db.steps, ['seq'], ['actionSeq', ...STEPS]))
        yield { action: actions.get(row.actionSeq as number), ...told(row, STEPS) };
    },
    async *said() {
      for await (const row of byKey(of, db.notices, ['seq'], ['id', ...SAID])) {
        notices.set(row.seq as number, notices.size + 1);
        noticeIds.set(row.id as string, noticeIds.size + 1);
        yield told(row, SAID);
      }
    },
    /** `said` is the line of what it is sent for, from 1. Devices stay here, and what was sent to them. */
    async *messages() {
      const where = { userId, deviceId: '' };
      const rows = (await db.messages.findAll({ where, transaction })).map(
        (row) => row.get() as unknown as Row,
      );
      yield* bySaid(rows, MESSAGES);
    },
    async *mailbox() {
      const rows = await select(
        `SELECT a.*, m.noticeId FROM arrivals a JOIN messages m ON m.id = a.messageId WHERE a.userId = :userId`,
      );
      yield* bySaid(rows, MAILBOX);
    },
    async files() {
      const rows = await select(
        `SELECT * FROM files WHERE userId = :userId AND isDone = TRUE ORDER BY id`,
      );
      return rows.map((row) => told(row, FILES));
    },
    /** The person’s own: known once what was said has been gone through. */
    async person() {
      const user = (await db.users.findByPk(userId, { transaction }))!;
      const { settings, focus, focusAt, above, bundles, standIn, seenThrough } = user;
      const seen = [...notices].filter(([seq]) => seq <= seenThrough).length;
      return told({ settings, focus, focusAt, above, bundles, standIn, seen }, [
        'settings',
        'focus',
        'focusAt',
        'above',
        'bundles',
        'standIn',
        'seen',
      ]);
    },
    async *bytes(id: string): AsyncGenerator<Buffer> {
      const pieces = await select(
        `SELECT n FROM filePieces WHERE userId = :userId AND fileId = ${db.sequelize.escape(id)} ORDER BY n`,
      );
      for (const { n } of pieces) {
        const [piece] = await select(
          `SELECT bytes FROM filePieces WHERE userId = :userId AND fileId = ${db.sequelize.escape(id)} AND n = ${Number(n)}`,
        );
        yield piece!.bytes as Buffer;
      }
    },
  };
}
