// Entries read like a section: one row each, in effect from the day it was recorded.
import { type Catalogue, type Section, ledgers, movementKinds } from '@gremium/contract';
import { tableOf, thingColumn } from './version.sql';

const columnOf = (field: string): string => field.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);

// Whose a row is, where it is a person's: itself, over its owner, or over its employment (`whose`).
const personOf = ({ owner, kind }: Section): { person: string; join: string } => {
  const column = owner && owner.field !== 'thing' ? columnOf(owner.field) : `${kind}_id`;
  const of = owner?.kind ?? kind;
  if (kind === 'employment' || of === 'person') return { person: `v.${column}`, join: '' };
  if (of !== 'employment') return { person: 'null::bigint', join: '' };
  return { person: 'w.person_id', join: `left join whose w on w.employment_id = v.${column}` };
};

// What an entry recorded and superseded of a section, by the first day of each version. One that was only cut keeps its first
// day: what is otherwise begins where it now ends. Grouped, not joined with itself: a pay round supersedes a thousand rows.
const changesIn = (section: Section): string => {
  const table = section.own === null ? tableOf(section).text : 'own_version';
  const thing = thingColumn(section).text;
  const own = section.own === null ? '' : ` and v.section_id = ${section.own}`;
  const { person, join } = personOf(section);
  return `select entry, person, case when was > now then now when now is not null then valid_from end as changed
    from (
      select k.entry, ${person} as person, v.valid_from,
        max(v.valid_until) filter (where k.is_new) as now, max(v.valid_until) filter (where not k.is_new) as was
      from ${table} v
      cross join lateral (values (v.recorded_by, true), (v.superseded_by, false)) k (entry, is_new)
      ${join}
      where k.entry is not null${own}
      group by k.entry, v.${thing}, v.valid_from, 2
    ) x`;
};

// Whether an undoing is in force: none that is undone itself; undoings of undoings go no deeper in practice.
const MOST_TURNS = 6;
const undone = (entry: string, turn: number): string =>
  turn > MOST_TURNS
    ? 'false'
    : `exists (select from entry_undo u${turn} where u${turn}.undone_id = ${entry}
        and not ${undone(`u${turn}.entry_id`, turn + 1)})`;

// What people tell of themselves is not told by when they told it, either.
const toldByOneself = (catalogue: Catalogue): string =>
  catalogue.sections.flatMap(({ name, byOneself }) => (byOneself ? [`'${name}'`] : [])).join(', ');

/** Copies entries, or those of them that are movements, up to one (null: all), in the form of a section. */
export const copyLedger = (catalogue: Catalogue, name: string, by: number | null): string => {
  if (!ledgers.has(name)) throw new Error(`${name} is no ledger`);
  const acts = movementKinds.map((kind) => `'${kind}'`).join(', ');
  const zone = `coalesce((select time_zone from organisation_version where superseded_by is null
    order by valid_from desc limit 1), 'UTC')`;
  const rows = `
    with whose as materialized (select distinct employment_id, person_id from employment_version),
    changes as (${catalogue.sections
      .filter(({ byOneself }) => !byOneself)
      .map(changesIn)
      .join(' union all ')}),
    told as (
      select entry, count(distinct person) as people, min(person) as person, min(changed) as changed,
        count(changed) as versions
      from changes group by entry
    )
    select e.id, e.id, e.id, (e.moment at time zone z.zone)::date, 'infinity'::date, e.id,
      e.number::int4, to_char(e.moment at time zone z.zone, 'YYYY-MM-DD'),
      to_char(e.moment at time zone z.zone, 'HH24:MI'), e.kind::text, e.account::text, e.reason::text,
      coalesce(t.people, 0)::int4, case when t.people = 1 then t.person end,
      case when t.changed > '-infinity' and t.changed < 'infinity' then to_char(t.changed, 'YYYY-MM-DD') end,
      coalesce(t.versions, 0)::int4,
      ${undone('e.id', 1)}
    from entry e cross join (select ${zone} as zone) z
    left join told t on t.entry = e.id
    where ${by === null ? 'true' : `e.number <= ${Number(by)}`}
      and not (e.sections <@ array[${toldByOneself(catalogue)}]::text[] and e.sections <> '{}')
      ${name === 'movement' ? `and e.kind in (${acts})` : ''}
    order by e.number`;
  return `copy (${rows}) to stdout (format binary)`;
};
