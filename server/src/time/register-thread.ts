import type { Seer } from './catalogues';
import type { Looking } from './lens';
import type { AnswerOf, AskOf, QuestionName } from './questions';
import type { Asked } from './register-worker';
import type { WorkerData } from './sections-from';
import { inTime, ThreadCalls } from './thread-calls';

/** An answer that was written as JSON where it was worked out. */
export class Written<T> {
  declare readonly of: T;
  constructor(readonly json: string) {}
}

export type By = {
  viewer: Seer;
  looking: Looking;
  /** Answer by what is in memory, without looking for later entries. */
  asItIs?: boolean;
  /** How long is waited for the answer, in milliseconds, where nobody sits before it. */
  patience?: number;
};

/** Nobody waits longer for an answer, in milliseconds: loading may take longer, and goes on. */
const MOST_WAITING = 9500;

/** The register in memory, asked from the server's own thread. The worker starts with the first question. */
export class RegisterThread {
  private readonly calls: ThreadCalls;

  constructor(data: WorkerData) {
    this.calls = new ThreadCalls(new URL('./register-worker.mjs', import.meta.url), data);
  }

  /** An answer as a value. What is asked and answered is copied between the threads. */
  ask<Q extends QuestionName>(name: Q, by: By, ask: AskOf<Q>): Promise<AnswerOf<Q>> {
    return this.send({ name, ...by, ask, asText: false }) as Promise<AnswerOf<Q>>;
  }

  /** An answer as JSON text, to be sent as it is: large ones need not be copied and written again. */
  async write<Q extends QuestionName>(name: Q, by: By, ask: AskOf<Q>): Promise<Written<AnswerOf<Q>>> {
    return new Written((await this.send({ name, ...by, ask, asText: true })) as string);
  }

  /** Starts the worker, which begins to load, before anybody asks. */
  start(): void {
    this.calls.start();
  }

  close(): Promise<void> {
    return this.calls.close();
  }

  // the catalogue itself stays here: the worker has its own, and is told as of which entry
  private send({
    viewer,
    patience = MOST_WAITING,
    ...asked
  }: Omit<Asked, 'id' | 'viewer' | 'defined'> & By): Promise<unknown> {
    const { catalogue, ...plain } = viewer;
    return inTime(this.calls.send({ ...asked, viewer: plain, defined: catalogue.number }), patience);
  }
}
