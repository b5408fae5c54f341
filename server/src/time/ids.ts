import type { NewId } from '@gremium/core';
import { type Db, many, sql } from '../database/sql';

const BLOCK = 1000;

/** A source of ids that knows which are its own, and can go back to a mark. */
export type OwnIds = NewId & {
  owns: (id: number) => boolean;
  mark: () => number;
  rewind: (to: number) => void;
};

/** Ids in blocks of a thousand from one sequence; what a process does not use of its blocks is never used. */
export class IdSource {
  private next = 0;
  private end = 0;

  /** A synchronous source of up to `most` ids, its own slice. */
  async reserve(db: Db, most = 250): Promise<OwnIds> {
    const starts = most > BLOCK ? await blocks(db, Math.ceil(most / BLOCK)) : [await this.slice(db, most)];
    let used = 0;
    const own = new Set(starts);
    const first = starts[0] as number;
    const owns = (id: number) =>
      most > BLOCK ? own.has(id - (id % BLOCK)) : first <= id && id < first + most;
    const next = () => {
      const start = starts[Math.floor(used / BLOCK)];
      if (start === undefined || used >= most) throw new Error(`out of the ${most} reserved ids`);
      return start + (used++ % BLOCK);
    };
    // ids handed out since a mark are handed out again: what they were for was given up
    return Object.assign(next, { owns, mark: () => used, rewind: (to: number) => void (used = to) });
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
