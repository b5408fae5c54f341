// Work in the background: kept in PostgreSQL, claimed by one process at a time, done in a worker, one piece after the other.
import { randomUUID } from 'node:crypto';
import { Worker } from 'node:worker_threads';
import type { Problem, Viewer } from '@gremium/contract';
import { problem } from '@gremium/core';
import { type Kept, seerOf, viewerOfAccount } from '../access/session.sql';
import { Failure } from '../database/failure';
import { type Sql, many, maybeOne } from '../database/sql';
import type { Server } from '../time/act';
import type { Seer } from '../time/catalogues';
import { limits } from './limits';
import * as queries from './work.sql';

const MOST_ATTEMPTS = 3;
const LOOK_EVERY = 5000;
const BEAT_EVERY = 1000;

/** A piece of work as its worker gets it. */
export type Job = {
  id: number;
  work: string;
  viewer: Viewer;
  /** Which process does it: what it keeps counts only while it is still its own. */
  worker: string;
  now: string;
};

/** What a worker says of its work; `ask` is answered by whoever sits at the desk. */
export type Told =
  | { kind: 'progress'; done: number; total: number }
  | { kind: 'ask'; asked: unknown }
  | { kind: 'done' }
  | { kind: 'stopped' }
  | { kind: 'refused'; problems: Problem[] }
  | { kind: 'failed'; error: string };

/** What the desk sends back. */
export type Answer = { answer: unknown } | { problems: Problem[] } | { error: string };

/** A kind of work. */
export type WorkKind = {
  table: queries.WorkTable;
  /** The worker's first file, plain JavaScript. */
  file: URL;
  /** What stopped a piece of work is kept; given up, it is not tried again by itself. What was asked anew meanwhile is. */
  keepTrouble: (claimed: queries.Claimed, worker: string, problems: Problem[], isGivenUp?: boolean) => Sql;
  /** Answers what the worker asks of the server. */
  answer?: (asked: unknown, id: number, viewer: Seer) => Promise<unknown>;
};

/**
 * Sees to it that the work of a kind gets done. While it works it beats; work whose process fell silent is taken over. What is
 * cancelled is stopped.
 */
export class WorkDesk {
  private readonly name = randomUUID();
  private worker: Worker | undefined;
  private looking: NodeJS.Timeout | undefined;
  private running: Promise<void> | undefined;
  private again = false;
  private isClosed = false;

  constructor(
    private readonly server: Server,
    private readonly kind: WorkKind,
    private readonly onError: (error: unknown) => void,
  ) {}

  /** Looks for work now and then: also for that of processes that are gone. */
  start(): void {
    this.looking = setInterval(() => this.poke(), LOOK_EVERY);
    this.looking.unref();
    this.poke();
  }

  /** There may be work. */
  poke(): void {
    this.again = true;
    if (this.isClosed) return;
    this.running ??= this.run()
      .catch(this.onError)
      .finally(() => (this.running = undefined));
  }

  async close(): Promise<void> {
    this.isClosed = true;
    clearInterval(this.looking);
    await this.worker?.terminate();
    await this.running;
  }

  private async run(): Promise<void> {
    while (this.again && !this.isClosed) {
      this.again = false;
      for (;;) {
        if (this.isClosed) return;
        const claimed = await maybeOne<queries.Claimed>(
          this.server.pool,
          queries.claim(this.kind.table, this.name, limits.silence),
        );
        if (!claimed) break;
        await this.workOn(claimed);
      }
    }
  }

  private async workOn(claimed: queries.Claimed): Promise<void> {
    const { id, work, account, attempts } = claimed;
    const { pool, clock } = this.server;
    const { table, keepTrouble } = this.kind;
    const kept = await maybeOne<Kept>(pool, viewerOfAccount(account));
    if (!kept || attempts > MOST_ATTEMPTS) {
      const trouble = kept ? problem('import_failed', { times: attempts - 1 }) : problem('right_missing');
      await many(pool, keepTrouble(claimed, this.name, [trouble], true));
      return;
    }
    const known = await seerOf(pool, this.server.catalogues, kept, clock);
    const seer = (await this.server.lines?.know(known, kept.entry)) ?? known;
    const { catalogue: _, ...viewer } = seer;
    const told = await this.send({ id, work, viewer, worker: this.name, now: clock.now() }, seer);
    if (told.kind === 'refused') await many(pool, keepTrouble(claimed, this.name, told.problems));
    if (told.kind === 'failed') this.onError(new Error(told.error));
    // tried again, here or elsewhere, a few times
    if (told.kind === 'failed' || told.kind === 'stopped')
      await many(pool, queries.giveBack(table, id, this.name));
  }

  private async answered(asked: unknown, id: number, viewer: Seer): Promise<Answer> {
    try {
      return { answer: await this.kind.answer?.(asked, id, viewer) };
    } catch (error) {
      if (error instanceof Failure) return { problems: [...error.problems] };
      return { error: String((error as Error).stack ?? error) };
    }
  }

  // Resolves when the worker is done with the job, or gone.
  private send(job: Job, viewer: Seer): Promise<Told> {
    const worker = this.started();
    const { pool } = this.server;
    const { table } = this.kind;
    let progress = { done: 0, total: 0 };
    return new Promise((resolve) => {
      const beat = async () => {
        if (await maybeOne(pool, queries.beat(table, job.id, this.name, progress))) return;
        // cancelled, or somebody else's: what was begun is rolled back. One that has just ended is nobody's, and is left alone
        if (await maybeOne(pool, queries.isElsewhere(table, job.id, this.name))) await worker.terminate();
      };
      const beating = setInterval(() => void beat().catch(this.onError), BEAT_EVERY);
      const end = (told: Told) => {
        clearInterval(beating);
        worker.off('message', hear).off('error', fail).off('exit', gone);
        resolve(told);
      };
      const hear = (told: Told) => {
        if (told.kind === 'progress') progress = { done: told.done, total: told.total };
        else if (told.kind === 'ask')
          void this.answered(told.asked, job.id, viewer).then((answer) => worker.postMessage(answer));
        else end(told);
      };
      const fail = (error: Error & { code?: string }) => {
        // it would be the same the next time
        const isFull = error.code === 'ERR_WORKER_OUT_OF_MEMORY';
        if (isFull) end({ kind: 'refused', problems: [problem('import_memory', { mb: limits.memory })] });
        else end({ kind: 'failed', error: String(error.stack ?? error) });
      };
      const gone = () => end({ kind: 'stopped' });
      worker.on('message', hear).on('error', fail).on('exit', gone);
      worker.postMessage(job);
    });
  }

  private started(): Worker {
    if (this.worker) return this.worker;
    const worker = new Worker(this.kind.file, {
      workerData: this.server.workers,
      // said, as tests give settings to a copy of it
      env: process.env,
      resourceLimits: { maxOldGenerationSizeMb: limits.memory },
    });
    const forget = () => {
      if (this.worker === worker) this.worker = undefined;
    };
    worker.on('exit', forget);
    worker.on('error', forget);
    worker.unref();
    return (this.worker = worker);
  }
}
