// A worker's first file must be plain JavaScript: Node does not pass the loader of TypeScript on to it.
import { parentPort, workerData } from 'node:worker_threads';
import { register } from 'tsx/esm/api';

register();
const { daysOfCalendar } = await import('./calendar-days.ts');
// from here on the time is the file's
parentPort.postMessage('ready');
parentPort.postMessage(daysOfCalendar(workerData));
