// The worker that reads a calendar file; see read-calendar.ts for the other end.
import { parentPort, workerData } from 'node:worker_threads';
import { READY } from '../once-apart';
import { type CalendarAsk, daysOfCalendar } from './calendar-days';

// from here on the time is the file's
parentPort?.postMessage(READY);
parentPort?.postMessage(daysOfCalendar(workerData as CalendarAsk));
