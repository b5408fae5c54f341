import type { Day, Kind, Row, SectionName, Values } from '@gremium/contract';
import { cellOf, sectionNames, sectionOf, sections, storageOf } from '@gremium/contract';
import { derivedTexts } from '@gremium/core';
import { type Sql, empty, join, name, raw, sql } from '../database/sql';

/** "headPositionId" → "head_position_id" */
export const snake = (field: string): string =>
  field.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);

export const tableOf = (section: SectionName): Sql => name(`${section}_version`);
export const thingColumn = (section: SectionName): Sql => name(`${sections[section].kind}_id`);
export const thingTable = (kind: Kind): Sql => name(kind);

const fieldsOf = (section: SectionName): string[] => Object.keys(sectionOf(section).fields.shape);

const storages = new Map(
  sectionNames.map((section) => [
    section,
    new Map(
      Object.entries(sectionOf(section).fields.shape).map(([field, schema]) => [field, storageOf(schema)]),
    ),
  ]),
);
const storage = (section: SectionName, field: string) => storages.get(section)?.get(field) ?? 'plain';

const column = (section: SectionName, field: string): Sql =>
  storage(section, field) === 'decimal'
    ? sql`trim_scale(v.${name(snake(field))})::text`
    : sql`v.${name(snake(field))}`;

/** The row of a version as columns of a select over `v`: id, lineage, thing, period, entry and its values as one object. */
export const rowColumns = (section: SectionName): Sql => {
  const pairs = fieldsOf(section).map((field) => sql`${raw(`'${field}'`)}, ${column(section, field)}`);
  return sql`v.id, v.lineage, ${raw(`'${section}'`)} as section, v.${thingColumn(section)} as thing,
    v.valid_from::text as "from", v.valid_until::text as "until",
    json_build_object(${join(pairs)}) as "values", v.recorded_by as entry`;
};

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

/**
 * Believed rows of a section whose column is one of the ids, without those over on a day if one is given. For decisions; what
 * is shown goes by scoped queries.
 */
export const rowsWhere = (
  section: SectionName,
  field: string,
  ids: readonly number[],
  after?: Day,
): Sql => sql`
  select ${rowColumns(section)}
  from ${tableOf(section)} v
  where v.${field === 'thing' ? thingColumn(section) : name(snake(field))} = any(${ids}::bigint[])
    and ${BELIEVED} ${after ? sql`and v.valid_until > ${after}::date` : empty}`;

/** Rows of several queries by one statement; a row may come more than once. */
export const allOf = (queries: readonly Sql[]): Sql =>
  queries.length === 1
    ? (queries[0] as Sql)
    : join(
        queries.map((query) => sql`select * from (${query}) q`),
        ' union all ',
      );

/** All rows of a section as believed after an entry (null: now). */
export const allRows = (section: SectionName, entryNumber: number | null): Sql => sql`
  select ${rowColumns(section)} from ${tableOf(section)} v where ${believedBy(entryNumber)}`;

/**
 * The copy of all rows of a section as believed after an entry (null: now), as the register in memory reads it: id, lineage,
 * thing, days and entry, then the fields (decimals and objects as text), then the derived texts.
 */
export const copyRows = (section: SectionName, entryNumber: number | null): string => {
  const fields = Object.entries(sectionOf(section).fields.shape).map(([field, schema]) => {
    const column = `v."${snake(field)}"`;
    const cell = cellOf(schema);
    if (cell === 'number') return `${column}::int4`;
    if (cell === 'reference' || cell === 'boolean') return column;
    return storage(section, field) === 'decimal' ? `trim_scale(${column})::text` : `${column}::text`;
  });
  const derived = Object.keys(derivedOf(section, null)).map((name) => `v."${name}"`);
  const head = ['id', 'lineage', `${sections[section].kind}_id`, 'valid_from', 'valid_until', 'recorded_by'];
  const cells = [...head.map((name) => `v."${name}"`), ...fields, ...derived].join(', ');
  const believed = believedBy(entryNumber);
  return `copy (select ${cells} from "${section}_version" v where ${literal(believed)}) to stdout (format binary)`;
};

// A copy takes no parameters; the only ones here are numbers of entries.
const literal = ({ text, values }: Sql): string =>
  values.reduce<string>((done, value, i) => done.replace(`$${i + 1}`, String(Number(value))), text);

/**
 * The units of some ids and all above them, on any day. Each step goes by the index (`offset 0`): the planner takes a
 * recursion for long, and would read all units at every step.
 */
