// Rights as part of the query: each query over people or structure joins the periods in which the viewer may see a thing.
import type { Catalogue, Condition, ConditionOf, Covering, Day, Kind, SectionName } from '@gremium/contract';
import { hasNoUnits, isAnchor, isOneself, isPlaced, may } from '@gremium/contract';
import { type Sql, empty, join, name, sql } from '../database/sql';
import type { Lines, Seer } from '../time/catalogues';
import { fieldOf, tableOf } from '../time/version.sql';

/** 'all', 'nothing', or a query of (thing, valid_from, valid_until): the days on which the viewer may see each thing. */
export type Reach = 'all' | 'nothing' | Sql;

/** What of a section the viewer may see. */
export const reachOf = (viewer: Seer, section: SectionName, today: Day): Reach => {
  const { catalogue } = viewer;
  const mine = may(viewer);
  const coverings = mine.coverings([section]);
  if (coverings.length === 0) return 'nothing';
  if (catalogue.isReference(section) || mine.everywhere(section)) return 'all';
  const { kind } = catalogue.anchor(section);
  const isNow = catalogue.scope(section) === 'owner_now';
  const parts = coverings.flatMap((covering) => inside({ viewer, today, covering, isNow }, kind) ?? []);
  return parts.length === 0 ? 'nothing' : join(parts, ' union all ');
};

/** Whether the viewer may see all there is of a section. */
export const seesAll = (viewer: Seer, section: SectionName): boolean => may(viewer).everywhere(section);

const ALWAYS = sql`date '-infinity' as valid_from, date 'infinity' as valid_until`;

// The part of both periods that is common, as the days of a thing.
const common = (a: string, b: string): Sql =>
  sql`greatest(${name(a)}.valid_from, ${name(b)}.valid_from) as valid_from, least(${name(a)}.valid_until, ${name(b)}.valid_until) as valid_until`;
const meets = (a: string, b: string): Sql =>
  sql`${name(a)}.valid_from < ${name(b)}.valid_until and ${name(b)}.valid_from < ${name(a)}.valid_until`;

type Asked = { viewer: Seer; today: Day; covering: Covering; isNow: boolean };

// Days on which things are the same as in lists that were worked out of the register in memory.
const listed = ({ things, from, until }: Lines): Sql => sql`
  select thing, valid_from, valid_until
  from unnest(${things}::bigint[], ${from}::date[], ${until}::date[]) t (thing, valid_from, valid_until)`;

const below = (
  { below: lines }: Seer,
  depth: ConditionOf<'reports'>['depth'],
  of: 'positions' | 'placements',
) => {
  const found = lines?.[depth];
  if (!found) throw new Error('who reports to the viewer was not asked before');
  return listed(found[of]);
};

// What positions inherit from the units above them: (unit_id, value, days).
const inheritedBy = (field: 'location_id' | 'legal_entity_id'): Sql => sql`
  with recursive given as (
    select v.unit_id, v.${name(field)} as value, v.valid_from, v.valid_until from unit_version v
    where v.superseded_by is null and (v.parent_id is null or v.${name(field)} is not null)
    union all
    select v.unit_id, g.value, ${common('v', 'g')}
    from given g
    join unit_version v on v.parent_id = g.unit_id and v.superseded_by is null and v.${name(field)} is null and ${meets('v', 'g')}
  ) select * from given`;

// (thing, days) of positions by a value of their own or of a unit above.
const valued = (field: 'location_id' | 'legal_entity_id'): Sql => sql`
  select p.position_id as thing, p.${name(field)} as value, p.valid_from, p.valid_until
  from position_version p where p.superseded_by is null and p.${name(field)} is not null
  union all
  select p.position_id, g.value, ${common('p', 'g')}
  from position_version p
  join (${inheritedBy(field)}) g on g.unit_id = p.unit_id and ${meets('p', 'g')}
  where p.superseded_by is null and p.${name(field)} is null`;

// Each condition as a query of (thing, days): of positions that are looked at for themselves, of positions in which somebody is
// placed, and of what says it of the employment or the placement. What it does not say, it does not narrow.
type Narrowing = {
  /** Positions by themselves; null: it narrows none, 'nothing': there are none. */
  position: Sql | null | 'nothing';
  /** Positions that people are placed in. */
  place: Sql | null;
  placement: Sql | null;
  /** On rows `e` of employments. */
  employment: Sql | null;
};
const NOT_NARROWED: Narrowing = { position: null, place: null, placement: null, employment: null };

