import type { SectionName, Viewer } from '@gremium/contract';
import { reachColumn, reachOf, type Reach } from '../access/scope.sql';
import { type Sql, empty, name, sql } from '../database/sql';
import type { Looking } from './lens';
import { believedBy, inEffect, rowColumns, snake, tableOf, thingColumn } from './version.sql';

const within = (reach: Reach, section: SectionName, day: Sql): Sql => {
  if (reach === 'all') return empty;
  if (reach === 'nothing') return sql`and false`;
  return sql`and exists (select from (${reach}) s
    where s.thing = v.${reachColumn(section)} and s.valid_from <= ${day} and ${day} < s.valid_until)`;
};

/** Versions of a section in effect on a day that the viewer may see. */
export const visibleRows = (
  viewer: Viewer,
  section: SectionName,
  { on, by, today }: Looking,
  page: { limit: number; offset: number },
): Sql => sql`
  select ${rowColumns(section)}
  from ${tableOf(section)} v
  where ${inEffect(on, by)}
    ${within(reachOf(viewer, section, today), section, sql`${on}::date`)}
  order by v.${thingColumn(section)}
  limit ${page.limit} offset ${page.offset}`;

/** Which things: themselves by id, or those of which a field names one of the ids. */
export type Which = { field: 'thing' | 'personId' | 'employmentId' | 'positionId'; ids: readonly number[] };

const columnOf = (section: SectionName, { field }: Which): Sql =>
  field === 'thing' ? thingColumn(section) : name(snake(field));

/** All versions of a section of some things, cut to the days on which the viewer may see each. */
export const visibleHistory = (
  viewer: Viewer,
  section: SectionName,
  which: Which,
  { by, today }: Looking,
): Sql => {
  const reach = reachOf(viewer, section, today);
  const rows = sql`from ${tableOf(section)} v
    where v.${columnOf(section, which)} = any(${which.ids}::bigint[]) and ${believedBy(by)}`;
  if (reach === 'nothing') return sql`select ${rowColumns(section)} ${rows} and false`;
  if (reach === 'all') return sql`select ${rowColumns(section)} ${rows} order by v.valid_from`;
  return sql`
    with rows as (select ${rowColumns(section)}, v.${reachColumn(section)} as owner ${rows})
    select r.id, r.lineage, r.section, r.thing, lower(days)::text as "from",
      coalesce(upper(days), 'infinity')::text as "until", r.values, r.entry
    from rows r
    cross join lateral (
      select unnest(range_agg(daterange(s.valid_from, s.valid_until))
        * multirange(daterange(r."from"::date, r."until"::date))) as days
      from (${reach}) s
      where s.thing = r.owner
    ) seen
    order by 5`;
};

/** Of the things given, those of which the viewer may see anything in the section. */
export const visibleThings = (
  viewer: Viewer,
  section: SectionName,
  ids: readonly number[],
  { today }: Looking,
): Sql => {
  const reach = reachOf(viewer, section, today);
  if (reach === 'nothing') return sql`select id from unnest(${[]}::bigint[]) t (id)`;
  if (reach === 'all') return sql`select id from unnest(${ids}::bigint[]) t (id)`;
  return sql`
    select distinct v.${thingColumn(section)} as id
    from ${tableOf(section)} v
    join (${reach}) s on s.thing = v.${reachColumn(section)}
    where v.${thingColumn(section)} = any(${ids}::bigint[])`;
};

/** Rows that entries recorded or superseded, of what the viewer may see on some of their days. */
export const visibleRowsOf = (
  viewer: Viewer,
  section: SectionName,
  entryIds: readonly number[],
  looking: Looking,
): Sql => {
  const reach = reachOf(viewer, section, looking.today);
  const seen =
    reach === 'all'
      ? empty
      : reach === 'nothing'
        ? sql`and false`
        : sql`and exists (select from (${reach}) s where s.thing = v.${reachColumn(section)}
            and s.valid_from < v.valid_until and v.valid_from < s.valid_until)`;
  return sql`
    select ${rowColumns(section)}, v.superseded_by as "supersededBy"
    from ${tableOf(section)} v
    where (v.recorded_by = any(${entryIds}::bigint[]) or v.superseded_by = any(${entryIds}::bigint[])) ${seen}
    order by v.id`;
};

/** How many rows entries recorded or superseded, whoever may see them: only to tell whether all of it was seen. */
export const countRowsOf = (section: SectionName, entryIds: readonly number[]): Sql => sql`
  select v.recorded_by as entry, count(*)::int as rows from ${tableOf(section)} v
  where v.recorded_by = any(${entryIds}::bigint[]) group by 1
  union all
  select v.superseded_by, count(*)::int from ${tableOf(section)} v
  where v.superseded_by = any(${entryIds}::bigint[]) group by 1`;

/** Days on which a placement begins or changes, or an employment ends, with how many; only what the viewer may see. */
export const ticks = (
  viewer: Viewer,
  { from, until }: { from: string; until: string },
  { by, today }: Looking,
): Sql => {
  const reach = reachOf(viewer, 'placement', today);
  const lastDay = sql`v.valid_until - 1`;
  return sql`
    select day::text, count(distinct employment_id)::int as count
    from (
      select v.valid_from as day, v.employment_id from placement_version v
      where ${believedBy(by)} and v.valid_from between ${from}::date and ${until}::date
        ${within(reach, 'placement', sql`v.valid_from`)}
      union all
      select ${lastDay}, v.employment_id
      from placement_version v
      where ${believedBy(by)} and v.valid_until <> 'infinity'
        and ${lastDay} between ${from}::date and ${until}::date
        and not exists (
          select from placement_version n
          where n.employment_id = v.employment_id and n.valid_from <= v.valid_until and v.valid_until < n.valid_until
            and ${believedBy(by, 'n')})
        ${within(reach, 'placement', lastDay)}
    ) happening
    group by 1
    order by 1`;
};
