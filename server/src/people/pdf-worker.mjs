// A worker's first file must be plain JavaScript: Node does not pass the loader of TypeScript on to it.
import { register } from 'tsx/esm/api';

register();
await import('./pdf-worker.ts');
