// The worker that keeps the register in memory and answers questions about it; see register-thread.ts for the other end.
import { parentPort, workerData } from 'node:worker_threads';
import type { Viewer } from '@gremium/contract';
import { NotLoaded, Sight, withoutHidden } from '@gremium/core';
import { serverPool, workPool } from '../database/pool';
import { Catalogues } from './catalogues';
import { LastKept } from './last-kept';
import type { Looking } from './lens';
import { type QuestionName, questions } from './questions';
import { type Known, RegisterMemory } from './register-memory';
import { sectionsIn, type WorkerData } from './sections-from';
import { type FromWorker, failed } from './thread-calls';

export type Asked = {
  id: number;
  name: QuestionName;
  viewer: Viewer;
  /** The entry that last defined a section, as whoever asks knows it. */
  defined: number;
  looking: Looking;
  ask: unknown;
  asItIs?: boolean;
  /** The answer is wanted as JSON text: it goes out as it is. */
  asText: boolean;
};

const { url, sectionsFrom, waits } = workerData as WorkerData;
const catalogues = new Catalogues(await sectionsIn(sectionsFrom));
const memory = new RegisterMemory(
  { asking: serverPool(url, 2, waits), loading: workPool(url, 3) },
  catalogues,
);

const tell = (told: FromWorker): void => parentPort?.postMessage(told);

// loaded at once; if that fails, the first question says why
void memory
  .known(null)
  .catch(() => undefined)
  .then(() => tell({ ready: true }));

// Answers as text kept: the same looked at again by the same rights, while nothing was recorded. The largest take some MB.
const kept = new LastKept<string>(12);

// Rights are those of now, whatever moment is looked at.
const answer = async (asked: Asked): Promise<unknown> => {
  const { name, viewer, defined, looking, ask, asItIs, asText } = asked;
  const atHand = asItIs ? memory.atHand() : undefined;
  const isEnough = atHand && atHand.facts.columns.catalogue.number >= defined;
  const now = isEnough ? atHand : await memory.known(null);
  const known = looking.by === null ? now : await memory.known(looking.by);
  const sight = new Sight(now.facts, viewer, looking.today);
  const found = () => questions[name]({ ...known, sight, looking }, ask as never);
  if (!asText) return withRare(asked.id, [now, known], found);
  const key = JSON.stringify([name, viewer.grants, viewer.personId, now.number, looking, ask]);
  return withRare(asked.id, [now, known], () =>
    kept.get(key, () => JSON.stringify(withoutHidden(found(), viewer))),
  );
};

// Sections that are asked for rarely are loaded when a question needs them, and it is asked again.
const withRare = async <T>(id: number, registers: readonly Known[], ask: () => T): Promise<T> => {
  for (;;) {
    try {
      tell({ begun: id });
      return ask();
    } catch (error) {
      if (!(error instanceof NotLoaded)) throw error;
      // loading takes its time, and is no work on the question
      tell({ paused: id });
      for (const register of new Set(registers)) await memory.loadRare(register, error.section);
    }
  }
};

parentPort?.on('message', (asked: Asked) => {
  answer(asked).then(
    (found) => tell({ id: asked.id, answer: found }),
    (error: unknown) => tell(failed(asked.id, error)),
  );
});
