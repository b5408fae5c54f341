import type { NewId } from '@gremium/core';
import { type Db, many, sql } from '../database/sql';

const BLOCK = 1000;

/** Asked for more ids than were reserved: there are more once `grow` was waited for. */
export class OutOfIds extends Error {
  constructor(readonly most: number) {
    super(`out of the ${most} reserved ids`);
  }
}

/** A source of ids that knows which are its own, can go back to a mark, and can be given more. */
export type OwnIds = NewId & {
  owns: (id: number) => boolean;
  mark: () => number;
  rewind: (to: number) => void;
  /** As many again, and a block at least. */
  grow: (db: Db) => Promise<void>;
};

type Slice = { first: number; size: number };

/** Ids in blocks of a thousand from one sequence; what a process does not use of its blocks is never used. */
export class IdSource {
  private next = 0;
  private end = 0;

  /** A synchronous source of up to `most` ids, its own slices; asked for more it throws `OutOfIds`. */
  async reserve(db: Db, most = 250): Promise<OwnIds> {
    const slices: Slice[] = most > BLOCK ? await blocks(db, most) : [await this.slice(db, most)];
    const whole = new Set<number>();
    const keep = () => {
      for (const { first, size: n } of slices) if (n === BLOCK) whole.add(first);
    };
    keep();
    const [{ first: began, size: own }] = slices as [Slice];
    const size = () => slices.reduce((sum, slice) => sum + slice.size, 0);
    let used = 0;
    let at = 0;
    let before = 0;
    const next = () => {
      let slice = slices[at];
      while (slice && used >= before + slice.size) {
        before += slice.size;
        slice = slices[++at];
      }
      if (!slice) throw new OutOfIds(size());
      return slice.first + (used++ - before);
    };
    return Object.assign(next, {
      owns: (id: number) => (began <= id && id < began + own) || whole.has(id - (id % BLOCK)),
      mark: () => used,
      // ids handed out since a mark are handed out again: what they were for was given up
      rewind: (to: number) => {
        [used, at, before] = [to, 0, 0];
      },
      grow: async (more: Db) => {
        slices.push(...(await blocks(more, size())));
        keep();
        [at, before] = [0, 0];
      },
    });
  }

  private async slice(db: Db, most: number): Promise<Slice> {
    if (this.end - this.next < most) {
      const [block] = await blocks(db, BLOCK);
      this.next = block?.first ?? 0;
      this.end = this.next + BLOCK;
    }
    this.next += most;
    return { first: this.next - most, size: most };
  }
}

// Whole blocks for as many ids.
const blocks = async (db: Db, ids: number): Promise<Slice[]> =>
  (
    await many<{ first: number }>(
      db,
      sql`select nextval('id_block') as first from generate_series(1, ${Math.ceil(ids / BLOCK)})`,
    )
  ).map(({ first }) => ({ first, size: BLOCK }));
