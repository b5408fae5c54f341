import type { Catalogue, Day, FieldMeta, Kind, Row, Section, SectionName, Values } from '@gremium/contract';
import { cellOf, storageOf } from '@gremium/contract';
import { derivedTexts } from '@gremium/core';
import { type Sql, empty, join, name, raw, sql } from '../database/sql';

/** "headPositionId" → "head_position_id" */
export const snake = (field: string): string =>
  field.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);

/** The table a section's versions are kept in; the organisation's own sections share one. */
export const tableName = ({ name: section, own }: Section): string =>
  own === null ? `${section}_version` : 'own_version';
/** Where rows of a section are read from: its table, or its part of the shared one. */
export const tableOf = (section: Section): Sql =>
  section.own === null
    ? name(tableName(section))
    : sql`(select * from own_version where section_id = ${section.own})`;
export const thingColumn = ({ kind }: Pick<Section, 'kind'>): Sql => name(`${kind}_id`);
export const thingTable = (kind: Kind): Sql => name(kind);

// Columns of the shared table; all else of an own row stands among its values.
const isColumn = ({ own }: Section, field: string): boolean => own === null || field === 'ownerId';

/** A field of `v` as an expression of its own type; of an own section, out of its values. */
export const fieldOf = (section: Section, field: string): Sql => {
  if (isColumn(section, field)) return sql`v.${name(snake(field))}`;
  const meta = section.metas.get(field) as FieldMeta;
  const key = raw(`'${field}'`);
  if (storageOf(meta) === 'json') return sql`nullif(v."values" -> ${key}, 'null')`;
  const cell = cellOf(meta);
  const type = cell === 'reference' ? '::bigint' : cell === 'boolean' ? '::boolean' : '';
  return sql`(v."values" ->> ${key})${raw(type)}`;
};

const shown = (section: Section, field: string): Sql =>
  isColumn(section, field) && storageOf(section.metas.get(field) as FieldMeta) === 'decimal'
    ? sql`trim_scale(${fieldOf(section, field)})::text`
    : fieldOf(section, field);

/** The values of `v` as one object. */
export const valuesOf = (section: Section): Sql => {
  if (section.own === null)
    return sql`json_build_object(${join([...section.metas.keys()].map((field) => sql`${raw(`'${field}'`)}, ${shown(section, field)}`))})`;
  // rows from before a field was defined have none of it
  const nulls = JSON.stringify({ ownerId: null, ...section.nulls });
  return sql`(${nulls}::jsonb || v."values" || jsonb_build_object('ownerId', v.owner_id))::json`;
};

/** The row of a version as columns of a select over `v`: id, lineage, thing, period, entry and its values as one object. */
export const rowColumns = (section: Section): Sql =>
  sql`v.id, v.lineage, ${raw(`'${section.name}'`)}::text as section, v.${thingColumn(section)} as thing,
    v.valid_from::text as "from", v.valid_until::text as "until", ${valuesOf(section)} as "values", v.recorded_by as entry`;

/** What is believed now. */
export const BELIEVED = sql`v.superseded_by is null`;

/** What was believed after the entry of a number (null: now), over rows of an alias. */
export const believedBy = (entryNumber: number | null, alias = 'v'): Sql =>
  entryNumber === null
    ? sql`${name(alias)}.superseded_by is null`
    : sql`exists (select from entry known where known.id = ${name(alias)}.recorded_by and known.number <= ${entryNumber})
      and not exists (select from entry known where known.id = ${name(alias)}.superseded_by and known.number <= ${entryNumber})`;

/** A version in effect on a day, as believed after an entry. */
export const inEffect = (on: string, entryNumber: number | null, alias = 'v'): Sql => sql`
  ${believedBy(entryNumber, alias)}
  and ${name(alias)}.valid_from <= ${on}::date and ${on}::date < ${name(alias)}.valid_until`;

/** Rows of `v` of which a field (`thing`: themselves) names one of the ids, given or asked for by a query. */
export const naming = (section: Section, field: string, of: readonly number[] | Sql): Sql => {
  const ids = of instanceof Array ? sql`${of}::bigint[]` : sql`array(${of as Sql})`;
  if (field === 'thing') return sql`v.${thingColumn(section)} = any(${ids})`;
  if (section.metas.get(field)?.is === 'lists')
    return sql`exists (select from jsonb_array_elements(${fieldOf(section, field)}) one
      where one::bigint = any(${ids}))`;
  return sql`${fieldOf(section, field)} = any(${ids})`;
};

