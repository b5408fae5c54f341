import type { Row } from '@gremium/contract';
import { sectionNames } from '@gremium/contract';
import { type Presence, Register, allPresences } from '@gremium/core';
import type { ClientBase, Pool } from 'pg';
import { many, one } from '../database/sql';
import { entriesAfter, head } from '../time/journal.sql';
import { headNumber } from '../time/lens';
import { pastEntries } from '../time/undo';
import { allRows } from '../time/version.sql';

export type Whole = { register: Register; presences: () => Presence[] };

// More entries than this behind, and loading anew is quicker than catching up.
const MOST_BEHIND = 200;

/**
 * The whole register as now believed, in the memory of this process: loaded once, then kept up by folding in each later
 * entry, whole and in the order of numbers, whichever process wrote it. For another moment it is loaded anew. What comes out
 * of it is cut to the viewer's scope by whoever asks (outline, figures): nothing of it is shown as it is.
 */
export class RegisterCache {
  private number = -1;
  private now: Whole | undefined;
  private catching: Promise<Whole> | undefined;

  constructor(private readonly pool: Pool) {}

  /** As believed after an entry (null: after the last one committed before this is asked). */
  async whole(by: number | null): Promise<Whole> {
    if (by !== null) return this.reading((tx) => load(tx, by));
    const least = await headNumber(this.pool);
    while (!this.now || this.number < least)
      await (this.catching ??= this.catchUp().finally(() => (this.catching = undefined)));
    return this.now;
  }

  private async catchUp(): Promise<Whole> {
    return this.reading(async (tx) => {
      const { number } = await one<{ number: number }>(tx, head);
      const register = this.now?.register;
      const behind = register && (await many<{ id: number }>(tx, entriesAfter(this.number, MOST_BEHIND + 1)));
      if (!behind || behind.length > MOST_BEHIND) this.now = await load(tx, null);
      else {
        const past = await pastEntries(
          tx,
          behind.map(({ id }) => id),
        );
        // from here on nothing waits: readers see the register before or after, never between
        this.now = undefined; // if a change did not fit, the next reader loads it anew
        for (const change of past.sort((a, b) => a.number - b.number)) register.apply(change);
        this.now = wholeOf(register);
      }
      this.number = number;
      return this.now;
    });
  }

  // One snapshot for all that is read together.
  private async reading<T>(read: (tx: ClientBase) => Promise<T>): Promise<T> {
    const client = await this.pool.connect();
    try {
      await client.query('begin isolation level repeatable read read only');
      const result = await read(client);
      await client.query('commit');
      return result;
    } catch (error) {
      await client.query('rollback').catch(() => undefined);
      throw error;
    } finally {
      client.release();
    }
  }
}

const wholeOf = (register: Register): Whole => {
  let presences: Presence[] | undefined;
  return { register, presences: () => (presences ??= allPresences(register)) };
};

const load = async (tx: ClientBase, by: number | null): Promise<Whole> => {
  const register = new Register();
  for (const section of sectionNames)
    register.apply({ recorded: await many<Row>(tx, allRows(section, by)), superseded: [] });
  return wholeOf(register);
};