const narrowings: { [T in Condition['type']]: (viewer: Seer, condition: ConditionOf<T>) => Narrowing } = {
  branch: (_, { unitId }) => {
    const query = sql`
      select p.position_id as thing, ${common('p', 'b')}
      from branch_periods(${unitId}) b
      join position_version p on p.unit_id = b.unit_id and p.superseded_by is null and ${meets('p', 'b')}`;
    return { ...NOT_NARROWED, position: query, place: query };
  },
  reports: (viewer, { depth }) => ({
    ...NOT_NARROWED,
    position: below(viewer, depth, 'positions'),
    placement: below(viewer, depth, 'placements'),
  }),
  entity: (_, { legalEntityId }) => ({
    ...NOT_NARROWED,
    position: sql`select thing, valid_from, valid_until from (${valued('legal_entity_id')}) w where value = ${legalEntityId}`,
    employment: sql`e.legal_entity_id = ${legalEntityId}`,
  }),
  country: (_, { country }) => {
    const query = sql`
      select w.thing, ${common('w', 'l')} from (${valued('location_id')}) w
      join location_version l on l.location_id = w.value and l.superseded_by is null and l.country = ${country} and ${meets('w', 'l')}`;
    return { ...NOT_NARROWED, position: query, place: query };
  },
  worker_type: (_, { workerTypeId }) => ({
    ...NOT_NARROWED,
    employment: sql`e.worker_type_id = ${workerTypeId}`,
  }),
  oneself: ({ personId }) => ({
    ...NOT_NARROWED,
    position: 'nothing',
    employment: personId === null ? sql`false` : sql`e.person_id = ${personId}`,
  }),
};

const narrowingsOf = ({ viewer, covering: { conditions } }: Asked): Narrowing[] =>
  conditions.map((condition) =>
    (narrowings[condition.type] as (viewer: Seer, condition: Condition) => Narrowing)(viewer, condition),
  );

// (thing, days) that are in all queries; not by joins, of which the planner would guess one row each.
const inAll = (queries: readonly Sql[]): Sql | null => {
  const [first, second] = queries;
  if (first === undefined || second === undefined) return first ?? null;
  const each = queries.map(
    (query) => sql`
      select q.thing, range_agg(daterange(q.valid_from, q.valid_until)) as days from (${query}) q
      where q.valid_from < q.valid_until group by q.thing`,
  );
  return sql`
    select u.thing, lower(u.days) as valid_from, upper(u.days) as valid_until from (
      select a.thing, unnest(range_intersect_agg(a.days)) as days from (${join(each, ' union all ')}) a
      group by a.thing having count(*) = ${queries.length}::int) u`;
};
const present = <T>(all: readonly (T | null)[]): T[] => all.filter((one): one is T => one !== null);

const positions = (asked: Asked): Sql | null => {
  const all = present(narrowingsOf(asked).map(({ position }) => position));
  if (all.includes('nothing')) return null;
  return (
    inAll(all as Sql[]) ??
    sql`select position_id as thing, valid_from, valid_until from position_version where superseded_by is null`
  );
};

const placements = (asked: Asked, column: 'placement_id' | 'employment_id'): Sql => {
  const all = narrowingsOf(asked);
  const place = inAll(present(all.map((one) => one.place)));
  const own = inAll(present(all.map((one) => one.placement)));
  const employed = present(all.map((one) => one.employment));
  const isEmployed = employed.length > 0;
  const days = ['v', ...(place ? ['s'] : []), ...(own ? ['o'] : []), ...(isEmployed ? ['e'] : [])];
  const bound = (end: 'valid_from' | 'valid_until') =>
    join(
      days.map((from) => sql`${name(from)}.${name(end)}`),
      ', ',
    );
  return sql`
    select v.${name(column)} as thing, greatest(${bound('valid_from')}) as valid_from, least(${bound('valid_until')}) as valid_until
    from placement_version v
    ${place ? sql`join (${place}) s on v.position_id = s.thing and ${meets('v', 's')}` : empty}
    ${own ? sql`join (${own}) o on v.placement_id = o.thing and ${meets('v', 'o')}` : empty}
    ${isEmployed ? sql`join employment_version e on e.employment_id = v.employment_id and e.superseded_by is null and ${meets('v', 'e')} and ${join(employed, ' and ')}` : empty}
    where v.superseded_by is null and greatest(${bound('valid_from')}) < least(${bound('valid_until')})
      ${column === 'employment_id' ? sql`and v.kind = 'primary'` : empty}`;
};

