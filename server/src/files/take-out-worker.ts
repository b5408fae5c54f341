// The worker that writes what is taken out; see work-desk.ts for the other end. Rows come from there, packed; the file goes to the
// database piece by piece. It may be stopped at any moment: what it began is begun anew.
import { once } from 'node:events';
import { PassThrough, Writable } from 'node:stream';
import { parentPort, workerData } from 'node:worker_threads';
import JSZip from 'jszip';
import type { Pool } from 'pg';
import { workPool } from '../database/pool';
import { Failure, fail } from '../database/failure';
import { many, maybeOne, one } from '../database/sql';
import type { Taken } from '../reports/take-out.questions';
import type { WorkerData } from '../time/sections-from';
import { layoutSheet, viewSheet } from './taken-sheet';
import * as queries from './take-outs.sql';
import type { Answer, Job, Told } from './work-desk';
import { writeCsvOut, writeXlsxOut } from './write-out';

/** Rows of one part, with the headings of its layout (none: those of the view), by whom, and as recorded when. */
export type PartOut = { taken: Taken; heads: string[] | null; by: string; moment: string };

const { url } = workerData as WorkerData;
const pool = workPool(url, 2);
const tell = (told: Told) => parentPort?.postMessage(told);

const asked = async (part: number): Promise<PartOut> => {
  const answered = once(parentPort as NonNullable<typeof parentPort>, 'message');
  tell({ kind: 'ask', asked: part });
  const [answer] = (await answered) as [Answer];
  if ('problems' in answer) throw new Failure(answer.problems);
  if ('error' in answer) throw new Error(answer.error);
  return answer.answer as PartOut;
};

const PIECE = 1_000_000;

// Takes bytes and keeps them as pieces of a file; `bytes` counts them.
class Keeping extends Writable {
  bytes = 0;
  private place = 0;
  private waiting: Buffer[] = [];
  private size = 0;

  constructor(
    private readonly db: Pool,
    private readonly id: number,
  ) {
    super({ highWaterMark: PIECE });
  }

  override _write(chunk: Buffer, _: string, done: (error?: Error) => void): void {
    this.waiting.push(chunk);
    this.size += chunk.length;
    this.bytes += chunk.length;
    if (this.size < PIECE) return done();
    this.keep().then(() => done(), done);
  }

  override _final(done: (error?: Error) => void): void {
    this.keep().then(() => done(), done);
  }

  private async keep(): Promise<void> {
    const content = Buffer.concat(this.waiting);
    [this.waiting, this.size] = [[], 0];
    if (content.length > 0) await many(this.db, queries.addContent(this.id, this.place++, content));
  }
}

const finished = async (out: Writable): Promise<void> => {
  if (out.writableFinished) return;
  const ended = once(out, 'finish');
  out.end();
  await ended;
};

const SAFE = /[\\/:*?"<>|]+/g;

const work = async ({ id, worker }: Job): Promise<void> => {
  const kept = await one<queries.Kept>(pool, queries.takeOutById(id));
  const { parts, format, language } = kept.asked;
  await many(pool, queries.dropContent(id));
  const out = new Keeping(pool, id);
  const zip = parts.length > 1 ? new JSZip() : null;
  const counts: number[] = [];
  const sections = new Set<string>();
  let before = 0;
  for (const [i, part] of parts.entries()) {
    const { taken, heads, by, moment } = await asked(i);
    for (const section of taken.sections) sections.add(section);
    counts.push(taken.count);
    const total = before + taken.count;
    const sheet = heads
      ? layoutSheet(part.title || kept.title, heads, taken)
      : viewSheet(taken, { title: part.title || kept.title, view: part.view, language, by, moment });
    const onRow = (done: number) => tell({ kind: 'progress', done: Math.min(before + done, total), total });
    const write = format === 'csv' ? writeCsvOut : writeXlsxOut;
    if (zip) {
      const inner = new PassThrough();
      const chunks: Buffer[] = [];
      inner.on('data', (chunk: Buffer) => chunks.push(chunk));
      await write(inner, sheet, onRow);
      await finished(inner);
      const name = (part.title || String(i + 1)).replace(SAFE, ' ');
      zip.file(`${name}.${format}`, Buffer.concat(chunks));
    } else await write(out, sheet, onRow);
    before = total;
  }
  if (zip)
    if (!out.write(await zip.generateAsync({ type: 'nodebuffer', compression: 'DEFLATE' })))
      await once(out, 'drain');
  await finished(out);
  const ready = { counts, sections: [...sections], bytes: out.bytes };
  // somebody else has it now, or it was cancelled: what was written is dropped with it
  if (!(await maybeOne(pool, queries.keepReady(id, worker, ready)))) fail('import_busy');
};

let isWorking = false;
parentPort?.on('message', (job: Job | Answer) => {
  if (isWorking || !('worker' in job)) return;
  isWorking = true;
  void work(job)
    .then(
      () => tell({ kind: 'done' }),
      (error: unknown) =>
        tell(
          error instanceof Failure
            ? { kind: 'refused', problems: [...error.problems] }
            : { kind: 'failed', error: (error as Error).stack ?? String(error) },
        ),
    )
    .finally(() => (isWorking = false));
});
