// npm test: installs what is missing, then lint, types, unit, server and browser tests; ends with the count of tests.
import { spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
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

await main(async () => {
  ensureNode();
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
  jest.push('--maxWorkers=2');
  // a time zone far from UTC: nothing may depend on the machine's
  const env = { NODE_OPTIONS: '--experimental-vm-modules --no-warnings', TZ: 'Pacific/Kiritimati' };
  const { status } = spawnSync(process.execPath, jest, {
    cwd: root,
    stdio: ['ignore', 'ignore', 'inherit'],
    env: { ...process.env, ...env },
  });
  const { numPassedTests, numFailedTests, numPendingTests, numRuntimeErrorTestSuites } = JSON.parse(
    readFileSync(results, 'utf8'),
  );
  const broken = numRuntimeErrorTestSuites > 0 ? `, ${numRuntimeErrorTestSuites} files could not run` : '';
  console.log(`\n${numPassedTests} passed, ${numFailedTests} failed, ${numPendingTests} skipped${broken}`);
  if (status !== 0) process.exitCode = 1;
});
