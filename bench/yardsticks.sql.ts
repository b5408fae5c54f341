// The same questions in SQL: what the register in memory is measured beside.
import { type Viewer, preset } from '@gremium/contract';
import { sql } from '@gremium/server';
import { type PeopleQuery, people } from '../server/test/people-by-sql';

// Who is placed in which country when, and when their employment ends.
const placed = sql`
  up (root, unit_id, parent_id, location_id, valid_from, valid_until) as (
    select unit_id, unit_id, case when location_id is null then parent_id end, location_id, valid_from, valid_until
    from unit_version where superseded_by is null
    union all
    select up.root, u.unit_id, case when u.location_id is null then u.parent_id end, u.location_id,
      greatest(up.valid_from, u.valid_from), least(up.valid_until, u.valid_until)
    from up
    join unit_version u on u.unit_id = up.parent_id and u.superseded_by is null
      and u.valid_from < up.valid_until and up.valid_from < u.valid_until
    where up.location_id is null
  ),
  employed as (
    select e.employment_id, min(e.worker_type_id) as worker_type_id, max(e.valid_until) as ends,
      bool_or(exists (
        select from employment_version n where n.continues_id = e.employment_id and n.superseded_by is null)) as continued
    from employment_version e
    where e.superseded_by is null
    group by 1
  ),
  placed as (
    select e.ends, e.continued, l.country,
      greatest(p.valid_from, o.valid_from, coalesce(up.valid_from, '-infinity')) as valid_from,
      least(p.valid_until, o.valid_until, coalesce(up.valid_until, 'infinity')) as valid_until
    from placement_version p
    join employed e on e.employment_id = p.employment_id
    join list_entry_version w on w.list_entry_id = e.worker_type_id and w.superseded_by is null
      and coalesce((w.flags->>'counted')::boolean, true)
    join position_version o on o.position_id = p.position_id and o.superseded_by is null
      and o.valid_from < p.valid_until and p.valid_from < o.valid_until
    left join up on o.location_id is null and up.root = o.unit_id and up.location_id is not null
      and up.valid_from < o.valid_until and o.valid_from < up.valid_until
    join location_version l on l.location_id = coalesce(o.location_id, up.location_id) and l.superseded_by is null
    where p.superseded_by is null and p.kind = 'primary'
  )`;

/** Closes by month and country, and leavers by month and country, of months from one to another. */
export const crossBySql = (from: string, until: string) => sql`
  with recursive months as (
    select m::date as first, (m + interval '1 month - 1 day')::date as last
    from generate_series(${from}::date, ${until}::date, interval '1 month') m
  ),
  ${placed}
  select m.first, country, 'close' as what, count(*)::int as n
  from months m
  join placed on valid_from <= m.last and m.last < valid_until and (ends > m.last + 1 or continued)
  group by 1, 2
  union all
  select m.first, country, 'leavers', count(*)::int
  from months m
  join placed on ends between m.first + 1 and m.last + 1 and valid_until >= ends and valid_from < ends and not continued
  group by 1, 2`;

/** The rows behind it, to be copied out. */
export const copyPlaced = `copy (with recursive ${placed.text}
  select country, greatest(valid_from, '1900-01-01') as valid_from, least(valid_until, '2200-01-01') as valid_until,
    least(ends, '2200-01-01') as ends, continued
  from placed where valid_from < valid_until) to stdout (format csv)`;

/** Rolling turnover by month and country in DuckDB, over those rows: months that follow eleven others. */
export const crossByDuck = (from: string, until: string) => `
  with months as (
    select m::date as first, (m + interval 1 month - interval 1 day)::date as last
    from (select unnest(generate_series(date '${from}', date '${until}', interval 1 month)) as m)
  ),
  closes as (
    select first, country, count(*) as n from months join placed on valid_from <= last and last < valid_until and (ends > last + 1 or continued)
    group by all
  ),
  leavers as (
    select first, country, count(*) as n
    from months join placed on ends between first + 1 and last + 1 and valid_until >= ends and valid_from < ends and not continued
    group by all
  )
  select strftime(first, '%Y-%m') as month, country,
    sum(coalesce(l.n, 0)) over year * 12 / sum(c.n) over year as turnover
  from closes c left join leavers l using (first, country)
  window year as (partition by country order by first rows 11 preceding)
  order by country, first`;

/** Headcount and FTE of every unit on a day, rolled up over the branch. */
export const rollUpBySql = (on: string) => sql`
  with recursive below (root, unit_id) as (
    select unit_id, unit_id from unit_version
    where superseded_by is null and valid_from <= ${on}::date and ${on}::date < valid_until
    union all
    select b.root, u.unit_id from below b
    join unit_version u on u.parent_id = b.unit_id
    where u.superseded_by is null and u.valid_from <= ${on}::date and ${on}::date < u.valid_until
  ),
  own as (
    select o.unit_id, count(*) filter (where p.kind = 'primary')::int as people,
      sum((p.hours - p.lent_hours)::float / p.full_time) as fte
    from placement_version p
    join position_version o on o.position_id = p.position_id and o.superseded_by is null
      and o.valid_from <= ${on}::date and ${on}::date < o.valid_until
    where p.superseded_by is null and p.valid_from <= ${on}::date and ${on}::date < p.valid_until
    group by 1
  )
  select b.root, sum(own.people)::int as people, sum(own.fte) as fte
  from below b left join own on own.unit_id = b.unit_id group by 1`;

export const directoryBySql = (viewer: Viewer, query: PeopleQuery, on: string) =>
  people({ ...viewer, catalogue: preset, holds: [] }, query, {
    on: on as never,
    by: null,
    today: '2026-11-23' as never,
  });
