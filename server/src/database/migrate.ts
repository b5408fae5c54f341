import { createHash } from 'node:crypto';
import { readFileSync, readdirSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { type Catalogue, preset } from '@gremium/contract';
import type { ClientBase, Pool } from 'pg';
import { inProject } from '../parts';
import { shapeTables } from './shape';
import { many, sql } from './sql';

const folder = fileURLToPath(inProject('db/migrations'));

type Migration = { name: string; text: string; checksum: string };

const migrations = (): Migration[] =>
  readdirSync(folder)
    .filter((file) => file.endsWith('.sql'))
    .sort()
    .map((name) => {
      const text = readFileSync(path.join(folder, name), 'utf8');
      return { name, text, checksum: createHash('sha256').update(text).digest('hex') };
    });

export class SchemaRefusal extends Error {}

/**
 * Brings the schema up to date, under one advisory lock, each migration in a transaction of its own. Refuses a schema
 * newer than this program, and a migration whose text changed after it was applied. Then tables of versions are brought to
 * what the catalogue declares, in one transaction.
 */
export const migrate = async (pool: Pool, catalogue: Catalogue = preset): Promise<string[]> => {
  const client = await pool.connect();
  try {
    await client.query('select pg_advisory_lock(4680)');
    await client.query(
      'create table if not exists schema_migration (name text primary key, checksum text not null, at timestamptz not null default now())',
    );
    const done = await many<{ name: string; checksum: string }>(
      client,
      sql`select name, checksum from schema_migration order by name`,
    );
    const all = migrations();
    for (const { name, checksum } of done) refuseStrange(all, name, checksum);
    const open = all.filter(({ name }) => !done.some((applied) => applied.name === name));
    for (const migration of open) await apply(client, migration);
    await client.query('begin');
    const shaped = await shapeTables(client, catalogue);
    await client.query('commit');
    return [...open.map(({ name }) => name), ...shaped];
  } catch (error) {
    await client.query('rollback').catch(() => undefined);
    throw error;
  } finally {
    await client.query('select pg_advisory_unlock(4680)').catch(() => undefined);
    client.release();
  }
};

const refuseStrange = (all: Migration[], name: string, checksum: string): void => {
  const known = all.find((migration) => migration.name === name);
  if (!known)
    throw new SchemaRefusal(
      `The database was upgraded by a newer Gremium (migration ${name}). Start that version, or restore an older backup.`,
    );
  if (known.checksum !== checksum)
    throw new SchemaRefusal(`Migration ${name} was changed after it was applied. Restore its text.`);
};

const apply = async (client: ClientBase, { name, text, checksum }: Migration) => {
  await client.query('begin');
  try {
    await client.query(text);
    await client.query('insert into schema_migration (name, checksum) values ($1, $2)', [name, checksum]);
    await client.query('commit');
  } catch (error) {
    await client.query('rollback');
    const missing = /extension "(\w+)" is not available/.exec(String(error));
    if (missing)
      throw new SchemaRefusal(
        `PostgreSQL lacks its extension ${missing[1]}. Install Debian's package postgresql-contrib, then start again.`,
      );
    throw error;
  }
};
