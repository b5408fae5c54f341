// Units that went into others: whoever was given one is given what it went into.
import { type Grant, may } from '@gremium/contract';
import { type Successor, withSuccessors } from '@gremium/core';
import { type Db, type Sql, many, sql } from '../database/sql';
import { todayOf } from '../structure/organisation.sql';
import type { Clock } from '../time/clock';

// The last row of a unit that went into another one says so.
const mergers: Sql = sql`
  select unit_id as "unitId", successor_id as "successorId", valid_until::text as "from" from unit_version
  where superseded_by is null and successor_id is not null`;

/** Read once for each entry of the register, and only where somebody has a branch. */
export class Successors {
  private known: { entry: number; found: Promise<Successor[]> } | undefined;

  /** The grants of somebody as of an entry, with what their branches went into. */
  async of(db: Db, grants: Grant[], { entry, clock }: { entry: number; clock: Clock }): Promise<Grant[]> {
    if (may({ grants }).conditions('branch').length === 0) return grants;
    if (this.known?.entry !== entry) {
      const found = many<Successor>(db, mergers);
      this.known = { entry, found };
      found.catch(() => (this.known = undefined));
    }
    const successors = await this.known.found;
    return successors.length === 0 ? grants : withSuccessors(grants, successors, await todayOf(db, clock));
  }
}
