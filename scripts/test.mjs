// npm test: installs what is missing, then lint, types, unit, server and browser tests; ends with the count of tests.
import { spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { claimFolder } from './running.mjs';
import { Refusal, ensureChromium, ensureNode, ensurePackages, ensurePostgres, main, root } from './setup.mjs';

const step = (what, command, args, env = {}) => {
  console.log(`\n${what}`);
  const { status } = spawnSync(command, args, {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, ...env },
  });
  if (status !== 0) throw new Refusal(`${what} failed; the reasons stand above.`);
};

// What each file took, by the clock: the dearest are told; `--keep-seconds` notes them all for the order of the next runs.
const tellDearest = (files) => {
  const seconds = Object.fromEntries(
    files
      .map(({ name, startTime, endTime }) => [
        path.relative(root, name),
        Math.round((endTime - startTime) / 1000),
      ])
      .sort(([, a], [, b]) => b - a),
  );
  const all = Object.values(seconds).reduce((sum, one) => sum + one, 0);
  console.log(`\n${files.length} files, ${all} s in all; the dearest:`);
  for (const [name, took] of Object.entries(seconds).slice(0, 10))
    console.log(`  ${String(took).padStart(4)} s  ${name}`);
  if (process.argv.includes('--keep-seconds'))
    writeFileSync(path.join(root, 'scripts/test-seconds.json'), `${JSON.stringify(seconds, null, 2)}\n`);
};

await main(async () => {
  ensureNode();
  claimFolder(path.join(root, '.test'), {
    script: 'test.mjs',
    said: ({ pid }) =>
      `npm test runs in this folder already (process ${pid}). Wait for it, or stop it first: kill ${pid}`,
  });
  ensurePackages();
  ensurePostgres();
  process.env.CHROMIUM = ensureChromium();
  const bin = (name) => path.join(root, 'node_modules/.bin', name);
  if (!process.argv.includes('--tests-only')) {
    step('Lint', bin('eslint'), ['.']);
    step('Format', bin('prettier'), ['--check', '--log-level', 'warn', '.']);
    step('Types', bin('tsc'), ['--noEmit']);
  }
  const { buildPages } = await import('./pages.mjs');
  buildPages();
  const results = path.join(root, '.test', 'results.json');
  rmSync(results, { force: true });
  mkdirSync(path.dirname(results), { recursive: true });
  const jest = ['node_modules/jest/bin/jest.js', '--json', `--outputFile=${results}`, '--forceExit'];
  // tests wait for the database more than they compute: two at a time also where there are only two cores
  jest.push(`--maxWorkers=${process.env.GREMIUM_WORKERS ?? 2}`);
  // a time zone far from UTC: nothing may depend on the machine's
  const env = { NODE_OPTIONS: '--experimental-vm-modules --no-warnings', TZ: 'Pacific/Kiritimati' };
  const { status } = spawnSync(process.execPath, jest, {
    cwd: root,
    stdio: ['ignore', 'ignore', 'inherit'],
    env: { ...process.env, ...env },
  });
  const run = JSON.parse(readFileSync(results, 'utf8'));
  tellDearest(run.testResults);
  const { numPassedTests, numFailedTests, numPendingTests, numRuntimeErrorTestSuites } = run;
  const broken = numRuntimeErrorTestSuites > 0 ? `, ${numRuntimeErrorTestSuites} files could not run` : '';
  console.log(`\n${numPassedTests} passed, ${numFailedTests} failed, ${numPendingTests} skipped${broken}`);
  if (status !== 0) process.exitCode = 1;
});
