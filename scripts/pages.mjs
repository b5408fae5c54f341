// Builds the pages if their sources changed since.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { Refusal, root } from './setup.mjs';

const sources = ['web', 'contract/src', 'core/src', 'package-lock.json'];

const stampOf = (entry) => {
  const full = path.join(root, entry);
  if (!statSync(full).isDirectory()) return [`${entry} ${statSync(full).mtimeMs} ${statSync(full).size}`];
  return readdirSync(full)
    .filter((name) => !['dist', 'node_modules'].includes(name))
    .sort()
    .flatMap((name) => stampOf(path.join(entry, name)));
};

export const buildPages = () => {
  const stamp = createHash('sha256').update(sources.flatMap(stampOf).join('\n')).digest('hex');
  const kept = path.join(root, '.data', 'pages-stamp');
  if (
    existsSync(kept) &&
    readFileSync(kept, 'utf8') === stamp &&
    existsSync(path.join(root, 'web/dist/index.html'))
  )
    return;
  console.log('Building the pages …');
  const built = spawnSync(
    process.execPath,
    ['node_modules/vite/bin/vite.js', 'build', 'web', '--logLevel', 'warn'],
    {
      cwd: root,
      stdio: 'inherit',
      // also where tests build them
      env: { ...process.env, NODE_ENV: 'production' },
    },
  );
  if (built.status !== 0) throw new Refusal('The pages could not be built; the reason stands above.');
  mkdirSync(path.dirname(kept), { recursive: true });
  writeFileSync(kept, stamp);
};
