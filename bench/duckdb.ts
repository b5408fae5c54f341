// The column store that the register in memory is measured beside; installed by `npm run bench` alone (bench/duckdb).
import { createWriteStream, mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { Pool } from 'pg';
import { to as copyTo } from 'pg-copy-streams';
import { copyPlaced, crossByDuck } from './yardsticks.sql';

type Duck = {
  DuckDBInstance: {
    create: (path: string) => Promise<{ connect: () => Promise<Connection> }>;
  };
};
type Connection = { runAndReadAll: (sql: string) => Promise<{ getRows: () => unknown[][] }> };

/** The same rows in DuckDB, in memory; `cross` answers with turnover by "month country". */
export const duckDb = async (owner: Pool, from: string, until: string) => {
  const { DuckDBInstance } = (await import(
    `${import.meta.dirname}/duckdb/node_modules/@duckdb/node-api/lib/index.js`
  )) as Duck;
  const folder = mkdtempSync(path.join(os.tmpdir(), 'gremium-duckdb-'));
  const file = path.join(folder, 'placed.csv');
  const client = await owner.connect();
  await pipeline(client.query(copyTo(copyPlaced)), createWriteStream(file));
  client.release();
  const duck = await (await DuckDBInstance.create(':memory:')).connect();
  await duck.runAndReadAll(`create table placed as select * from read_csv('${file}', header = false,
    columns = {country: 'varchar', valid_from: 'date', valid_until: 'date', ends: 'date', continued: 'boolean'})`);
  rmSync(folder, { recursive: true });
  const query = crossByDuck(from, until);
  return {
    cross: async (): Promise<Map<string, number>> => {
      const rows = (await duck.runAndReadAll(query)).getRows();
      return new Map(rows.map(([month, country, turnover]) => [`${month} ${country}`, Number(turnover)]));
    },
  };
};
