// The database that a script works on: DATABASE_URL, else the private cluster (started if it is not running).
import path from 'node:path';
import { startCluster } from './cluster.mjs';
import { root } from './setup.mjs';

export const databaseUrl = async () => {
  const given = process.env.DATABASE_URL;
  if (given) return { url: given, bin: '', release: () => undefined };
  const cluster = await startCluster(path.join(root, '.data', 'pg'));
  return {
    url: `${cluster.url}/postgres`,
    bin: cluster.bin,
    release: cluster.wasRunning ? () => undefined : cluster.stop,
  };
};
