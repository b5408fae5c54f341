// Questions to a worker of this process, each with its answer. It starts with the first one; if it dies, whoever waits is
// told, and the next question starts another. A worker that still loads is no fault of anything: it is said to be starting.
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

/** What a worker says: that it can answer now, that it begins to work a question out or waits for more, or what came of it. */
export type FromWorker = { ready: true } | { begun: number } | { paused: number } | Answered;

type Pending = { asked: object; resolve: (answer: unknown) => void; reject: (error: Error) => void };

type Limits = {
  /**
   * How long a question may be worked on without a pause, in milliseconds. Beyond, its worker is ended and started anew, and what
   * else was asked of it is asked again: only for questions that change nothing.
   */
  working?: number;
};

export class ThreadCalls {
  private worker: Worker | undefined;
  private isReady = false;
  private readonly pending = new Map<number, Pending>();
  // what is worked on just now: whoever asked may have gone
  private readonly working = new Map<number, NodeJS.Timeout>();
  private readonly waitingToBeReady: (() => void)[] = [];
  private last = 0;
  private isClosed = false;

  /** `file` is the worker's first file, plain JavaScript; `data` what it is started with. */
  constructor(
    private readonly file: URL,
    private readonly data: object,
    private readonly limits: Limits = {},
  ) {}

  start(): void {
    this.running();
  }

  /** Whether it can answer now. */
  state(): 'starting' | 'ready' {
    return this.isReady ? 'ready' : 'starting';
  }

  /** Resolves once it can answer. */
  ready(): Promise<void> {
    this.running();
    return this.isReady ? Promise.resolve() : new Promise((resolve) => this.waitingToBeReady.push(resolve));
  }

  async close(): Promise<void> {
    this.isClosed = true;
    // whoever still waits is told to ask again: the server that comes next answers
    for (const id of [...this.pending.keys()]) this.settle(id)?.reject(new Failure([problem('starting')]));
    await this.worker?.terminate();
  }

  /** Asks; answers when the worker does. */
  send(asked: object): Promise<unknown> {
    if (this.isClosed) return Promise.reject(new Failure([problem('starting')]));
    const id = ++this.last;
    return new Promise((resolve, reject) => {
      this.pending.set(id, { asked, resolve, reject });
      this.running().postMessage({ ...asked, id });
    });
  }

  /**
   * An answer, waited for so many milliseconds from when the worker is ready; where it is not by then, `starting` is said, else
   * `register_busy`. The worker goes on all the same.
   */
  async inTime<V>(answer: Promise<V>, patience: number): Promise<V> {
    let timer: NodeJS.Timeout | undefined;
    const late = new Promise<never>((_, reject) => {
      const wait = (then: () => void) => (timer = setTimeout(then, patience));
      const give = () => reject(new Failure([problem(this.isReady ? 'register_busy' : 'starting')]));
      wait(give);
      if (this.isReady) return;
      this.waitingToBeReady.push(() => {
        clearTimeout(timer);
        if (timer) wait(give);
      });
    });
    try {
      return await Promise.race([answer, late]);
    } finally {
      clearTimeout(timer);
      timer = undefined;
    }
  }

  // It is no longer waited for.
  private settle(id: number): Pending | undefined {
    const one = this.pending.get(id);
    this.pending.delete(id);
    return one;
  }

  private begins(id: number): void {
    const { working } = this.limits;
    if (working === undefined) return;
    clearTimeout(this.working.get(id));
    this.working.set(
      id,
      setTimeout(() => this.endStuck(id), working),
    );
  }

  private pauses(id: number): void {
    clearTimeout(this.working.get(id));
    this.working.delete(id);
  }

  // A question that takes without end: its worker goes, and with it the question; the others are asked of the next one.
  private endStuck(id: number): void {
    const { worker } = this;
    this.settle(id)?.reject(new Failure([problem('question_too_long')]));
    this.leave();
    void worker?.terminate();
    if (this.isClosed) return;
    const next = this.running();
    for (const [other, { asked }] of this.pending) next.postMessage({ ...asked, id: other });
  }

  private leave(): void {
    this.worker = undefined;
    this.isReady = false;
    for (const timer of this.working.values()) clearTimeout(timer);
    this.working.clear();
  }

  private hears(told: FromWorker): void {
    if ('ready' in told) {
      this.isReady = true;
      for (const resolve of this.waitingToBeReady.splice(0)) resolve();
      return;
    }
    if ('begun' in told) return this.begins(told.begun);
    if ('paused' in told) return this.pauses(told.paused);
    const { id, answer, error, problems, status } = told;
    this.pauses(id);
    const one = this.settle(id);
    if (problems) one?.reject(new Failure(problems, status));
    else if (error === undefined) one?.resolve(answer);
    else one?.reject(new Error(error));
  }

  private running(): Worker {
    if (this.worker) return this.worker;
    const worker = new Worker(this.file, { workerData: this.data });
    worker.on('message', (told: FromWorker) => {
      if (this.worker === worker) this.hears(told);
    });
    const gone = (reason: unknown) => {
      if (this.worker !== worker) return;
      this.leave();
      for (const id of [...this.pending.keys()])
        this.settle(id)?.reject(new Error(`the worker ended: ${String(reason)}`));
    };
    worker.on('error', gone);
    worker.on('exit', gone);
    worker.unref();
    return (this.worker = worker);
  }
}

/** What a worker posts back of an error: a refusal with its problems, the database away, or what went wrong. */
export const failed = (id: number, error: unknown): Answered => {
  const refused = error instanceof Failure ? error : unavailable(error);
  return refused
    ? { id, problems: refused.problems, status: refused.status }
    : { id, error: (error as Error).stack ?? String(error) };
};