/**
 * Believed rows of a section of which a field names one of the ids, without those over on a day if one is given. For
 * decisions; what is shown goes by scoped queries.
 */
export const rowsWhere = (section: Section, field: string, ids: readonly number[], after?: Day): Sql => sql`
  select ${rowColumns(section)}
  from ${tableOf(section)} v
  where ${naming(section, field, ids)} and ${BELIEVED}
    ${after ? sql`and v.valid_until > ${after}::date` : empty}`;

/** Believed rows with one of the texts in a field that is looked for by its text. */
export const rowsValued = (section: Section, field: string, texts: readonly string[]): Sql => sql`
  select ${rowColumns(section)}
  from ${tableOf(section)} v
  where ${
    section.metas.get(field)?.is === 'day'
      ? sql`${fieldOf(section, field)} = any(${texts}::date[])`
      : sql`lower(${fieldOf(section, field)}) = any(${texts}::text[])`
  } and ${BELIEVED}`;

/** Believed rows of which a field names anything. */
export const rowsNamingAny = (section: Section, field: string): Sql => sql`
  select ${rowColumns(section)}
  from ${tableOf(section)} v
  where ${fieldOf(section, field)} is not null and ${BELIEVED}`;

/** Rows of several queries by one statement; a row may come more than once. */
export const allOf = (queries: readonly Sql[]): Sql =>
  queries.length === 1
    ? (queries[0] as Sql)
    : join(
        queries.map((query) => sql`select * from (${query}) q`),
        ' union all ',
      );

/** All rows of a section as believed after an entry (null: now). */
export const allRows = (section: Section, entryNumber: number | null): Sql => sql`
  select ${rowColumns(section)} from ${tableOf(section)} v where ${believedBy(entryNumber)}`;

/**
 * The copy of all rows of a section as believed after an entry (null: now), as the register in memory reads it: id, lineage,
 * thing, days and entry, then the fields (decimals and objects as text), then the derived texts.
 */
export const copyRows = (section: Section, entryNumber: number | null): string => {
  const fields = [...section.metas].map(([field, meta]) => {
    const cell = cellOf(meta);
    if (cell === 'number') return sql`${fieldOf(section, field)}::int4`;
    if (cell === 'reference' || cell === 'boolean') return fieldOf(section, field);
    return sql`${shown(section, field)}::text`;
  });
  const derived = Object.keys(derivedOf(section.name, null)).map((one) => sql`v.${name(one)}`);
  const head = ['id', 'lineage', `${section.kind}_id`, 'valid_from', 'valid_until', 'recorded_by'];
  const cells = join([...head.map((one) => sql`v.${name(one)}`), ...fields, ...derived]);
  const rows = sql`select ${cells} from ${tableOf(section)} v where ${believedBy(entryNumber)}`;
  return `copy (${literal(rows)}) to stdout (format binary)`;
};

// A copy takes no parameters; the only ones here are numbers.
const literal = ({ text, values }: Sql): string =>
  text.replace(/\$(\d+)/g, (_, n: string) => String(Number(values[Number(n) - 1])));

/**
 * The units of some ids and all above them, on any day. Each step goes by the index (`offset 0`): the planner takes a
 * recursion for long, and would read all units at every step.
 */
export const unitsAbove = (unit: Section, ids: readonly number[]): Sql => sql`
  with recursive up (id) as (
    select unnest(${ids}::bigint[])
    union
    select v.parent_id
    from up
    cross join lateral (
      select v.parent_id from unit_version v
      where v.unit_id = up.id and v.superseded_by is null and v.parent_id is not null offset 0) v
  )
  select v.*
  from up
  cross join lateral (
    select ${rowColumns(unit)} from unit_version v where v.unit_id = up.id and ${BELIEVED} offset 0) v`;

/** Positions that somebody may report to, and those that name whom they report to. */
export const pointedPositions = (position: Section): Sql => sql`
  select ${rowColumns(position)}
  from position_version v
  where ${BELIEVED} and (
    v.reports_to_id is not null
    or v.position_id in (select reports_to_id from position_version where superseded_by is null)
    or v.position_id in (select head_position_id from unit_version where superseded_by is null))`;

/** Makes the things that are not there yet. */
export const insertThings = (kind: Kind, ids: readonly number[]): Sql => sql`
  insert into ${thingTable(kind)} (id) select unnest(${ids}::bigint[])
  on conflict do nothing`;

/** The names of a version table's columns in the order of `versionCells`. */
export const versionColumns = (section: Section): string[] => [
  'id',
  'lineage',
  `${section.kind}_id`,
  'valid_from',
  'valid_until',
  'recorded_by',
  ...(section.own === null ? [...section.metas.keys()].map(snake) : ['section_id', 'owner_id', 'values']),
  ...Object.keys(derivedOf(section.name, null)),
];

