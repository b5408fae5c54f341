// The order of the test files: those that took longest come first (scripts/test-seconds.json, as a run here last measured them),
// an unknown one before all, so that none of them is begun last and waited for alone.
import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import sequencer from '@jest/test-sequencer';
import { root } from './setup.mjs';

export const secondsFile = path.join(root, 'scripts/test-seconds.json');

const known = existsSync(secondsFile) ? JSON.parse(readFileSync(secondsFile, 'utf8')) : {};
const secondsOf = (test) => known[path.relative(root, test.path)] ?? Infinity;

export default class extends sequencer {
  sort(tests) {
    return [...tests].sort((a, b) => secondsOf(b) - secondsOf(a) || (a.path < b.path ? -1 : 1));
  }
}
