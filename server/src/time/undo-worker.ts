// The worker that works undo plans out and carries them out: some take seconds, and others are served meanwhile. See
// undo-thread.ts for the other end.
import { parentPort, workerData } from 'node:worker_threads';
import type { Moment, Viewer } from '@gremium/contract';
import { serverPool, workPool } from '../database/pool';
import { act } from './act';
import { Catalogues } from './catalogues';
import { IdSource } from './ids';
import { sectionsIn, type WorkerData } from './sections-from';
import { type FromWorker, failed } from './thread-calls';
import { decideUndo } from './undo';
import type { Undone } from './undo-thread';

export type AskedUndo = {
  id: number;
  viewer: Viewer;
  number: number;
  /** Numbers of the plan as it was shown; null: it is to be worked out only. */
  shown: number[] | null;
  reason?: string | undefined;
  idempotency?: { key: string; request: unknown } | undefined;
  now: Moment;
};

const { url, sectionsFrom, waits } = workerData as WorkerData;
const place = {
  pool: serverPool(url, 2, waits),
  acts: workPool(url, 2),
  ids: new IdSource(),
  catalogues: new Catalogues(await sectionsIn(sectionsFrom)),
};

// Rows that an undo records again need ids of their own.
const UNDO_IDS = 20_000;

const undo = async ({ viewer, number, shown, now, ...asked }: AskedUndo): Promise<Undone> => {
  const { entry, problems, touched, result } = await act({ ...place, clock: { now: () => now } }, viewer, {
    kind: 'undo',
    needs: 'undo',
    reason: asked.reason,
    preview: shown === null,
    locks: [],
    newIds: UNDO_IDS,
    idempotency: asked.idempotency,
    decide: (deciding) => {
      // what depends on it is looked for everywhere
      deciding.rests();
      return decideUndo(deciding, number, shown);
    },
  });
  return {
    entry,
    problems,
    touched,
    numbers: shown === null ? result.entries.map((one) => one.number) : shown,
  };
};

const tell = (told: FromWorker): void => parentPort?.postMessage(told);

parentPort?.on('message', (asked: AskedUndo) => {
  undo(asked).then(
    (answer) => tell({ id: asked.id, answer }),
    (error: unknown) => tell(failed(asked.id, error)),
  );
});

tell({ ready: true });
