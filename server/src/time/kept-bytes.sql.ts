// Files and pictures that are not as the rows say that name them.
import type { Catalogue } from '@gremium/contract';
import { type Sql, join, raw, sql } from '../database/sql';
import { fieldOf, tableOf } from './version.sql';

/** Files named by rows whose bytes are gone, or of another length or digest, each with the entry that recorded the row. */
export const filesAltered = (catalogue: Catalogue): Sql => {
  const named = catalogue.sections.flatMap((section) =>
    section.own !== null
      ? []
      : [...section.metas].flatMap(([field, { is }]) =>
          is === 'file'
            ? sql`select v.recorded_by as entry, ${fieldOf(section, field)}::jsonb as file from ${tableOf(section)} v`
            : [],
        ),
  );
  // of the organisation's own, whatever looks like one
  const own = sql`select v.recorded_by, one.value from own_version v, jsonb_each(v."values") one
    where jsonb_typeof(one.value) = 'object' and one.value ${raw('?&')} array['id', 'type', 'bytes']`;
  return sql`
    select n.entry, n.file ->> 'name' as name
    from (${join([...named, own], ' union all ')}) n left join kept_file f on f.id = n.file ->> 'id'
    where n.file is not null and (f.id is null or length(f.bytes) <> (n.file ->> 'bytes')::int
      or encode(sha256(f.bytes), 'hex') <> n.file ->> 'digest')
    order by n.entry`;
};

/** Pictures whose bytes have another digest than their name says. */
export const picturesAltered: Sql = sql`
  select digest from picture where encode(sha256(bytes), 'hex') <> digest order by digest`;
