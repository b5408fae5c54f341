import { Worker } from 'node:worker_threads';
import type { Viewer } from '@gremium/contract';
import { problem } from '@gremium/core';
import { Failure } from '../database/failure';
import type { Looking } from './lens';
import type { AnswerOf, AskOf, QuestionName } from './questions';
import type { Answered, Asked } from './register-worker';

/** An answer that was written as JSON where it was worked out. */
export class Written<T> {
  declare readonly of: T;
  constructor(readonly json: string) {}
}

type Pending = { resolve: (answer: unknown) => void; reject: (error: Error) => void };

export type By = {
  viewer: Viewer;
  looking: Looking;
  /** Answer by what is in memory, without looking for later entries. */
  asItIs?: boolean;
};

/** Nobody waits longer for an answer, in milliseconds. */
const MOST_WAITING = 9500;

/** The register in memory, asked from the server's own thread. The worker starts with the first question. */
export class RegisterThread {
  private worker: Worker | undefined;
  private readonly pending = new Map<number, Pending>();
  private last = 0;

  constructor(private readonly url: string) {}

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
    this.running();
  }

  async close(): Promise<void> {
    await this.worker?.terminate();
  }

  private send(asked: Omit<Asked, 'id'>): Promise<unknown> {
    const id = ++this.last;
    return new Promise((resolve, reject) => {
      // loading may take longer, and goes on; whoever asks is told
      const timer = setTimeout(() => {
        this.pending.delete(id);
        reject(new Failure([problem('database_away')]));
      }, MOST_WAITING);
      const settled =
        <V>(settle: (value: V) => void) =>
        (value: V) => {
          clearTimeout(timer);
          settle(value);
        };
      this.pending.set(id, { resolve: settled(resolve), reject: settled(reject) });
      this.running().postMessage({ ...asked, id } satisfies Asked);
    });
  }

  // A worker that died answers nobody: whoever waits is told, the next question starts another.
  private running(): Worker {
    if (this.worker) return this.worker;
    const worker = new Worker(new URL('./register-worker.mjs', import.meta.url), {
      workerData: { url: this.url },
    });
    worker.on('message', ({ id, answer, error, problems = [] }: Answered) => {
      const waiting = this.pending.get(id);
      this.pending.delete(id);
      if (error === undefined) waiting?.resolve(answer);
      else if (problems.length > 0) waiting?.reject(new Failure(problems));
      else waiting?.reject(new Error(error));
    });
    const gone = (reason: unknown) => {
      if (this.worker === worker) this.worker = undefined;
      for (const { reject } of this.pending.values())
        reject(new Error(`the register's worker ended: ${String(reason)}`));
      this.pending.clear();
    };
    worker.on('error', gone);
    worker.on('exit', gone);
    worker.unref();
    return (this.worker = worker);
  }
}
