// npm run backup [-- FILE]: the whole database by PostgreSQL's own pg_dump, in its custom format.
import { spawnSync } from 'node:child_process';
import { chmodSync, existsSync } from 'node:fs';
import path from 'node:path';
import { databaseUrl } from './database-url.mjs';
import { Refusal, ensurePostgres, main, root } from './setup.mjs';

await main(async () => {
  const bin = ensurePostgres();
  const { url, release } = await databaseUrl();
  const stamp = new Date().toISOString().slice(0, 19).replace(/[:T]/g, '-');
  const file = path.resolve(process.argv[2] ?? path.join(root, '.data', `gremium-${stamp}.backup`));
  process.umask(0o077); // it holds everything: for nobody else to read
  const { status } = spawnSync(path.join(bin, 'pg_dump'), ['--format=custom', `--file=${file}`, url], {
    stdio: 'inherit',
  });
  release();
  if (existsSync(file)) chmodSync(file, 0o600);
  if (status !== 0) throw new Refusal('The backup failed; the reason stands above.');
  console.log(`Kept in ${file}. To restore it: npm run restore -- ${file}`);
});
