import { randomUUID } from 'node:crypto';
import { Worker } from 'node:worker_threads';
import { problem } from '@gremium/core';
import { type Kept, seerOf, viewerOfAccount } from '../access/session.sql';
import { many, maybeOne } from '../database/sql';
import type { Server } from '../time/act';
import * as queries from './import.sql';
import { limits } from './limits';
import { sweepFolders } from './read-apart';
import type { Job, Told } from './work-on-import';

const MOST_ATTEMPTS = 3;
const LOOK_EVERY = 5000;
const BEAT_EVERY = 1000;

/**
 * Sees to it that the work on imports gets done: kept in PostgreSQL, claimed by one process at a time, worked on in a worker,
 * one after the other. While it works it beats; work whose process fell silent is taken over. What is cancelled is stopped.
 */
export class ImportDesk {
  private readonly name = randomUUID();
  private worker: Worker | undefined;
  private looking: NodeJS.Timeout | undefined;
  private running: Promise<void> | undefined;
  private again = false;
  private isClosed = false;

  constructor(
    private readonly server: Server,
    private readonly onError: (error: unknown) => void,
  ) {}

  /** Looks for work now and then: also for that of processes that are gone. */
  start(): void {
    sweepFolders();
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
          queries.claim(this.name, limits.silence),
        );
        if (!claimed) break;
        await this.workOn(claimed);
      }
    }
  }

  private async workOn({ id, work, account, attempts }: queries.Claimed): Promise<void> {
    const { pool, clock } = this.server;
    const kept = await maybeOne<Kept>(pool, viewerOfAccount(account));
    if (!kept || attempts > MOST_ATTEMPTS) {
      const trouble = kept ? problem('import_failed', { times: attempts - 1 }) : problem('right_missing');
      await many(pool, queries.keepTrouble(id, this.name, [trouble], true));
      return;
    }
    const { catalogue: _, ...viewer } = await seerOf(pool, this.server.catalogues, kept);
    const told = await this.send({ id, work, viewer, worker: this.name, now: clock.now() });
    if (told.kind === 'refused') await many(pool, queries.keepTrouble(id, this.name, told.problems));
    if (told.kind === 'failed') this.onError(new Error(told.error));
    // tried again, here or elsewhere, a few times
    if (told.kind === 'failed' || told.kind === 'stopped') await many(pool, queries.giveBack(id, this.name));
  }

  // Resolves when the worker is done with the job, or gone.
  private send(job: Job): Promise<Told> {
    const worker = this.started();
    const { pool } = this.server;
    let progress = { done: 0, total: 0 };
    return new Promise((resolve) => {
      const beat = async () => {
        if (await maybeOne(pool, queries.beat(job.id, this.name, progress))) return;
        // cancelled, or somebody else's: what was begun is rolled back. One that has just ended is nobody's, and is left alone
        if (await maybeOne(pool, queries.isElsewhere(job.id, this.name))) await worker.terminate();
      };
      const beating = setInterval(() => void beat().catch(this.onError), BEAT_EVERY);
      const end = (told: Told) => {
        clearInterval(beating);
        worker.off('message', hear).off('error', fail).off('exit', gone);
        resolve(told);
      };
      const hear = (told: Told) => {
        if (told.kind === 'progress') progress = { done: told.done, total: told.total };
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
    const worker = new Worker(new URL('./import-worker.mjs', import.meta.url), {
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
