import { type Catalogue, preset } from '@gremium/contract';
import { serverPool } from './database/pool';
import { MOST_QUESTION, MOST_WAITS } from './database/waits';
import type { Server } from './time/act';
import { Catalogues } from './time/catalogues';
import type { Clock } from './time/clock';
import { IdSource } from './time/ids';

type Opening = {
  reading?: number;
  writing?: number;
  /** The sections it knows, and the address of the module that exports them, for its workers. */
  catalogue?: Catalogue;
  sectionsFrom?: string | undefined;
  /** Seconds that somebody waits at most, and that a question may be worked on (database/waits.ts). */
  waits?: number;
  question?: number;
};

/** A server over a database: connections to read with, others to write with. Ends with `close`. */
export const openServer = (
  url: string,
  clock: Clock,
  {
    reading = 10,
    writing = 6,
    catalogue = preset,
    sectionsFrom,
    waits = MOST_WAITS,
    question = MOST_QUESTION,
  }: Opening = {},
): Server & { close: () => Promise<void> } => {
  const pool = serverPool(url, reading, waits);
  const acts = serverPool(url, writing, waits);
  const close = async () => {
    await Promise.all([pool.end(), acts.end()]);
  };
  const catalogues = new Catalogues(catalogue);
  const workers = { url, sectionsFrom, waits, question };
  return { pool, acts, clock, ids: new IdSource(), catalogues, workers, close };
};
