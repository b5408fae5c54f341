import type { Bound, Section, SectionName } from '@gremium/contract';
import { reachColumn, reachOf, type Reach } from '../access/scope.sql';
import { type Sql, empty, sql } from '../database/sql';
import type { Seer } from './catalogues';
import { utc } from './journal.sql';
import type { Looking } from './lens';
import { believedBy, inEffect, naming, rowColumns, tableOf, thingColumn, valuesOf } from './version.sql';

const within = ({ catalogue }: Seer, reach: Reach, section: SectionName, day: Sql): Sql => {
  if (reach === 'all') return empty;
  if (reach === 'nothing') return sql`and false`;
  return sql`and exists (select from (${reach}) s
    where s.thing = ${reachColumn(catalogue, section)} and s.valid_from <= ${day} and ${day} < s.valid_until)`;
};

/** Versions of a section in effect on a day that the viewer may see. */
export const visibleRows = (
  viewer: Seer,
  sectionName: SectionName,
  { on, by, today }: Looking,
  page: { limit: number; offset: number },
): Sql => {
  const section = viewer.catalogue.section(sectionName);
  return sql`
    select ${rowColumns(section)}
    from ${tableOf(section)} v
    where ${inEffect(on, by)}
      ${within(viewer, reachOf(viewer, sectionName, today), sectionName, sql`${on}::date`)}
    order by v.${thingColumn(section)}
    limit ${page.limit} offset ${page.offset}`;
};

/**
 * What was said last of a thing by a section, believed or not, with the entry that said it and the one by which it is no
 * longer believed.
 */
export const lastSaid = (section: Section, id: number): Sql => sql`
  select ${valuesOf(section)} as "values", r.number as made, ${utc(sql`r.moment`)} as "madeAt",
    u.number as gone, ${utc(sql`u.moment`)} as "goneAt", u.account as "goneBy"
  from ${tableOf(section)} v
  join entry r on r.id = v.recorded_by
  left join entry u on u.id = v.superseded_by
  where v.${thingColumn(section)} = ${id}
  order by v.superseded_by is null desc, v.id desc
  limit 1`;

/** Which things: themselves by id (`thing`), or those of which a field names one of the ids. */
export type Which = { field: string; ids: readonly number[] | Sql };

/** All versions of a section of some things, cut to the days on which the viewer may see each. In no order. */
export const visibleHistory = (
  viewer: Seer,
  sectionName: SectionName,
  { field, ids }: Which,
  { by, today }: Looking,
): Sql => {
  const section = viewer.catalogue.section(sectionName);
  const reach = reachOf(viewer, sectionName, today);
  const rows = sql`from ${tableOf(section)} v where ${naming(section, field, ids)} and ${believedBy(by)}`;
  if (reach === 'nothing') return sql`select ${rowColumns(section)} ${rows} and false`;
  if (reach === 'all') return sql`select ${rowColumns(section)} ${rows}`;
  return sql`
    select r.id, r.lineage, r.section, r.thing, lower(days)::text as "from",
      coalesce(upper(days), 'infinity')::text as "until", r.values, r.entry
    from (select ${rowColumns(section)}, ${reachColumn(viewer.catalogue, sectionName)} as owner ${rows}) r
    cross join lateral (
      select unnest(range_agg(daterange(s.valid_from, s.valid_until))
        * multirange(daterange(r."from"::date, r."until"::date))) as days
      from (${reach}) s
      where s.thing = r.owner
    ) seen`;
};

/** Of the things given, those of which the viewer may see anything in the section. */
export const visibleThings = (
  viewer: Seer,
  sectionName: SectionName,
  ids: readonly number[],
  { today }: Looking,
  since?: Bound,
): Sql => {
  const reach = reachOf(viewer, sectionName, today);
  if (reach === 'nothing') return sql`select id from unnest(${[]}::bigint[]) t (id)`;
  if (reach === 'all') return sql`select id from unnest(${ids}::bigint[]) t (id)`;
  const after = since === undefined ? empty : sql`and s.valid_until > ${since}::date`;
  // where the thing itself is decides: it need not have a row of this section yet
  if (viewer.catalogue.anchor(sectionName).field === 'thing')
    return sql`select distinct s.thing as id from (${reach}) s where s.thing = any(${ids}::bigint[]) ${after}`;
  const section = viewer.catalogue.section(sectionName);
  return sql`
    select distinct v.${thingColumn(section)} as id
    from ${tableOf(section)} v
    join (${reach}) s on s.thing = ${reachColumn(viewer.catalogue, sectionName)}
    where v.${thingColumn(section)} = any(${ids}::bigint[]) ${after}`;
};

/** Of rows `v` of a section that meet a condition, those that the viewer may see on some of their days; asked once, not of each. */
export const isSeen = (
  viewer: Seer,
  sectionName: SectionName,
  { today }: Pick<Looking, 'today'>,
  condition: Sql,
): Sql => {
  const section = viewer.catalogue.section(sectionName);
  const reach = reachOf(viewer, sectionName, today);
  if (typeof reach === 'string') return sql`${reach === 'all'}::boolean`;
  return sql`v.id in (
    select v.id from ${tableOf(section)} v
    join (${reach}) s on s.thing = ${reachColumn(viewer.catalogue, sectionName)}
      and s.valid_from < v.valid_until and v.valid_from < s.valid_until
    where ${condition})`;
};

/** Rows that entries recorded or superseded, with whether the viewer may see them on some of their days. */
export const touchedRows = (
  viewer: Seer,
  sectionName: SectionName,
  entryIds: readonly number[],
  looking: Looking,
): Sql => {
  const section = viewer.catalogue.section(sectionName);
  const touched = sql`(v.recorded_by = any(${entryIds}::bigint[]) or v.superseded_by = any(${entryIds}::bigint[]))`;
  return sql`
    select ${rowColumns(section)}, v.superseded_by as "supersededBy",
      ${isSeen(viewer, sectionName, looking, touched)} as "isSeen"
    from ${tableOf(section)} v
    where ${touched}`;
};

/** Days on which a placement begins or changes, or an employment ends, with how many; only what the viewer may see. */
export const ticks = (
  viewer: Seer,
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
        ${within(viewer, reach, 'placement', sql`v.valid_from`)}
      union all
      select ${lastDay}, v.employment_id
      from placement_version v
      where ${believedBy(by)} and v.valid_until <> 'infinity'
        and ${lastDay} between ${from}::date and ${until}::date
        and not exists (
          select from placement_version n
          where n.employment_id = v.employment_id and n.valid_from <= v.valid_until and v.valid_until < n.valid_until
            and ${believedBy(by, 'n')})
        ${within(viewer, reach, 'placement', lastDay)}
    ) happening
    group by 1
    order by 1`;
};
