// A child's first file must be plain JavaScript: Node does not pass the loader of TypeScript on to it.
import { rmSync } from 'node:fs';
import os from 'node:os';

// Its parent is gone: nobody else tidies up. Said before anything else is loaded, as that takes its time.
const leave = () => {
  rmSync(os.tmpdir(), { recursive: true, force: true });
  process.exit(0);
};
process.on('disconnect', leave);
if (!process.connected) leave();

const { register } = await import('tsx/esm/api');
register();
await import('./parse-child.ts');
