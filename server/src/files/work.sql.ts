// Work done in the background, kept in the table of what it is done on: which kind, which process does it, its last sign of life, how
// often it was begun, how far it is.
import { type Sql, sql } from '../database/sql';

/** Tables with the columns of work. */
export type WorkTable = 'import' | 'take_out';

const TABLES: Record<WorkTable, Sql> = { import: sql`import`, take_out: sql`take_out` };

// What was asked may be changed while it is worked on: each change is a revision.
const REVISIONS: Record<WorkTable, Sql> = { import: sql`i.revision`, take_out: sql`0` };

export type Claimed = { id: number; work: string; account: number; attempts: number; revision: number };

/** Takes work that nobody does, or whose process gave no sign of life for so many seconds. */
export const claim = (table: WorkTable, worker: string, silence: number): Sql => sql`
  update ${TABLES[table]} i set worker = ${worker}, beat = clock_timestamp(), attempts = attempts + 1
  where i.id = (
    select id from ${TABLES[table]}
    where work is not null
      and (worker is null or beat < clock_timestamp() - make_interval(secs => ${silence}))
    order by id
    limit 1
    for update skip locked)
  returning i.id, i.work, i.account_id as account, i.attempts, ${REVISIONS[table]} as revision`;

/** A sign of life with how far the work is; no row if it was cancelled or taken over. */
export const beat = (
  table: WorkTable,
  id: number,
  worker: string,
  { done, total }: { done: number; total: number },
): Sql => sql`
  update ${TABLES[table]} set beat = clock_timestamp(), done = ${done}, total = ${total}
  where id = ${id} and worker = ${worker} and state <> 'cancelled'
  returning id`;

/** A row if the work is cancelled or another process does it. */
export const isElsewhere = (table: WorkTable, id: number, worker: string): Sql => sql`
  select id from ${TABLES[table]} where id = ${id} and (state = 'cancelled' or worker <> ${worker})`;

/** Gives work back, to be taken by whoever is free. */
export const giveBack = (table: WorkTable, id: number, worker: string): Sql => sql`
  update ${TABLES[table]} set worker = null where id = ${id} and worker = ${worker}`;
