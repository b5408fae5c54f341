// Work that may take long or much, done once in a thread of its own that ends with it: nobody else waits for it.
import { Worker } from 'node:worker_threads';
import { partFile } from './parts';

/** Loading the thread is no fault of what it works on: so many milliseconds for it. */
const MOST_LOADING = 60_000;

/** Bounds of the work once it has begun: milliseconds, and MB of memory. */
export type Bounds = { working: number; mb: number };

/** What a thread says when it is loaded, before what it found. */
export const READY = 'ready';

/** What the thread of a part found for what it was given; null where it took too long or too much. Its faults are thrown. */
export const onceApart = <T>(part: string, given: unknown, { working, mb }: Bounds): Promise<T | null> =>
  new Promise((resolve, reject) => {
    const worker = new Worker(partFile(part), {
      workerData: given,
      resourceLimits: { maxOldGenerationSizeMb: mb },
    });
    const end = (found: T | null) => {
      clearTimeout(timer);
      resolve(found);
      void worker.terminate();
    };
    let timer = setTimeout(() => end(null), MOST_LOADING);
    worker.on('message', (told: T | typeof READY) => {
      if (told !== READY) return end(told);
      clearTimeout(timer);
      timer = setTimeout(() => end(null), working);
    });
    worker.once('error', (error: NodeJS.ErrnoException) => {
      if (error.code !== 'ERR_WORKER_OUT_OF_MEMORY') reject(error);
      end(null);
    });
    worker.once('exit', () => end(null));
  });
