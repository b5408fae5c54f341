// npm run restore -- FILE: puts a backup back, into DATABASE_URL or the private database, replacing what is there.
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import path from 'node:path';
import { databaseUrl } from './database-url.mjs';
import { Refusal, ensurePostgres, main } from './setup.mjs';

await main(async () => {
  const file = process.argv[2];
  if (!file || !existsSync(file)) throw new Refusal('Name the backup: npm run restore -- FILE');
  const bin = ensurePostgres();
  const { url, release } = await databaseUrl();
  const run = (program, args) => spawnSync(path.join(bin, program), args, { stdio: 'inherit' }).status;
  const role =
    'do $$ begin create role gremium_server nologin; exception when duplicate_object then null; end $$';
  run('psql', [url, '-q', '-c', role]);
  const options = ['--clean', '--if-exists', '--single-transaction', '--no-owner', '--exit-on-error'];
  const status = run('pg_restore', [...options, `--dbname=${url}`, path.resolve(file)]);
  release();
  if (status !== 0) throw new Refusal('The restore failed and changed nothing; the reason stands above.');
  console.log('Restored. Check it with: npm run verify-journal');
});
