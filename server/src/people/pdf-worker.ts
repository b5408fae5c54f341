// The thread that sets a record as pages: long ones take seconds. See record-pages.ts for the other end.
import { parentPort, workerData } from 'node:worker_threads';
import { READY } from '../once-apart';
import { type PagesAsk, recordPdf } from './record-pdf';

parentPort?.postMessage(READY);
const { head, language, sections } = workerData as PagesAsk;
parentPort?.postMessage(await recordPdf(head, language, sections));
