import type { NewId } from '@gremium/core';
import { type Db, many, sql } from '../database/sql';

const BLOCK = 1000;

/** Ids in blocks of a thousand from one sequence; what a process does not use of its blocks is never used. */
export class IdSource {
  private next = 0;
  private end = 0;

  /** A synchronous source of up to `most` ids, its own slice. */
  async reserve(db: Db, most = 250): Promise<NewId> {
    const starts = most > BLOCK ? await blocks(db, Math.ceil(most / BLOCK)) : [await this.slice(db, most)];
    let used = 0;
    return () => {
      const start = starts[Math.floor(used / BLOCK)];
      if (start === undefined || used >= most) throw new Error(`out of the ${most} reserved ids`);
      return start + (used++ % BLOCK);
    };
  }

  private async slice(db: Db, most: number): Promise<number> {
    if (this.end - this.next < most) {
      const [first = 0] = await blocks(db, 1);
      this.next = first;
      this.end = first + BLOCK;
    }
    this.next += most;
    return this.next - most;
  }
}

const blocks = async (db: Db, n: number): Promise<number[]> =>
  (
    await many<{ first: number }>(db, sql`select nextval('id_block') as first from generate_series(1, ${n})`)
  ).map(({ first }) => first);
