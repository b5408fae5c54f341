// A worker's first file must be plain JavaScript: Node does not pass the loader of TypeScript on to it.
import { parentPort, workerData } from 'node:worker_threads';
import { register } from 'tsx/esm/api';

register();
const { daysOfCalendar } = await import('./calendar-days.ts');
parentPort.postMessage(daysOfCalendar(workerData));