export const unitsAbove = (ids: readonly number[]): Sql => sql`
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
    select ${rowColumns('unit')} from unit_version v where v.unit_id = up.id and ${BELIEVED} offset 0) v`;

/** Positions that somebody may report to, and those that name whom they report to. */
export const pointedPositions: Sql = sql`
  select ${rowColumns('position')}
  from position_version v
  where ${BELIEVED} and (
    v.reports_to_id is not null
    or v.position_id in (select reports_to_id from position_version where superseded_by is null)
    or v.position_id in (select head_position_id from unit_version where superseded_by is null))`;

/** Makes the things that are not there yet. */
export const insertThings = (kind: Kind, ids: readonly number[]): Sql => sql`
  insert into ${thingTable(kind)} (id) select unnest(${ids}::bigint[])
  on conflict do nothing`;

const cell = (section: SectionName, field: string, value: unknown): unknown =>
  value !== null && storage(section, field) === 'json' ? JSON.stringify(value) : value;

/** The names of a version table's columns in the order of `versionCells`. */
export const versionColumns = (section: SectionName): string[] => [
  'id',
  'lineage',
  `${sections[section].kind}_id`,
  'valid_from',
  'valid_until',
  'recorded_by',
  ...fieldsOf(section).map(snake),
  ...Object.keys(derivedOf(section, null)),
];

const derivedOf = (section: SectionName, values: unknown): Record<string, string> =>
  derivedTexts[section]?.(values as Values<'person_name'> | null) ?? {};

export const versionCells = (row: Row): unknown[] => {
  const values = row.values as Record<string, unknown>;
  return [
    row.id,
    row.lineage,
    row.thing,
    row.from,
    row.until,
    row.entry,
    ...fieldsOf(row.section).map((field) => cell(row.section, field, values[field] ?? null)),
    ...Object.values(derivedOf(row.section, row.values)),
  ];
};

/** The columns of a version table with their types. */
export const columnTypes = (section: SectionName): Sql => sql`
  select attname::text as name, format_type(atttypid, atttypmod) as type
  from pg_attribute
  where attrelid = ${`${section}_version`}::regclass and attnum > 0 and not attisdropped`;

// What stands for a row in the chain: salt and values, without what later entries add.
const digestOf = sql`encode(sha256(convert_to(v.salt::text
  || jsonb_strip_nulls(to_jsonb(v) - '{salt,superseded_by}'::text[])::text, 'UTF8')), 'hex')`;

export type BySection = readonly (readonly [section: SectionName, rows: readonly Row[]])[];

/** Rows of several sections with the things they are of, in one statement; answers with id and digest of each row. */
export const insertVersions = (groups: BySection): Sql => {
  const things = groups.map(
    ([section, rows]) => sql`${name(`things_of_${section}`)} as (
      ${insertThings(sections[section].kind, [...new Set(rows.map(({ thing }) => thing))])})`,
  );
  const versions = groups.map(
    ([section, rows]) => sql`${name(`new_${section}`)} as (
      insert into ${tableOf(section)} as v (${join(versionColumns(section).map(name))})
      values ${join(rows.map((row) => sql`(${join(versionCells(row))})`))}
      returning v.id, ${digestOf} as digest)`,
  );
  const found = groups.map(([section]) => sql`select id, digest from ${name(`new_${section}`)}`);
  return sql`with ${join([...things, ...versions])} ${join(found, ' union all ')}`;
};

/** Marks rows of several sections as superseded, in one statement; the count tells whether all were still believed. */
export const supersede = (groups: BySection, entry: number): Sql => {
  const updates = groups.map(
    ([section, rows]) => sql`${name(`old_${section}`)} as (
      update ${tableOf(section)} set superseded_by = ${entry}
      where id = any(${rows.map(({ id }) => id)}::bigint[]) and superseded_by is null
      returning 1)`,
  );
  const found = groups.map(([section]) => sql`select 1 from ${name(`old_${section}`)}`);
  return sql`with ${join(updates)} select count(*)::int as count from (${join(found, ' union all ')}) s`;
};

/** Digests of the rows that entries (null: all) recorded. */
export const rowDigests = (section: SectionName, entryIds: readonly number[] | null): Sql => sql`
  select v.recorded_by as entry, v.id, ${digestOf} as digest
  from ${tableOf(section)} v
  where ${entryIds}::bigint[] is null or v.recorded_by = any(${entryIds}::bigint[])
  order by v.id`;

/** Which row was superseded by which entry. */
export const supersededRows = (section: SectionName): Sql => sql`
  select v.superseded_by as entry, v.id
  from ${tableOf(section)} v
  where v.superseded_by is not null`;
