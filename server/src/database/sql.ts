import sql, { type Sql, empty, join, raw } from 'sql-template-tag';
import type { ClientBase, Pool } from 'pg';

export { type Sql, empty, join, raw, sql };

/** Whatever runs a query: the pool, or the connection of a transaction. */
export type Db = Pool | ClientBase;

/** All rows. Lists are never named, so that each gets a plan of its own (see docs/architecture.md, pitfalls). */
export const many = async <T extends object>(db: Db, query: Sql): Promise<T[]> =>
  (await db.query<T>({ text: query.text, values: query.values })).rows;

const names = new Map<string, string>();

/**
 * The same as a prepared statement, planned once for each connection: only for reading rows by ids over an index, where
 * any plan is the one plan. A movement asks some sixty of these, and planning them took most of its time.
 */
export const manyById = async <T extends object>(db: Db, query: Sql): Promise<T[]> => {
  const { text, values } = query;
  const name = names.get(text) ?? `by_id_${names.size}`;
  names.set(text, name);
  return (await db.query<T>({ name, text, values })).rows;
};

export const maybeOne = async <T extends object>(db: Db, query: Sql): Promise<T | undefined> => {
  const rows = await many<T>(db, query);
  if (rows.length > 1) throw new Error(`expected at most one row, got ${rows.length}`);
  return rows[0];
};

export const one = async <T extends object>(db: Db, query: Sql): Promise<T> => {
  const row = await maybeOne<T>(db, query);
  if (!row) throw new Error('expected one row, got none');
  return row;
};

/** A name as a quoted identifier; only for names from the catalogue of sections. */
export const name = (identifier: string): Sql => raw(`"${identifier.replaceAll('"', '""')}"`);
