// The worker that reads, checks and writes imports; see work-desk.ts for the other end. It may be stopped at any moment:
// what it began is then undone by the database.
import { parentPort, workerData } from 'node:worker_threads';
import { workPool } from '../database/pool';
import { Failure } from '../database/failure';
import { Catalogues } from '../time/catalogues';
import { IdSource } from '../time/ids';
import { type WorkerData, sectionsIn } from '../time/sections-from';
import { PlanInHand } from './plan-in-hand';
import type { Moment } from '@gremium/contract';
import type { Job, Told } from './work-desk';
import { workOn } from './work-on-import';

const { url, sectionsFrom } = workerData as WorkerData;
const pool = workPool(url, 3);
const ids = new IdSource();
const catalogues = new Catalogues(await sectionsIn(sectionsFrom));
const hand = new PlanInHand();

parentPort?.on('message', (job: Job) => {
  const tell = (told: Told) => parentPort?.postMessage(told);
  const onProgress = (done: number, total: number) => tell({ kind: 'progress', done, total });
  workOn(
    { pool, acts: pool, ids, catalogues, hand, clock: { now: () => job.now as Moment } },
    job,
    onProgress,
  ).then(
    () => tell({ kind: 'done' }),
    (error: unknown) =>
      tell(
        error instanceof Failure
          ? { kind: 'refused', problems: error.problems }
          : { kind: 'failed', error: (error as Error).stack ?? String(error) },
      ),
  );
});
