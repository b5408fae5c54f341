// The first file of the process that reads files, as built: how it ends comes before what it does.
import './leave-with-parent.mjs';

await import('./reader');
