// Questions to a worker of this process, each with its answer. It starts with the first one; if it dies, whoever waits is
// told, and the next question starts another.
import { Worker } from 'node:worker_threads';
import type { Problem } from '@gremium/contract';
import { problem } from '@gremium/core';
import { Failure, unavailable } from '../database/failure';

export type Answered = {
  id: number;
  answer?: unknown;
  error?: string;
  problems?: Problem[];
  status?: number;
};

type Pending = { resolve: (answer: unknown) => void; reject: (error: Error) => void };

export class ThreadCalls {
  private worker: Worker | undefined;
  private readonly pending = new Map<number, Pending>();
  private last = 0;

  /** `file` is the worker's first file, plain JavaScript; `data` what it is started with. */
  constructor(
    private readonly file: URL,
    private readonly data: object,
  ) {}

  start(): void {
    this.running();
  }

  async close(): Promise<void> {
    await this.worker?.terminate();
  }

  send(asked: object): Promise<unknown> {
    const id = ++this.last;
    return new Promise((resolve, reject) => {
      this.pending.set(id, { resolve, reject });
      this.running().postMessage({ ...asked, id });
    });
  }

  private running(): Worker {
    if (this.worker) return this.worker;
    const worker = new Worker(this.file, { workerData: this.data });
    worker.on('message', ({ id, answer, error, problems, status }: Answered) => {
      const waiting = this.pending.get(id);
      this.pending.delete(id);
      if (problems) waiting?.reject(new Failure(problems, status));
      else if (error === undefined) waiting?.resolve(answer);
      else waiting?.reject(new Error(error));
    });
    const gone = (reason: unknown) => {
      if (this.worker === worker) this.worker = undefined;
      for (const { reject } of this.pending.values())
        reject(new Error(`the worker ended: ${String(reason)}`));
      this.pending.clear();
    };
    worker.on('error', gone);
    worker.on('exit', gone);
    worker.unref();
    return (this.worker = worker);
  }
}

/** An answer, or after `most` milliseconds the word to try again, though the worker goes on. */
export const inTime = <V>(answer: Promise<V>, most: number): Promise<V> => {
  let timer: NodeJS.Timeout;
  const late = new Promise<never>((_, reject) => {
    timer = setTimeout(() => reject(new Failure([problem('database_away')])), most);
  });
  return Promise.race([answer, late]).finally(() => clearTimeout(timer));
};

/** What a worker posts back of an error: a refusal with its problems, the database away, or what went wrong. */
export const failed = (id: number, error: unknown): Answered => {
  const refused = error instanceof Failure ? error : unavailable(error);
  return refused
    ? { id, problems: refused.problems, status: refused.status }
    : { id, error: (error as Error).stack ?? String(error) };
};
