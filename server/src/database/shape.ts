// Tables of versions as their sections declare them: made where there are none, widened where a field is new. Columns are
// only ever added, may be empty, and have no default, since the journal's digests are over whole rows.
import type { Catalogue, FieldMeta, Section } from '@gremium/contract';
import { storageOf } from '@gremium/contract';
import type { ClientBase } from 'pg';
import { snake } from '../time/version.sql';
import { many, sql } from './sql';

const quoted = (name: string): string => `"${name.replaceAll('"', '""')}"`;

const typeOf = (meta: FieldMeta): string => {
  if (meta.is === 'ref') return `bigint references ${quoted(meta.kind)}`;
  if (meta.is === 'list') return 'bigint references list_entry';
  if (storageOf(meta) === 'decimal') return 'numeric(17, 4)';
  if (storageOf(meta) === 'json') return 'jsonb';
  if (meta.is === 'day') return 'date';
  if (meta.is === 'yes_no') return 'boolean';
  return meta.is === 'number' || meta.is === 'hundredths' ? 'int' : 'text';
};

/** Fields that may be empty, of a section. */
const isNullable = ({ nulls }: Section, field: string): boolean => field in nulls;

const make = async (client: ClientBase, section: Section): Promise<void> => {
  const table = `${section.name}_version`;
  const columns = [...section.metas].map(
    ([field, meta]) =>
      `${quoted(snake(field))} ${typeOf(meta)}${isNullable(section, field) ? '' : ' not null'}`,
  );
  await client.query(`create table if not exists ${quoted(section.kind)} (id bigint primary key)`);
  await client.query(`create table ${quoted(table)} (${columns.join(', ')})`);
  await client.query('call keep_versions($1, $2)', [section.name, section.kind]);
  for (const [field, meta] of section.metas) await index(client, section, field, meta);
  if (section.base && !section.owner && section.metas.get('code')?.is === 'code')
    await client.query('call keep_codes_apart($1)', [section.name]);
};

// What is asked backwards, or looked for by its text.
const index = async (client: ClientBase, section: Section, field: string, meta: FieldMeta): Promise<void> => {
  const [table, column] = [quoted(`${section.name}_version`), quoted(snake(field))];
  if (meta.followed) await client.query(`create index on ${table} (${column})`);
  if (!meta.looked) return;
  const text = typeOf(meta) === 'text' ? `lower(${column})` : column;
  await client.query(`create index on ${table} (${text}) where superseded_by is null`);
};

const widen = async (client: ClientBase, section: Section, there: ReadonlySet<string>): Promise<void> => {
  const table = `${section.name}_version`;
  for (const [field, meta] of section.metas) {
    const column = snake(field);
    if (there.has(column)) continue;
    if (!isNullable(section, field))
      throw new Error(
        `field ${section.name}.${field} is new: rows from before have none, so it may be empty`,
      );
    await client.query(`alter table ${quoted(table)} add column ${quoted(column)} ${typeOf(meta)}`);
    await index(client, section, field, meta);
  }
};

/** Brings the tables of sections to what is declared, in the order of the catalogue. Answers with what was made or widened. */
export const shapeTables = async (client: ClientBase, catalogue: Catalogue): Promise<string[]> => {
  const rows = await many<{ tab: string; columns: string[] }>(
    client,
    sql`select c.relname as tab, array_agg(a.attname::text) as columns
      from pg_class c
      join pg_namespace n on n.oid = c.relnamespace and n.nspname = 'public'
      join pg_attribute a on a.attrelid = c.oid and a.attnum > 0 and not a.attisdropped
      where c.relkind = 'r' and c.relname like '%\_version'
      group by 1`,
  );
  const there = new Map(rows.map(({ tab, columns }) => [tab, new Set(columns)]));
  const done: string[] = [];
  for (const section of catalogue.sections.filter(({ own }) => own === null)) {
    const columns = there.get(`${section.name}_version`);
    const lacks = columns && [...section.metas.keys()].some((field) => !columns.has(snake(field)));
    if (columns && !lacks) continue;
    if (columns) await widen(client, section, columns);
    else await make(client, section);
    done.push(section.name);
  }
  return done;
};
