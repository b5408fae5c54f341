// The scale set: the demo's organisation for 59,000 people at work over ten years, made once and kept in .data/bench.
import path from 'node:path';
import type { Day } from '@gremium/contract';
import { migrate, ownerPool } from '@gremium/server';
import { fillWithDemo } from '../demo/make';
import { startCluster } from '../scripts/cluster.mjs';

const ANCHOR = '2026-11-23' as Day;

/** Starts the cluster of the benchmarks and returns the address of a fresh copy of the scale set. */
export const scaleSet = async (people: number): Promise<{ url: string; stop: () => void }> => {
  const cluster = await startCluster(path.resolve('.data/bench'));
  const admin = ownerPool(`${cluster.url}/postgres`);
  const name = people === 59_000 ? 'scale' : `scale_${people}`;
  const { rowCount } = await admin.query('select from pg_database where datname = $1', [name]);
  if (rowCount === 0) {
    console.log(
      `Making the scale set for ${people} people at work (a quarter of an hour for 59,000, once) …`,
    );
    await admin.query('drop database if exists scale_making');
    await admin.query('create database scale_making');
    const making = ownerPool(`${cluster.url}/scale_making`);
    await migrate(making);
    await fillWithDemo(making, ANCHOR, people);
    await making.end();
    await admin.query(`alter database scale_making rename to "${name}"`);
  }
  // a kept set may be of an older schema
  const kept = ownerPool(`${cluster.url}/${name}`);
  await migrate(kept);
  await kept.query('vacuum analyze');
  await kept.end();
  await admin.query('drop database if exists scale_run');
  await admin.query(`create database scale_run template "${name}" strategy file_copy`);
  await admin.end();
  const url = `${cluster.url}/scale_run`;
  return { url, stop: () => cluster.stop() };
};
