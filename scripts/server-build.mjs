// Builds the server: what serves, its threads and processes, as one folder of plain JavaScript that loads in a
// fraction of the time its sources take. Source maps lie beside it; nothing serves that folder.
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { build } from 'esbuild';
import { root } from './setup.mjs';

const dist = path.join(root, 'server/dist');
const stampFile = path.join(dist, 'stamp');
const sources = [
  'contract',
  'core/src',
  'server/src',
  'server/package.json',
  'demo',
  'scripts',
  'package-lock.json',
];

const entries = {
  main: 'server/src/main.ts',
  server: 'server/src/index.ts',
  contract: 'contract/src/index.ts',
  core: 'core/src/index.ts',
  accounts: 'demo/accounts.ts',
  make: 'demo/make.ts',
  'register-worker': 'server/src/time/register-worker.ts',
  'undo-worker': 'server/src/time/undo-worker.ts',
  'import-worker': 'server/src/files/import-worker.ts',
  'take-out-worker': 'server/src/files/take-out-worker.ts',
  'parse-child': 'server/src/files/parse-child.ts',
  'pdf-worker': 'server/src/people/pdf-worker.ts',
  'calendar-worker': 'server/src/structure/calendar-worker.ts',
  'test-templates': 'scripts/test-templates.ts',
};

const contentsOf = (entry) => {
  const full = path.join(root, entry);
  if (!statSync(full).isDirectory()) return [`${entry} ${readFileSync(full, 'base64')}`];
  return readdirSync(full)
    .filter((name) => !['dist', 'node_modules'].includes(name) && !name.includes('.test.'))
    .sort()
    .flatMap((name) => contentsOf(path.join(entry, name)));
};

const stampNow = () => createHash('sha256').update(sources.flatMap(contentsOf).join('\n')).digest('hex');

/** Whether what is built is of the sources as they are. */
export const isBuilt = () => existsSync(stampFile) && readFileSync(stampFile, 'utf8') === stampNow();

// Packages stay where npm put them; our own are taken in.
const packagesOutside = {
  name: 'packages-outside',
  setup: ({ onResolve }) => {
    onResolve({ filter: /^[^./]/ }, ({ path: name, kind }) =>
      kind === 'entry-point' || name.startsWith('@gremium/') ? undefined : { path: name, external: true },
    );
  },
};

/** Builds the server if its sources changed since. */
export const buildServer = async () => {
  if (isBuilt()) return;
  console.log('Building the server …');
  const stamp = stampNow();
  rmSync(dist, { recursive: true, force: true });
  await build({
    absWorkingDir: root,
    entryPoints: entries,
    outdir: dist,
    bundle: true,
    splitting: true,
    format: 'esm',
    platform: 'node',
    target: 'node20',
    sourcemap: true,
    sourcesContent: false,
    keepNames: true,
    logLevel: 'warning',
    plugins: [packagesOutside],
  });
  mkdirSync(dist, { recursive: true });
  writeFileSync(stampFile, stamp);
};
