// The same questions in SQL: what the register in memory is measured beside.
import type { Viewer } from '@gremium/contract';
import { sql } from '@gremium/server';
import { type PeopleQuery, people } from '../server/test/people-by-sql';

/** Closes by month and country, and leavers by month and country, of months from one to another. */
export const crossBySql = (from: string, until: string) => sql`
  with recursive months as (
    select m::date as first, (m + interval '1 month - 1 day')::date as last
    from generate_series(${from}::date, ${until}::date, interval '1 month') m
  ),
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
  placed as (
    select p.employment_id, e.valid_until as ends, l.country,
      greatest(p.valid_from, o.valid_from, coalesce(up.valid_from, '-infinity')) as valid_from,
      least(p.valid_until, o.valid_until, coalesce(up.valid_until, 'infinity')) as valid_until
    from placement_version p
    join employment_version e on e.employment_id = p.employment_id and e.superseded_by is null
    join list_entry_version w on w.list_entry_id = e.worker_type_id and w.superseded_by is null
      and coalesce((w.flags->>'counted')::boolean, true)
    join position_version o on o.position_id = p.position_id and o.superseded_by is null
      and o.valid_from < p.valid_until and p.valid_from < o.valid_until
    left join up on o.location_id is null and up.root = o.unit_id and up.location_id is not null
      and up.valid_from < o.valid_until and o.valid_from < up.valid_until
    join location_version l on l.location_id = coalesce(o.location_id, up.location_id) and l.superseded_by is null
    where p.superseded_by is null and p.kind = 'primary'
  )
  select m.first, country, 'close' as what, count(*)::int as n
  from months m
  join placed on valid_from <= m.last and m.last < valid_until and ends > m.last + 1
  group by 1, 2
  union all
  select m.first, country, 'leavers', count(*)::int
  from months m
  join placed on ends between m.first + 1 and m.last + 1 and valid_until >= ends and valid_from < ends
  group by 1, 2`;

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
  people(viewer, query, { on: on as never, by: null, today: '2026-11-23' as never });
