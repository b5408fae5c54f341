import { type Sql, sql } from '../database/sql';

/** The next number of the series, and whether somebody was given it before. */
export const nextNumber = sql`
  with next as (select nextval('person_number')::text as number)
  select number,
    exists (select from number_given g where g.kind = 'person' and g.number = next.number) as given
  from next`;

export const giveNumber = (number: string, person: number): Sql => sql`
  insert into number_given (kind, number, thing_id) values ('person', ${number}, ${person})
  on conflict do nothing`;

export const ownerOfNumber = (number: string): Sql => sql`
  select thing_id from number_given where kind = 'person' and number = ${number}`;
