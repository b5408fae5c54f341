import pg from 'pg';

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

/** Connections as the server's own role, which may neither delete nor rewrite a version. */
export const serverPool = (url: string, max = 10): pg.Pool =>
  new pg.Pool({
    connectionString: url,
    max,
    types,
    options: '-c role=gremium_server -c timezone=UTC -c datestyle=ISO',
    connectionTimeoutMillis: 10_000,
  });

/** Connections as the owner: migrations, bulk loading, verification. */
export const ownerPool = (url: string, max = 2): pg.Pool =>
  new pg.Pool({ connectionString: url, max, types, options: '-c timezone=UTC -c datestyle=ISO' });
