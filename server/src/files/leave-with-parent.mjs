// Its parent is gone: nobody else tidies up after a reader. Plain JavaScript, and loaded before anything else is, as that takes its
// time.
import { rmSync } from 'node:fs';
import os from 'node:os';

const leave = () => {
  rmSync(os.tmpdir(), { recursive: true, force: true });
  process.exit(0);
};
process.on('disconnect', leave);
if (!process.connected) leave();
