import { type Sql, sql } from '../database/sql';

/** The next number of the series, and whether somebody was given it before. */
export const nextNumber = sql`
  with next as (select nextval('person_number')::text as number)
  select number,
    exists (select from number_given g where g.kind = 'person' and g.number = next.number) as given
  from next`;

/** Gives numbers to people where nobody has them yet; answers with those that belong to somebody else. */
export const giveNumbers = (numbers: readonly string[], people: readonly number[]): Sql => sql`
  with asked as (
    select number, person from unnest(${numbers}::text[], ${people}::bigint[]) as t (number, person)
  ),
  given as (
    insert into number_given (kind, number, thing_id) select 'person', number, person from asked
    on conflict do nothing
    returning number
  )
  select a.number
  from asked a
  where not exists (select from given n where n.number = a.number)
    and a.person is distinct from (
      select g.thing_id from number_given g where g.kind = 'person' and g.number = a.number)
  limit 1`;

/** The next numbers of the series that nobody was given before. */
export const nextNumbers = (most: number): Sql => sql`
  with next as (select nextval('person_number')::text as number from generate_series(1, ${most}))
  select number from next
  where not exists (select from number_given g where g.kind = 'person' and g.number = next.number)`;
