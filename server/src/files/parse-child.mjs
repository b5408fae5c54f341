// From source, a child's first file must be plain JavaScript: Node does not pass the loader of TypeScript on to it.
import './leave-with-parent.mjs';

const { register } = await import('tsx/esm/api');
register();
await import('./reader.ts');
