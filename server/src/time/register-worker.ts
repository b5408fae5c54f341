// The worker that keeps the register in memory and answers questions about it; see register-thread.ts for the other end.
import { parentPort, workerData } from 'node:worker_threads';
import type { Viewer } from '@gremium/contract';
import { Sight } from '@gremium/core';
import { serverPool, workPool } from '../database/pool';
import { LastKept } from './last-kept';
import type { Looking } from './lens';
import { type QuestionName, questions } from './questions';
import { RegisterMemory } from './register-memory';
import { type Answered, failed } from './thread-calls';

export type Asked = {
  id: number;
  name: QuestionName;
  viewer: Viewer;
  looking: Looking;
  ask: unknown;
  asItIs?: boolean;
  /** The answer is wanted as JSON text: it goes out as it is. */
  asText: boolean;
};

const { url } = workerData as { url: string };
const memory = new RegisterMemory({ asking: serverPool(url, 2), loading: workPool(url, 3) });

// loaded at once; if that fails, the first question says why
memory.known(null).catch(() => undefined);

// Answers as text kept: the same looked at again by the same rights, while nothing was recorded. The largest take some MB.
const kept = new LastKept<string>(12);

// Rights are those of now, whatever moment is looked at.
const answer = async ({ name, viewer, looking, ask, asItIs, asText }: Asked): Promise<unknown> => {
  const now = (asItIs && memory.atHand()) || (await memory.known(null));
  const known = looking.by === null ? now : await memory.known(looking.by);
  const sight = new Sight(now.facts, viewer, looking.today);
  const found = () => questions[name]({ ...known, sight, looking }, ask as never);
  if (!asText) return found();
  const key = JSON.stringify([name, viewer.grants, viewer.personId, now.number, looking, ask]);
  return kept.get(key, () => JSON.stringify(found()));
};

parentPort?.on('message', (asked: Asked) => {
  answer(asked).then(
    (found) => parentPort?.postMessage({ id: asked.id, answer: found } satisfies Answered),
    (error: unknown) => parentPort?.postMessage(failed(asked.id, error)),
  );
});
