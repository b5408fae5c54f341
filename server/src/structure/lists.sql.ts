import type { Reference, Section } from '@gremium/contract';
import { type Sql, join, raw, sql } from '../database/sql';
import { fieldOf, tableOf } from '../time/version.sql';

type Naming = { section: Section; reference: Reference };

const BELIEVED = sql`v.superseded_by is null`;

// The ids that a field of a row names, as rows.
const named = ({ section, reference: { field, several } }: Naming): Sql =>
  several
    ? sql`cross join lateral (select one::bigint as id from jsonb_array_elements(${fieldOf(section, field)}) one) named`
    : sql`cross join lateral (select ${fieldOf(section, field)} as id) named`;

/** How many believed rows name each thing, and how many of them hold on or after a day. */
export const usesOf = (namings: readonly Naming[], today: string): Sql => sql`
  select id, sum(rows)::int as rows, sum(later)::int as later from (
    ${join(
      namings.map(
        (one) => sql`
          select named.id, count(*) as rows, count(*) filter (where v.valid_until > ${today}::date) as later
          from ${tableOf(one.section)} v ${named(one)}
          where ${BELIEVED} and named.id is not null group by named.id`,
      ),
      ' union all ',
    )}
  ) counted group by id`;

/** Where one thing is named. */
export const usedIn = (namings: readonly Naming[], id: number, today: string): Sql => sql`
  select * from (
    ${join(
      namings.map(
        (one) => sql`
          select ${raw(`'${one.section.name}'`)}::text as section, ${raw(`'${one.reference.field}'`)}::text as field,
            count(*)::int as rows, (count(*) filter (where v.valid_until > ${today}::date))::int as later
          from ${tableOf(one.section)} v ${named(one)}
          where ${BELIEVED} and named.id = ${id}`,
      ),
      ' union all ',
    )}
  ) places where rows > 0 order by rows desc, section, field`;
