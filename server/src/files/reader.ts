// The process that reads strangers' files, and does nothing else: whatever a file does to it, the server goes on. It knows no
// database. Rows go over in batches, the next one when the last was taken; it ends with its parent. See read-apart.ts.
import { readFileSync } from 'node:fs';
import type { Problem } from '@gremium/contract';
import { Failure } from '../database/failure';
import { type FileHead, type RawRow, type ReadAsk, readFile } from './read-file';

export type FromChild =
  | ({ kind: 'head' } & FileHead)
  | { kind: 'rows'; rows: RawRow[] }
  | { kind: 'end'; comments: number }
  | { kind: 'refused'; problems: Problem[] }
  | { kind: 'failed'; error: string };

const MOST_ROWS = 1000;
const MOST_LETTERS = 500_000;

const taken = () => new Promise<void>((resolve) => process.once('message', () => resolve()));
// with its parent gone there is nobody to tell (leave-with-parent.mjs ends it)
const tell = (message: FromChild) => {
  if (process.connected) process.send?.(message);
};

/** What the child is sent: where the file is, and what of it is read. */
export type ToChild = { path: string; asked: ReadAsk };

const work = async ({ path, asked }: ToChild): Promise<void> => {
  const { rows, comments, ...head } = await readFile(readFileSync(path), asked);
  tell({ kind: 'head', ...head });
  let batch: RawRow[] = [];
  let letters = 0;
  const send = async () => {
    const acknowledged = taken();
    tell({ kind: 'rows', rows: batch });
    batch = [];
    letters = 0;
    await acknowledged;
  };
  for await (const row of rows) {
    batch.push(row);
    for (const cell of row.cells) letters += cell.length;
    if (batch.length >= MOST_ROWS || letters >= MOST_LETTERS) await send();
  }
  if (batch.length > 0) await send();
  tell({ kind: 'end', comments: comments() });
};

process.once('message', (sent: ToChild) => {
  work(sent).catch((error: unknown) => {
    if (error instanceof Failure) tell({ kind: 'refused', problems: error.problems });
    else tell({ kind: 'failed', error: (error as Error).stack ?? String(error) });
  });
});
