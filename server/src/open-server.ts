import { serverPool } from './database/pool';
import type { Server } from './time/act';
import type { Clock } from './time/clock';
import { IdSource } from './time/ids';

/** A server over a database: connections to read with, others to write with. Ends with `close`. */
export const openServer = (
  url: string,
  clock: Clock,
  { reading = 10, writing = 6 }: { reading?: number; writing?: number } = {},
): Server & { close: () => Promise<void> } => {
  const pool = serverPool(url, reading);
  const acts = serverPool(url, writing);
  const close = async () => {
    await Promise.all([pool.end(), acts.end()]);
  };
  return { pool, acts, clock, ids: new IdSource(), close };
};
