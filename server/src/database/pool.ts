import pg from 'pg';
import { MOST_WAITS } from './waits';

const { builtins } = pg.types;

// int8 ids fit a double (one sequence, below 2^53); dates, moments and decimals stay text.
const parsers: Record<number, (text: string) => unknown> = {
  [builtins.INT8]: Number,
  [builtins.DATE]: String,
  [builtins.TIMESTAMPTZ]: String,
  [builtins.NUMERIC]: String,
};

const types = {
  getTypeParser: (id: number, format?: 'text' | 'binary') =>
    parsers[id] ?? (pg.types.getTypeParser as (id: number, format?: string) => unknown)(id, format),
} as pg.CustomTypesConfig;

/**
 * How long connections wait, in seconds: for a lock, for a statement, idle within a transaction (the database ends these),
 * and for any answer at all (ended here: a stopped backend ends nothing by itself). 0: as long as it takes.
 */
type Waits = { lock: number; statement: number; idle: number; answer: number; connection: number };

/** What somebody waits for: all of it ends within so many seconds. */
const asked = (most: number): Waits => ({
  ...{ lock: most * 0.4, statement: most * 0.8, idle: most * 2 },
  ...{ answer: most * 0.9, connection: most * 0.4 },
});
/** Work in the background: large, and nobody waits for it. */
const WORK: Waits = { lock: 8, statement: 0, idle: 900, answer: 0, connection: 10 };

const inMs = (seconds: number): string => `${Math.round(seconds * 1000)}ms`;

const optionsOf = ({ lock, statement, idle }: Waits): string =>
  [
    `-c lock_timeout=${inMs(lock)}`,
    `-c statement_timeout=${inMs(statement)}`,
    // compiling a statement over all sections takes seconds, and none runs so long
    '-c jit=off',
    `-c idle_in_transaction_session_timeout=${inMs(idle)}`,
  ].join(' ');

/** A connection that breaks while nobody uses it says so by an event; one that nobody hears would end the process. */
const heard = (pool: pg.Pool): pg.Pool =>
  pool.on('error', () => undefined).on('connect', (client) => client.on('error', () => undefined));

const serverRole = '-c role=gremium_server -c timezone=UTC -c datestyle=ISO';

const asServer = (url: string, max: number, waits: Waits): pg.Pool =>
  heard(
    new pg.Pool({
      connectionString: url,
      max,
      types,
      options: `${serverRole} ${optionsOf(waits)}`,
      connectionTimeoutMillis: waits.connection * 1000,
      ...(waits.answer > 0 ? { query_timeout: waits.answer * 1000 } : {}),
      keepAlive: true,
    }),
  );

/** Connections as the server's own role, which may neither delete nor rewrite a version; for what somebody waits for. */
export const serverPool = (url: string, max = 10, waits = MOST_WAITS): pg.Pool =>
  asServer(url, max, asked(waits));

/** The same for large work in the background. */
export const workPool = (url: string, max = 2): pg.Pool => asServer(url, max, WORK);

/** Connections as the owner: migrations, bulk loading, verification. */
export const ownerPool = (url: string, max = 2): pg.Pool =>
  heard(new pg.Pool({ connectionString: url, max, types, options: '-c timezone=UTC -c datestyle=ISO' }));
