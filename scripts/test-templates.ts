// Two databases for the tests of a run to copy: an empty one, and the demo at the pinned date.
import type { Day } from '@gremium/contract';
import { migrate, ownerPool } from '@gremium/server';
import { fillWithDemo } from '../demo/make';

const cluster = process.argv[2] as string;
const admin = ownerPool(`${cluster}/postgres`);
for (const name of ['gremium_empty', 'gremium_demo']) {
  await admin.query(`create database ${name}`);
  const pool = ownerPool(`${cluster}/${name}`);
  await migrate(pool);
  if (name === 'gremium_demo') await fillWithDemo(pool, '2026-11-23' as Day);
  await pool.end();
}
await admin.end();
