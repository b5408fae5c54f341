import type { Kind, Reference, Section, SectionName } from '@gremium/contract';
import { type Sql, join, raw, sql } from '../database/sql';
import type { Seer } from '../time/catalogues';
import type { Looking } from '../time/lens';
import { isSeen } from '../time/records.sql';
import { believedBy, fieldOf, tableOf } from '../time/version.sql';

/** A section with a field of it that names things of a kind. */
export type Naming = { section: Section; reference: Reference };

/** Fields that name things of a kind; what a thing says of itself (the own field of a choice) is not a use of it. */
export const namingsOf = ({ catalogue }: Pick<Seer, 'catalogue'>, kind: Kind): Naming[] =>
  catalogue
    .naming(kind)
    .map(([name, reference]) => ({ section: catalogue.section(name), reference }))
    .filter(({ section }) => section.kind !== kind || !section.base);

// The ids that a field of a row names, as rows.
const named = ({ section, reference: { field, several } }: Naming): Sql =>
  several
    ? sql`cross join lateral (select one::bigint as id from jsonb_array_elements(${fieldOf(section, field)}) one) named`
    : sql`cross join lateral (select ${fieldOf(section, field)} as id) named`;

// Each row that the viewer may see, once for each thing of the kind that a field of it names.
const allNamed = (viewer: Seer, kind: Kind, looking: Looking): Sql => {
  const believed = believedBy(looking.by);
  const parts = namingsOf(viewer, kind).map(
    (one) => sql`
      select ${raw(`'${one.section.name}'`)}::text as section, ${raw(`'${one.reference.field}'`)}::text as field,
        named.id, v.valid_until > ${looking.today}::date as later
      from ${tableOf(one.section)} v ${named(one)}
      where ${believed} and named.id is not null and ${isSeen(viewer, one.section.name as SectionName, looking, believed)}`,
  );
  // some kinds are named by nothing
  return join([NOBODY, ...parts], ' union all ');
};

const NOBODY = sql`
  select null::text as section, null::text as field, null::bigint as id, false as later where false`;

const COUNTS = sql`count(*)::int as rows, (count(*) filter (where later))::int as later`;

/** How many believed rows name each thing of a kind, and how many of them hold on or after today. */
export const usesOf = (viewer: Seer, kind: Kind, looking: Looking): Sql => sql`
  select id, ${COUNTS} from (${allNamed(viewer, kind, looking)}) uses group by id`;

/** Where one thing is named. */
export const usedIn = (viewer: Seer, { kind, id }: { kind: Kind; id: number }, looking: Looking): Sql => sql`
  select section, field, ${COUNTS} from (${allNamed(viewer, kind, looking)}) uses
  where id = ${id} group by section, field order by rows desc, section, field`;
