import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { preset, presetNames } from '@gremium/contract';
import type { z } from 'zod';
import { codeOfConstraint, migrate, ownerPool, snake, versionColumns } from '@gremium/server';
import { type Running, copyDatabase, many, sql, startServer } from './harness';

let running: Running;
beforeAll(async () => {
  running = await startServer('empty');
});
afterAll(() => running.close());

describe('the database and the catalogue of sections', () => {
  test('every check, exclusion and named unique constraint is a problem code', async () => {
    const rows = await many<{ name: string }>(
      running.owner,
      sql`select conname as name from pg_constraint c join pg_namespace n on n.oid = c.connamespace
        where n.nspname = 'public' and contype in ('c', 'x', 'u')`,
    );
    expect(rows.length).toBeGreaterThan(40);
    expect(rows.filter(({ name }) => !codeOfConstraint(name))).toEqual([]);
  });

  test('ids are spread to others, never two to one, also where they pass 2^31 and 2^32', async () => {
    const [found] = await many<{ ids: number; spread: number; least: number }>(
      running.owner,
      sql`select count(*)::int as ids, count(distinct spread(id))::int as spread, min(spread(id)) as least
        from (values (0::bigint), (2147483648 - 20000), (4294967296 - 20000), (9007199254700000)) s (first),
          generate_series(first, first + 40000) id`,
    );
    expect(found).toEqual({ ids: 160_004, spread: 160_004, least: 0 });
  });

  test.each(presetNames)(
    '%s has exactly the columns of its section, nullable where its values are',
    async (section) => {
      const columns = await many<{ name: string; nullable: boolean }>(
        running.owner,
        sql`select column_name as name, is_nullable = 'YES' as nullable from information_schema.columns
        where table_name = ${`${section}_version`}`,
      );
      expect(columns.map(({ name }) => name).sort()).toEqual(
        [...versionColumns(preset.section(section)), 'superseded_by', 'salt'].sort(),
      );
      for (const [field, schema] of Object.entries(preset.section(section).fields.shape)) {
        const isNullable = (schema as z.ZodType).safeParse(null).success;
        expect([field, columns.find(({ name }) => name === snake(field))?.nullable]).toEqual([
          field,
          isNullable,
        ]);
      }
    },
  );

  test('the server may neither delete nor rewrite a version', async () => {
    for (const section of presetNames) {
      const table = `${section}_version`;
      await expect(running.pool.query(`delete from ${table}`)).rejects.toThrow(/permission denied/);
      await expect(running.pool.query(`update ${table} set valid_from = '2000-01-01'`)).rejects.toThrow(
        /permission denied/,
      );
      await expect(running.pool.query(`truncate ${table}`)).rejects.toThrow(/permission denied/);
    }
    await expect(running.pool.query('update entry set reason = null')).rejects.toThrow(/permission denied/);
  });

  test('migrating again does nothing, and a schema from the future or a changed migration is refused', async () => {
    const owner = ownerPool(await copyDatabase('empty'));
    expect(await migrate(owner)).toEqual([]);
    await owner.query(`update schema_migration set checksum = 'other' where name = '0001_time.sql'`);
    await expect(migrate(owner)).rejects.toThrow('was changed after it was applied');
    await owner.query(`insert into schema_migration (name, checksum) values ('0000_future.sql', 'x')`);
    await expect(migrate(owner)).rejects.toThrow('newer Gremium');
    await owner.end();
  });
});
