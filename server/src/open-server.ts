import { type Catalogue, preset } from '@gremium/contract';
import { serverPool } from './database/pool';
import type { Server } from './time/act';
import { Catalogues } from './time/catalogues';
import type { Clock } from './time/clock';
import { IdSource } from './time/ids';

type Opening = {
  reading?: number;
  writing?: number;
  /** The sections it knows, and the address of the module that exports them, for its workers. */
  catalogue?: Catalogue;
  sectionsFrom?: string;
};

/** A server over a database: connections to read with, others to write with. Ends with `close`. */
export const openServer = (
  url: string,
  clock: Clock,
  { reading = 10, writing = 6, catalogue = preset, sectionsFrom }: Opening = {},
): Server & { close: () => Promise<void> } => {
  const pool = serverPool(url, reading);
  const acts = serverPool(url, writing);
  const close = async () => {
    await Promise.all([pool.end(), acts.end()]);
  };
  const catalogues = new Catalogues(catalogue);
  return { pool, acts, clock, ids: new IdSource(), catalogues, workers: { url, sectionsFrom }, close };
};