const employments = (asked: Asked): Sql => {
  if (isPlaced(asked.covering.conditions)) return placements(asked, 'employment_id');
  const employed = present(narrowingsOf(asked).map(({ employment }) => employment));
  return sql`
    select e.employment_id as thing, e.valid_from, e.valid_until from employment_version e
    where e.superseded_by is null and ${join(employed, ' and ')}`;
};

// People who are inside by where they are today, be there next, or were last.
const peopleNow = (asked: Asked): Sql | null => {
  const { viewer, today, covering } = asked;
  if (isOneself(covering.conditions))
    return viewer.personId === null ? null : sql`select ${viewer.personId}::bigint as thing, ${ALWAYS}`;
  return sql`
    select a.person_id as thing, ${ALWAYS}
    from person_anchors(${today}::date) a
    join (${placements(asked, 'placement_id')}) s on s.thing = a.placement_id and s.valid_from <= a.anchor and a.anchor < s.valid_until`;
};

const peopleThen = (asked: Asked): Sql | null =>
  isOneself(asked.covering.conditions)
    ? peopleNow(asked)
    : sql`
  select e.person_id as thing, ${common('e', 's')}
  from (${employments(asked)}) s
  join employment_version e on e.employment_id = s.thing and e.superseded_by is null and ${meets('e', 's')}`;

// All days of the employments, or placements, of people who are inside now.
const following = (asked: Asked, kind: 'employment' | 'placement'): Sql | null => {
  const people = peopleNow(asked);
  if (!people) return null;
  return kind === 'employment'
    ? sql`select distinct e.employment_id as thing, ${ALWAYS} from (${people}) s join employment_version e on e.person_id = s.thing`
    : sql`select distinct v.placement_id as thing, ${ALWAYS} from (${people}) s join employment_version e on e.person_id = s.thing
        join placement_version v on v.employment_id = e.employment_id`;
};

const units = ({ covering: { conditions } }: Asked): Sql | null => {
  if (hasNoUnits(conditions)) return null;
  const branches = conditions.flatMap((condition) =>
    condition.type === 'branch'
      ? [sql`select unit_id as thing, valid_from, valid_until from branch_periods(${condition.unitId})`]
      : [],
  );
  return (
    inAll(branches) ??
    sql`select unit_id as thing, valid_from, valid_until from unit_version where superseded_by is null`
  );
};

// Things of a kind that themselves belong to somebody: seen where their owners are, on their own days.
const throughOwner = (catalogue: Catalogue, kind: Kind, ownersSeen: Sql): Sql => {
  const section = catalogue.section(kind);
  const { field } = catalogue.anchor(kind as SectionName);
  return sql`
    select v.${name(`${kind}_id`)} as thing, ${common('v', 's')}
    from (${ownersSeen}) s
    join ${tableOf(section)} v on ${fieldOf(section, field)} = s.thing and v.superseded_by is null and ${meets('v', 's')}`;
};

const inside = (asked: Asked, kind: Kind): Sql | null => {
  const { follows } = asked.covering;
  if (kind === 'unit') return units(asked);
  if (kind === 'position') return positions(asked);
  if (kind === 'person') return asked.isNow || follows ? peopleNow(asked) : peopleThen(asked);
  if (kind === 'employment' || kind === 'placement') {
    if (follows) return following(asked, kind);
    return kind === 'employment' ? employments(asked) : placements(asked, 'placement_id');
  }
  if (isAnchor(kind)) return null;
  const { catalogue } = asked.viewer;
  const owner = catalogue.anchor(kind as SectionName);
  if (owner.kind === kind) return null;
  const seen = inside(asked, owner.kind);
  return seen && throughOwner(catalogue, kind, seen);
};

/** The column of a section's rows (`v`) by which its reach is looked up. */
export const reachColumn = (catalogue: Catalogue, sectionName: SectionName): Sql => {
  const section = catalogue.section(sectionName);
  const { field } = catalogue.anchor(sectionName);
  return field === 'thing' ? sql`v.${name(`${section.kind}_id`)}` : fieldOf(section, field);
};
