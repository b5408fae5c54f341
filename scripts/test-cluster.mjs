// Jest's global setup: one throw-away cluster for the run, with two databases for the tests to copy.
import { spawnSync } from 'node:child_process';
import { startThrowAway } from './cluster.mjs';
import { root } from './setup.mjs';
import build from './test-build.mjs';

export default async () => {
  await build();
  if (process.env.GREMIUM_TEST_CLUSTER) return;
  const cluster = await startThrowAway();
  process.on('exit', cluster.remove);
  for (const signal of ['SIGINT', 'SIGTERM']) process.once(signal, () => process.exit(1));
  const made = spawnSync(process.execPath, ['server/dist/test-templates.js', cluster.url], {
    cwd: root,
    stdio: 'inherit',
  });
  if (made.status !== 0) throw new Error('the databases for the tests could not be made');
  process.env.GREMIUM_TEST_CLUSTER = cluster.url;
};
