import { Op } from 'sequelize';

/** The earliest moment in a column of a table, by its index; null where there is none. */
export async function earliest<Column extends string>(
  table: { findOne(options: object): Promise<unknown> },
  column: Column,
  where: object = {},
): Promise<Date | null> {
  const row = (await table.findOne({
    attributes: [column],
    where: { ...where, [column]: { [Op.ne]: null } },
    order: [[column, 'ASC']],
  })) as Record<Column, Date> | null;
  return row?.[column] ?? null;
}
