// What the environment of the tests and their module map agree on: the build's server is loaded once by each process that runs
// tests, outside of the sandbox of a test file, and shown inside of it by modules that name what it exports.
import { mkdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { pathToFileURL } from 'node:url';
import { root } from './setup.mjs';

export const parts = ['contract', 'core', 'server', 'make', 'accounts'];
export const KEPT = 'GREMIUM_BUILT';

/** The parts of the build, as modules by name. */
export const builtParts = async () => {
  const entries = parts.map(async (name) => [
    name,
    await import(pathToFileURL(path.join(root, 'server/dist', `${name}.js`)).href),
  ]);
  return Object.fromEntries(await Promise.all(entries));
};

export const folder = path.join(root, 'server/dist/in-tests');

/** Writes the modules that a test file sees in place of the parts. */
export const writeShown = async () => {
  mkdirSync(folder, { recursive: true });
  for (const [name, part] of Object.entries(await builtParts())) {
    const named = Object.keys(part).filter((key) => key !== 'default');
    writeFileSync(
      path.join(folder, `${name}.mjs`),
      `export const { ${named.join(', ')} } = globalThis.${KEPT}.${name};\n`,
    );
  }
};
