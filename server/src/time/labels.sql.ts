import type { Kind, SectionName } from '@gremium/contract';
import { type Sql, join, name, sql } from '../database/sql';
import type { Seer } from './catalogues';
import type { Looking } from './lens';
import { visibleThings } from './records.sql';

type Refs = (kind: Kind) => number[];

// What a thing of a kind is called by, of the fields of its base section.
const titleOf = ({ catalogue }: Seer, kind: Kind): string | undefined =>
  kind === 'own_row'
    ? undefined
    : ['title', 'name'].find((field) => catalogue.section(kind).metas.has(field));

// The latest title (else name) of things of a kind that the viewer may see anything of.
const titles = (
  viewer: Seer,
  kind: Kind,
  { ids, title }: { ids: number[]; title: string },
  looking: Looking,
): Sql => sql`
  select ${kind}::text as kind, v.${name(`${kind}_id`)} as id, null::bigint as person,
    to_json((array_agg(v.${name(title)} order by v.valid_from desc))[1]) as label
  from ${name(`${kind}_version`)} v
  where v.superseded_by is null
    and v.${name(`${kind}_id`)} in (${visibleThings(viewer, kind as SectionName, ids, looking)})
  group by 2`;

const entryLabels = (viewer: Seer, ids: number[], looking: Looking): Sql => sql`
  select 'list_entry' as kind, v.list_entry_id as id, null::bigint as person,
    (array_agg(v.label order by v.valid_from desc))[1]::json as label
  from list_entry_version v
  where v.superseded_by is null and v.list_entry_id in (${visibleThings(viewer, 'list_entry', ids, looking)})
  group by 2`;

// The persons behind employments and placements, with their names on a day, else the first known.
const people = (idsOf: Refs, looking: Looking): Sql => {
  const behind = sql`
    select 'person' as kind, id, id as person from unnest(${idsOf('person')}::bigint[]) t (id)
    union
    select 'employment', employment_id, person_id from employment_version
    where employment_id = any(${idsOf('employment')}::bigint[])
    union
    select 'placement', p.placement_id, e.person_id
    from placement_version p
    join employment_version e on e.employment_id = p.employment_id
    where p.placement_id = any(${idsOf('placement')}::bigint[])`;
  return sql`
    select b.kind, b.id, b.person, n.label
    from (${behind}) b
    cross join lateral (
      select json_build_object('given', v.given, 'middle', v.middle, 'family', v.family, 'prefix', v.prefix,
        'preferred', v.preferred, 'birthName', v.birth_name, 'sortName', v.sort_name) as label
      from person_name_version v
      where v.superseded_by is null and v.person_id = b.person
      order by (v.valid_from <= ${looking.on}::date and ${looking.on}::date < v.valid_until) desc, v.valid_from
      limit 1
    ) n`;
};

/** Names of things that the viewer may see, people's as the parts of their names: one statement, or none to make. */
export const namesOf = (viewer: Seer, idsOf: Refs, looking: Looking): Sql | null => {
  const parts = viewer.catalogue.kinds.flatMap((kind) => {
    const [ids, title] = [idsOf(kind), titleOf(viewer, kind)];
    return ids.length > 0 && title ? [titles(viewer, kind, { ids, title }, looking)] : [];
  });
  if (idsOf('list_entry').length > 0) parts.push(entryLabels(viewer, idsOf('list_entry'), looking));
  if ((['person', 'employment', 'placement'] as const).some((kind) => idsOf(kind).length > 0))
    parts.push(people(idsOf, looking));
  return parts.length === 0 ? null : join(parts, ' union all ');
};
