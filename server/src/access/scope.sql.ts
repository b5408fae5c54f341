// Rights as part of the query: each query over people or structure joins the periods in which the viewer may see a thing.
import type { Catalogue, Day, Kind, SectionName } from '@gremium/contract';
import { gives, isAnchor } from '@gremium/contract';
import { type Sql, join, name, sql } from '../database/sql';
import type { Seer } from '../time/catalogues';
import { fieldOf, tableOf } from '../time/version.sql';

/** 'all', 'nothing', or a query of (thing, valid_from, valid_until): the days on which the viewer may see each thing. */
export type Reach = 'all' | 'nothing' | Sql;

/** What of a section the viewer may see. */
export const reachOf = (viewer: Seer, section: SectionName, today: Day): Reach => {
  const { catalogue } = viewer;
  const grants = viewer.grants.filter((grant) => gives(grant, section, 'view'));
  if (grants.length === 0) return 'nothing';
  if (catalogue.isReference(section) || grants.some(({ scope }) => scope.type === 'all')) return 'all';
  const { kind } = catalogue.anchor(section);
  const isNow = catalogue.scope(section) === 'owner_now';
  const parts = grants.flatMap(({ scope }): Sql[] => {
    if (scope.type === 'branch') return [inBranch(catalogue, kind, { root: scope.unitId, today, isNow })];
    return viewer.personId === null ? [] : ownRecord(catalogue, kind, viewer.personId);
  });
  return parts.length === 0 ? 'nothing' : join(parts, ' union all ');
};

/** Whether the viewer may see all there is of a section. */
export const seesAll = (viewer: Seer, section: SectionName): boolean =>
  viewer.grants.some((grant) => grant.scope.type === 'all' && gives(grant, section, 'view'));

const ALWAYS = sql`date '-infinity' as valid_from, date 'infinity' as valid_until`;

// The part of both periods that is common, as the days of a thing.
const common = (a: string, b: string): Sql =>
  sql`greatest(${name(a)}.valid_from, ${name(b)}.valid_from) as valid_from, least(${name(a)}.valid_until, ${name(b)}.valid_until) as valid_until`;
const meets = (a: string, b: string): Sql =>
  sql`${name(a)}.valid_from < ${name(b)}.valid_until and ${name(b)}.valid_from < ${name(a)}.valid_until`;

const positions = (root: number): Sql => sql`
  select p.position_id as thing, ${common('p', 'b')}
  from branch_periods(${root}) b
  join position_version p on p.unit_id = b.unit_id and p.superseded_by is null and ${meets('p', 'b')}`;

const placements = (root: number, column: 'placement_id' | 'employment_id'): Sql => sql`
  select v.${name(column)} as thing, ${common('v', 's')}
  from (${positions(root)}) s
  join placement_version v on v.position_id = s.thing and v.superseded_by is null and ${meets('v', 's')}
    ${column === 'employment_id' ? sql`and v.kind = 'primary'` : sql``}`;

const peopleNow = (root: number, today: Day): Sql => sql`
  select a.person_id as thing, ${ALWAYS}
  from person_anchors(${today}::date) a
  join (${positions(root)}) s on s.thing = a.position_id and s.valid_from <= a.anchor and a.anchor < s.valid_until`;

const peopleThen = (root: number): Sql => sql`
  select e.person_id as thing, ${common('e', 's')}
  from (${placements(root, 'employment_id')}) s
  join employment_version e on e.employment_id = s.thing and e.superseded_by is null and ${meets('e', 's')}`;

// Things of a kind that themselves belong to somebody: seen where their owners are, on their own days.
const throughOwner = (catalogue: Catalogue, kind: Kind, ownersSeen: Sql): Sql => {
  const section = catalogue.section(kind);
  const { field } = catalogue.anchor(kind as SectionName);
  return sql`
    select v.${name(`${kind}_id`)} as thing, ${common('v', 's')}
    from (${ownersSeen}) s
    join ${tableOf(section)} v on ${fieldOf(section, field)} = s.thing and v.superseded_by is null and ${meets('v', 's')}`;
};

type Branch = { root: number; today: Day; isNow: boolean };

const inBranch = (catalogue: Catalogue, kind: Kind, branch: Branch): Sql => {
  const { root, today, isNow } = branch;
  if (kind === 'unit')
    return sql`select unit_id as thing, valid_from, valid_until from branch_periods(${root})`;
  if (kind === 'position') return positions(root);
  if (kind === 'placement') return placements(root, 'placement_id');
  if (kind === 'employment') return placements(root, 'employment_id');
  if (kind === 'person') return isNow ? peopleNow(root, today) : peopleThen(root);
  const owner = catalogue.anchor(kind as SectionName);
  return throughOwner(catalogue, kind, inBranch(catalogue, owner.kind, branch));
};

const ownRecord = (catalogue: Catalogue, kind: Kind, personId: number): Sql[] => {
  if (kind === 'person') return [sql`select ${personId}::bigint as thing, ${ALWAYS}`];
  if (kind === 'employment')
    return [
      sql`select e.employment_id as thing, ${ALWAYS} from employment_version e where e.person_id = ${personId}`,
    ];
  if (kind === 'placement')
    return [
      sql`select v.placement_id as thing, ${ALWAYS} from placement_version v where v.employment_id in (
        select e.employment_id from employment_version e where e.person_id = ${personId})`,
    ];
  if (isAnchor(kind)) return [];
  const owner = catalogue.anchor(kind as SectionName);
  if (owner.kind === kind) return [];
  return ownRecord(catalogue, owner.kind, personId).map((seen) => throughOwner(catalogue, kind, seen));
};

/** The column of a section's rows (`v`) by which its reach is looked up. */
export const reachColumn = (catalogue: Catalogue, sectionName: SectionName): Sql => {
  const section = catalogue.section(sectionName);
  const { field } = catalogue.anchor(sectionName);
  return field === 'thing' ? sql`v.${name(`${section.kind}_id`)}` : fieldOf(section, field);
};
