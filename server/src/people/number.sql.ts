import { type Sql, sql } from '../database/sql';

/** The next number of the series, and whether somebody was given it before. */
export const nextNumber = sql`
  with next as (select nextval('person_number')::text as number)
  select number,
    exists (select from number_given g where g.kind = 'person' and g.number = next.number) as given
  from next`;

/** Gives numbers to people where nobody has them yet. */
export const giveNumbers = (numbers: readonly string[], people: readonly number[]): Sql => sql`
  insert into number_given (kind, number, thing_id)
  select 'person', number, person from unnest(${numbers}::text[], ${people}::bigint[]) as t (number, person)
  on conflict do nothing`;

/** Of numbers asked for, one that belongs to somebody else. By a statement of its own, so that it sees what was given. */
export const numbersOfOthers = (numbers: readonly string[], people: readonly number[]): Sql => sql`
  select t.number
  from unnest(${numbers}::text[], ${people}::bigint[]) as t (number, person)
  join number_given g on g.kind = 'person' and g.number = t.number
  where g.thing_id <> t.person
  limit 1`;

/** The next numbers of the series that nobody was given before. */
export const nextNumbers = (most: number): Sql => sql`
  with next as (select nextval('person_number')::text as number from generate_series(1, ${most}))
  select number from next
  where not exists (select from number_given g where g.kind = 'person' and g.number = next.number)`;

/** People with one of some emails (small letters), or born on one of some days; a hundred at most. */
export const peopleAlike = (emails: readonly string[], births: readonly string[]): Sql => sql`
  select person_id as id from contact_version
  where superseded_by is null and kind = 'email' and lower(value) = any(${emails}::text[])
  union
  select person_id from person_version
  where superseded_by is null and birth_date = any(${births}::date[])
  limit 100`;
