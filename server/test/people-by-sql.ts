import { type DirectoryAsk, fold } from '@gremium/core';
import {
  type Reach,
  reachOf,
  type Sql,
  empty,
  join,
  name,
  sql,
  type Seer,
  type Looking,
  believedBy,
  inEffect,
} from '@gremium/server';

export type PeopleQuery = DirectoryAsk;

// The number is of the person's data, which is not dated.
const seesNumber = (viewer: Seer, { today }: Looking): Sql => {
  const reach = reachOf(viewer, 'person', today);
  if (reach === 'all') return sql`true`;
  return reach === 'nothing'
    ? sql`false`
    : sql`exists (select from (${reach}) s where s.thing = c.person_id)`;
};

const covered = (reach: Reach, thing: Sql, day: Sql): Sql => {
  if (reach === 'all') return empty;
  if (reach === 'nothing') return sql`and false`;
  return sql`and exists (select from (${reach}) s
    where s.thing = ${thing} and s.valid_from <= ${day} and ${day} < s.valid_until)`;
};

// Any part of any name the person ever had, the number or an email; accents and case aside.
const matches = (search: string | undefined, by: number | null, mayNumber: Sql): Sql => {
  const words = fold(search ?? '')
    .split(' ')
    .filter(Boolean);
  if (words.length === 0) return empty;
  const each = words.map((word) => {
    const like = `%${word.replace(/[\\%_]/g, '\\$&')}%`;
    return sql`(
      exists (select from person_name_version n2 where n2.person_id = c.person_id and n2.search like ${like}
        and ${believedBy(by, 'n2')})
      or (v.number = ${word} and ${mayNumber})
      or exists (select from contact_version k where k.person_id = c.person_id and k.kind = 'email'
        and ${word.includes('@') ? sql`lower(k.value)` : sql`split_part(lower(k.value), '@', 1)`} like ${like} and ${believedBy(by, 'k')}))`;
  });
  return sql`and ${join(each, ' and ')}`;
};

// Some employment running on the day is of a worker type that counts.
const counts = (by: number | null): Sql => sql`and exists (
  select from employment_version w
  join list_entry_version t on t.list_entry_id = w.worker_type_id and ${believedBy(by, 't')}
  where w.person_id = c.person_id and ${believedBy(by, 'w')} and w.valid_from <= c.day and c.day < w.valid_until
    and coalesce((t.flags->>'counted')::boolean, true))`;

// The position's own location, else that of the nearest unit above that has one. Worked out for the lines of a page only.
const locationOf = (by: number | null, field: 'name' | 'location_id'): Sql => sql`(
  with recursive up (parent_id, location_id, step) as (
    select u.parent_id, coalesce(o.location_id, u.location_id), 0
    union all
    select a.parent_id, a.location_id, up.step + 1
    from up
    join unit_version a on a.unit_id = up.parent_id and ${believedBy(by, 'a')}
      and a.valid_from <= c.day and c.day < a.valid_until
    where up.location_id is null and up.step < 100
  )
  select l.${name(field)}
  from up
  join location_version l on l.location_id = up.location_id and ${believedBy(by, 'l')}
    and l.valid_from <= c.day and c.day < l.valid_until
  limit 1)`;

const inUnits = (branch: number | undefined, by: number | null): Sql =>
  branch === undefined
    ? empty
    : sql`and exists (
        with recursive up (unit_id, parent_id) as (
          select u.unit_id, u.parent_id where u.unit_id is not null
          union
          select a.unit_id, a.parent_id
          from up
          join unit_version a on a.unit_id = up.parent_id and ${believedBy(by, 'a')}
            and a.valid_from <= c.day and c.day < a.valid_until
        )
        select from up where unit_id = ${branch})`;

/**
 * People on a day with where they are, sorted by name; `total` counts all that match. Each person stands there with the
 * employment of the day (main one), else the next, else the last; only those seen by their own days are listed.
 */
export const people = (
  viewer: Seer,
  { search, status, branch, itself, location, limit, offset }: PeopleQuery,
  looking: Looking,
): Sql => {
  const { on, by, today } = looking;
  const rank = { here: 0, counted: 0, coming: 1, left: 2, any: null }[status];
  return sql`
    with ranked as (
      select e.person_id, e.employment_id, e.marked_main, e.valid_from, e.valid_until,
        case when e.valid_from > ${on}::date then 1 when e.valid_until <= ${on}::date then 2 else 0 end as rank,
        case when e.valid_from > ${on}::date then e.valid_from
             when e.valid_until <= ${on}::date then e.valid_until - 1 else ${on}::date end as day
      from employment_version e
      where ${believedBy(by, 'e')}
    ),
    chosen as (
      select distinct on (r.person_id) r.*
      from ranked r
      where true ${covered(reachOf(viewer, 'employment', today), sql`r.employment_id`, sql`r.day`)}
      order by r.person_id, r.rank, not r.marked_main,
        case when r.rank = 2 then r.valid_until end desc, r.valid_from, r.employment_id
    )
    select c.person_id as id, case when ${seesNumber(viewer, looking)} then v.number else '' end as number, n.sort,
      concat_ws(' ', coalesce(n.preferred, n.given), n.prefix, n.family) as name,
      case c.rank when 1 then 'coming' when 2 then 'left'
        else case when p.hours > 0 and p.away_hours >= p.hours - p.lent_hours then 'away' else 'at_work' end end as status,
      p.position_id as "positionId", o.title, o.unit_id as "unitId", u.name as unit, ${locationOf(by, 'name')} as location,
      nullif(c.valid_from, '-infinity')::text as since,
      count(*) over ()::int as total
    from chosen c
    join person_version v on v.person_id = c.person_id and ${inEffect(on, by, 'v')}
    join lateral (
      select n.* from person_name_version n
      where n.person_id = c.person_id and ${inEffect(on, by, 'n')}
      limit 1
    ) n on true
    left join placement_version p on p.employment_id = c.employment_id and p.kind = 'primary'
      and ${believedBy(by, 'p')} and p.valid_from <= c.day and c.day < p.valid_until
      ${covered(reachOf(viewer, 'placement', today), sql`p.placement_id`, sql`c.day`)}
    left join position_version o on o.position_id = p.position_id
      and ${believedBy(by, 'o')} and o.valid_from <= c.day and c.day < o.valid_until
    left join unit_version u on u.unit_id = o.unit_id
      and ${believedBy(by, 'u')} and u.valid_from <= c.day and c.day < u.valid_until
    where ${rank === null ? sql`true` : sql`c.rank = ${rank}`}
      ${covered(reachOf(viewer, 'person_name', today), sql`c.person_id`, sql`${on}::date`)}
      ${matches(search, by, seesNumber(viewer, looking))}
      ${inUnits(branch, by)}
      ${itself ? sql`and o.unit_id = ${branch}` : empty}
      ${status === 'counted' ? counts(by) : empty}
      ${location === undefined ? empty : sql`and ${locationOf(by, 'location_id')} = ${location}`}
    order by n.sort collate "en-x-icu", v.number
    limit ${limit} offset ${offset}`;
};
