// Whole names in one column: two columns more, after those of the file, hold their parts, to be seen and mended.
import { isSplit, splitName } from '@gremium/core';
import { type Db, many } from '../database/sql';
import * as queries from './import.sql';

type Columns = { headings: string[]; columns: queries.Matched[] };

const SPLIT: { heading: string; column: queries.Matched }[] = [
  { heading: 'Given name', column: { field: 'given', how: 'split' } },
  { heading: 'Family name', column: { field: 'family', how: 'split' } },
];

/** The columns with those of the parts, where a column of whole names is to be split; `at` is that column, or -1. */
export const withSplit = (
  headings: readonly string[],
  columns: readonly queries.Matched[],
): Columns & { at: number } => {
  const at = isSplit(columns.map(({ field }) => field))
    ? columns.findIndex(({ field }) => field === 'wholeName')
    : -1;
  if (at < 0) return { headings: [...headings], columns: [...columns], at };
  return {
    headings: [...headings, ...SPLIT.map(({ heading }) => heading)],
    columns: [...columns, ...SPLIT.map(({ column }) => column)],
    at,
  };
};

/** The columns of the file alone. */
export const ownColumns = ({ headings, columns }: Columns): Columns => {
  const own = columns.findIndex(({ how }) => how === 'split');
  return own < 0
    ? { headings, columns }
    : { headings: headings.slice(0, own), columns: columns.slice(0, own) };
};

/** Columns as they were chosen, with their parts; cells are split where they were not before. */
export const arranged = async (
  db: Db,
  { id, headings, columns }: Columns & { id: number },
  fields: readonly (string | null)[],
): Promise<Columns> => {
  const own = ownColumns({ headings, columns });
  // what was said of a column stays while it is taken for the same
  const orderOf = (field: string | null) => {
    const order = columns.find((column) => column.field !== null && column.field === field)?.order;
    return order === undefined ? {} : { order };
  };
  const wasSplit =
    own.headings.length < headings.length &&
    columns.findIndex(({ field }) => field === 'wholeName') === fields.indexOf('wholeName');
  // parts that were there are as they were chosen too: nothing is split again over what was mended
  if (wasSplit && fields.length === headings.length && fields.includes('wholeName'))
    return {
      headings,
      columns: fields.map((field, i) => ({
        field,
        how: i < own.headings.length ? 'chosen' : 'split',
        ...orderOf(field),
      })),
    };
  const chosen = fields
    .slice(0, own.headings.length)
    .map((field) => ({ field, how: 'chosen' as const, ...orderOf(field) }));
  const split = withSplit(own.headings, chosen);
  if (split.at >= 0) await splitCells(db, id, { at: split.at, width: own.headings.length });
  return { headings: split.headings, columns: split.columns };
};

const BATCH = 5000;

const splitCells = async (
  db: Db,
  id: number,
  { at, width }: { at: number; width: number },
): Promise<void> => {
  const rows = await many<{ row: number; text: string }>(db, queries.cellsOfColumn(id, at + 1));
  for (let i = 0; i < rows.length; i += BATCH) {
    const part = rows.slice(i, i + BATCH);
    const names = part.map(({ text }) => splitName(text));
    const found = {
      rows: part.map(({ row }) => row),
      given: names.map(([given]) => given),
      family: names.map(([, family]) => family),
    };
    await many(db, queries.addCells(id, width, found));
  }
};
