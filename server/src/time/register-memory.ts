import type { Columns } from '@gremium/core';
import { Directory, Facts } from '@gremium/core';
import type { ClientBase, Pool } from 'pg';
import { many, one } from '../database/sql';
import { transaction } from '../database/transaction';
import { entriesAfter, head } from './journal.sql';
import { headNumber } from './lens';
import { loadColumns } from './load-columns';
import { pastEntries } from './undo';

/** The register in memory after an entry, with what is worked out of it. */
export type Known = { facts: Facts; directory: Directory; number: number };

// More entries than this behind, and loading anew is quicker than catching up.
const MOST_BEHIND = 200;
// A connection that gives nothing more is ended, so that the next question tries another; loading takes seconds.
const MOST_READING = 120_000;
// Earlier moments kept loaded: who compares two of them goes to and fro.
const MOST_EARLIER = 2;

/**
 * The whole register as now believed, as columns: loaded once, then kept up by folding in each later entry, whole and in the
 * order of numbers, whichever process wrote it. Another moment is loaded anew. It lives in a worker (register-worker.ts).
 */
export class RegisterMemory {
  private now: Known | undefined;
  private catching: Promise<void> | undefined;
  private readonly earlier = new Map<number, Known>();

  /** `asking` is for the number of the last entry, `loading` for all that takes its time. */
  constructor(private readonly pools: { asking: Pool; loading: Pool }) {}

  /** As believed after an entry (null: after the last one committed before this is asked). */
  async known(by: number | null): Promise<Known> {
    if (by !== null) return this.at(by);
    const least = await headNumber(this.pools.asking);
    while (!this.now || this.now.number < least)
      await (this.catching ??= this.catchUp().finally(() => (this.catching = undefined)));
    return this.now;
  }

  /** As it is in memory, perhaps some entries behind; undefined while it loads. */
  atHand(): Known | undefined {
    return this.now;
  }

  private async at(number: number): Promise<Known> {
    const kept = this.earlier.get(number);
    if (kept) return kept;
    const made = await this.reading(async (tx) => knownOf(await loadColumns(tx, number), number));
    const [oldest] = this.earlier.keys();
    if (this.earlier.size >= MOST_EARLIER && oldest !== undefined) this.earlier.delete(oldest);
    this.earlier.set(number, made);
    return made;
  }

  private async catchUp(): Promise<void> {
    await this.reading(async (tx) => {
      const { number } = await one<{ number: number }>(tx, head);
      const { now } = this;
      const behind = now && (await many<{ id: number }>(tx, entriesAfter(now.number, MOST_BEHIND + 1)));
      if (!behind || behind.length > MOST_BEHIND) {
        this.now = knownOf(await loadColumns(tx, null), number);
        return;
      }
      const past = await pastEntries(
        tx,
        behind.map(({ id }) => id),
      );
      // from here on nothing waits: readers see the register before or after, never between
      this.now = undefined; // if a change did not fit, the next reader loads it anew
      for (const change of past.sort((a, b) => a.number - b.number)) now.facts.columns.apply(change);
      now.number = number;
      this.now = now;
    });
  }

  // One snapshot for all that is read together.
  private async reading<T>(read: (tx: ClientBase) => Promise<T>): Promise<T> {
    const begin = 'begin isolation level repeatable read read only';
    return transaction(this.pools.loading, read, { begin, most: MOST_READING });
  }
}

const knownOf = (columns: Columns, number: number): Known => ({
  facts: new Facts(columns),
  directory: new Directory(columns),
  number,
});
