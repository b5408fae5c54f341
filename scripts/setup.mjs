// Installs what is missing: npm packages from the lock file, PostgreSQL and Chromium from Debian's packages.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = path.dirname(path.dirname(fileURLToPath(import.meta.url)));
export const isRoot = process.getuid?.() === 0;

export class Refusal extends Error {}

const run = (command, args, options = {}) => {
  const { status, error } = spawnSync(command, args, { cwd: root, stdio: 'inherit', ...options });
  if (error) throw new Refusal(`${command} could not be started: ${error.message}`);
  return status ?? 1;
};

export const ensureNode = () => {
  if (Number(process.versions.node.split('.')[0]) < 20)
    throw new Refusal(`Gremium needs Node.js 20 or newer; this is ${process.version}.`);
};

/** npm packages as the lock file says; done again only when it changed. */
export const ensurePackages = () => {
  const wanted = createHash('sha256')
    .update(readFileSync(path.join(root, 'package-lock.json')))
    .digest('hex');
  const stamp = path.join(root, 'node_modules', '.gremium-lock');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return;
  console.log('Installing npm packages from the lock file (a minute or two, once) …');
  if (run('npm', ['ci', '--no-audit', '--no-fund']) !== 0)
    throw new Refusal('npm ci failed. Its messages stand above; mend the cause and start again.');
  writeFileSync(stamp, wanted);
};

const onPath = (name) =>
  (process.env.PATH ?? '')
    .split(path.delimiter)
    .map((dir) => path.join(dir, name))
    .find(existsSync);

const install = (what, packages) => {
  const command = `apt-get install -y --no-install-recommends ${packages.join(' ')}`;
  if (!isRoot)
    throw new Refusal(
      `${what} is missing and may be installed by root only. Ask for this to be run, then start again:\n  sudo ${command}`,
    );
  console.log(`Installing ${what} from Debian's packages …`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  // PostgreSQL's own cluster is not wanted: Gremium makes a private one.
  writeNoCluster();
  const quiet = { env, stdio: ['ignore', 'ignore', 'inherit'] };
  if (run('sh', ['-c', command], quiet) !== 0) {
    run('apt-get', ['update', '-qq'], quiet);
    if (run('sh', ['-c', command], quiet) !== 0)
      throw new Refusal(`${what} could not be installed by: ${command}`);
  }
};

const writeNoCluster = () => {
  const dir = '/etc/postgresql-common';
  if (!existsSync(dir)) run('mkdir', ['-p', `${dir}/createcluster.d`]);
  if (existsSync(`${dir}/createcluster.d`))
    writeFileSync(`${dir}/createcluster.d/gremium.conf`, 'create_main_cluster = false\n');
};

/** The folder of PostgreSQL's programs (15 or newer). */
export const findPostgres = () => {
  const base = '/usr/lib/postgresql';
  const versions = existsSync(base)
    ? readdirSync(base)
        .map(Number)
        .filter((v) => v >= 15)
    : [];
  const found = versions
    .sort((a, b) => b - a)
    .map((v) => `${base}/${v}/bin`)
    .find((dir) => existsSync(`${dir}/initdb`));
  if (found) return found;
  const initdb = onPath('initdb');
  return initdb && path.dirname(initdb);
};

export const ensurePostgres = () => {
  if (!findPostgres()) install('PostgreSQL', ['postgresql', 'postgresql-contrib']);
  const bin = findPostgres();
  if (!bin) throw new Refusal('PostgreSQL 15 or newer was not found after installing it.');
  return bin;
};

export const ensureChromium = () => {
  const found = onPath('chromium') ?? onPath('chromium-browser');
  if (found) return found;
  install('Chromium', ['chromium']);
  return onPath('chromium');
};

/** Runs a script's main function; a refusal becomes one sentence and exit code 1. */
export const main = async (work) => {
  try {
    await work();
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    console.error(`\n${error.message}`);
    process.exitCode = 1;
  }
};
