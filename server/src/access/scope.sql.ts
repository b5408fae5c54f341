// Rights as part of the query: each query over people or structure joins the periods in which the viewer may see a thing.
import type { Day, SectionName, Viewer } from '@gremium/contract';
import { gives, referenceSections, sections } from '@gremium/contract';
import { type Sql, join, name, sql } from '../database/sql';

/** 'all', 'nothing', or a query of (thing, valid_from, valid_until): the days on which the viewer may see each thing. */
export type Reach = 'all' | 'nothing' | Sql;

const isReference = (section: SectionName): boolean =>
  (referenceSections as readonly string[]).includes(section);

/** What of a section the viewer may see. */
export const reachOf = (viewer: Viewer, section: SectionName, today: Day): Reach => {
  const grants = viewer.grants.filter((grant) => gives(grant, section, 'view'));
  if (grants.length === 0) return 'nothing';
  if (isReference(section) || grants.some(({ scope }) => scope.type === 'all')) return 'all';
  const parts = grants.flatMap(({ scope }): Sql[] => {
    if (scope.type === 'branch') return [inBranch(section, scope.unitId, today)];
    return viewer.personId === null ? [] : ownRecord(section, viewer.personId);
  });
  return parts.length === 0 ? 'nothing' : join(parts, ' union all ');
};

/** Whether the viewer may see all there is of a section. */
export const seesAll = (viewer: Viewer, section: SectionName): boolean =>
  viewer.grants.some((grant) => grant.scope.type === 'all' && gives(grant, section, 'view'));

const ALWAYS = sql`date '-infinity' as valid_from, date 'infinity' as valid_until`;

const positions = (root: number): Sql => sql`
  select p.position_id as thing, greatest(p.valid_from, b.valid_from) as valid_from,
    least(p.valid_until, b.valid_until) as valid_until
  from branch_periods(${root}) b
  join position_version p on p.unit_id = b.unit_id and p.superseded_by is null
    and p.valid_from < b.valid_until and b.valid_from < p.valid_until`;

const placements = (root: number, column: 'placement_id' | 'employment_id'): Sql => sql`
  select v.${column === 'placement_id' ? sql`placement_id` : sql`employment_id`} as thing,
    greatest(v.valid_from, s.valid_from) as valid_from, least(v.valid_until, s.valid_until) as valid_until
  from (${positions(root)}) s
  join placement_version v on v.position_id = s.thing and v.superseded_by is null
    and v.valid_from < s.valid_until and s.valid_from < v.valid_until
    ${column === 'employment_id' ? sql`and v.kind = 'primary'` : sql``}`;

const people = (root: number, today: Day): Sql => sql`
  select a.person_id as thing, ${ALWAYS}
  from person_anchors(${today}::date) a
  join (${positions(root)}) s on s.thing = a.position_id and s.valid_from <= a.anchor and a.anchor < s.valid_until`;

// Contacts, contracts and pay belong to a person or an employment: their reach is looked up over the owner's column.
const inBranch = (section: SectionName, root: number, today: Day): Sql => {
  const { kind } = sections[section];
  if (kind === 'unit')
    return sql`select unit_id as thing, valid_from, valid_until from branch_periods(${root})`;
  if (kind === 'position') return positions(root);
  if (kind === 'placement') return placements(root, 'placement_id');
  if (kind === 'employment' || kind === 'contract' || kind === 'pay')
    return placements(root, 'employment_id');
  return people(root, today);
};

const ownRecord = (section: SectionName, personId: number): Sql[] => {
  const { kind } = sections[section];
  if (kind === 'person' || kind === 'contact') return [sql`select ${personId}::bigint as thing, ${ALWAYS}`];
  const employments = sql`select e.employment_id from employment_version e where e.person_id = ${personId}`;
  if (kind === 'placement')
    return [
      sql`select v.placement_id as thing, ${ALWAYS} from placement_version v where v.employment_id in (${employments})`,
    ];
  if (kind === 'employment' || kind === 'contract' || kind === 'pay')
    return [
      sql`select e.employment_id as thing, ${ALWAYS} from employment_version e where e.person_id = ${personId}`,
    ];
  return [];
};

/** The column of a section's rows by which its reach is looked up. */
export const reachColumn = (section: SectionName): Sql => {
  const { kind } = sections[section];
  if (kind === 'contact') return name('person_id');
  if (kind === 'contract' || kind === 'pay') return name('employment_id');
  return name(`${kind}_id`);
};