const derivedOf = (section: string, values: unknown): Record<string, string> =>
  derivedTexts[section as SectionName]?.(values as Values<'person_name'> | null) ?? {};

const valueCells = (section: Section, values: Record<string, unknown>): unknown[] => {
  if (section.own !== null) {
    const { ownerId, ...rest } = values;
    return [section.own, ownerId, JSON.stringify(rest)];
  }
  return [...section.metas].map(([field, meta]) => {
    const value = values[field] ?? null;
    return value !== null && storageOf(meta) === 'json' ? JSON.stringify(value) : value;
  });
};

export const versionCells = (row: Row, section: Section): unknown[] => [
  row.id,
  row.lineage,
  row.thing,
  row.from,
  row.until,
  row.entry,
  ...valueCells(section, row.values as Record<string, unknown>),
  ...Object.values(derivedOf(section.name, row.values)),
];

/** The columns of a version table with their types. */
export const columnTypes = (section: Section): Sql => sql`
  select attname::text as name, format_type(atttypid, atttypmod) as type
  from pg_attribute
  where attrelid = ${tableName(section)}::regclass and attnum > 0 and not attisdropped`;

// What stands for a row in the chain: salt and values, without what later entries add.
const digestOf = sql`encode(sha256(convert_to(v.salt::text
  || jsonb_strip_nulls(to_jsonb(v) - '{salt,superseded_by}'::text[])::text, 'UTF8')), 'hex')`;

export type BySection = readonly (readonly [section: Section, rows: readonly Row[]])[];

/** Rows by section, in the catalogue's order. */
export const bySection = (rows: readonly Row[], catalogue: Catalogue): BySection => {
  const groups = new Map<SectionName, Row[]>();
  for (const row of rows) {
    const known = groups.get(row.section);
    if (known) known.push(row);
    else groups.set(row.section, [row]);
  }
  return catalogue.sections.flatMap((section) => {
    const found = groups.get(section.name as SectionName);
    return found ? [[section, found] as const] : [];
  });
};

/** Rows of several sections with the things they are of, in one statement; answers with id and digest of each row. */
export const insertVersions = (groups: BySection, beside: Sql): Sql => {
  const things = groups.map(
    ([section, rows]) => sql`${name(`things_of_${section.name}`)} as (
      ${insertThings(section.kind, [...new Set(rows.map(({ thing }) => thing))])})`,
  );
  const versions = groups.map(
    ([section, rows]) => sql`${name(`new_${section.name}`)} as (
      insert into ${name(tableName(section))} as v (${join(versionColumns(section).map(name))})
      values ${join(rows.map((row) => sql`(${join(versionCells(row, section))})`))}
      returning v.id, ${digestOf} as digest)`,
  );
  const found = groups.map(([section]) => sql`select id, digest from ${name(`new_${section.name}`)}`);
  return sql`with touching as (${beside}), ${join([...things, ...versions])} ${join(found, ' union all ')}`;
};

/** Marks rows of several sections as superseded, in one statement; the count tells whether all were still believed. */
export const supersede = (groups: BySection, entry: number): Sql => {
  const updates = groups.map(
    ([section, rows]) => sql`${name(`old_${section.name}`)} as (
      update ${name(tableName(section))} set superseded_by = ${entry}
      where id = any(${rows.map(({ id }) => id)}::bigint[]) and superseded_by is null
      returning 1)`,
  );
  const found = groups.map(([section]) => sql`select 1 from ${name(`old_${section.name}`)}`);
  return sql`with ${join(updates)} select count(*)::int as count from (${join(found, ' union all ')}) s`;
};

/** Digests of the rows that entries (null: all) recorded. Of own sections, the table they share stands for all of them. */
export const rowDigests = (table: string, entryIds: readonly number[] | null): Sql => sql`
  select v.recorded_by as entry, v.id, ${digestOf} as digest
  from ${name(table)} v
  where ${entryIds}::bigint[] is null or v.recorded_by = any(${entryIds}::bigint[])
  order by v.id`;

/** Which row was superseded by which entry. */
export const supersededRows = (table: string): Sql => sql`
  select v.superseded_by as entry, v.id
  from ${name(table)} v
  where v.superseded_by is not null`;

/** Every table of versions, those that own sections share once. */
export const versionTables = (catalogue: Catalogue): string[] => [
  ...new Set([...catalogue.sections.map(tableName), 'own_version']),
];
