// Files are read in a process of their own, which only reads: a file can end it, but not the server. It has a folder of its
// own for what it unpacks; both go away with it.
import { type ChildProcess, fork } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, readFileSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { problem } from '@gremium/core';
import { Failure, fail } from '../database/failure';
import { partFile } from '../parts';
import { limits } from './limits';
import type { FromChild, ToChild } from './reader';
import type { FileHead, RawRow, ReadAsk } from './read-file';

const LOOK_EVERY = 100;
const PREFIX = 'gremium-import-';

/** A new folder of this process, which a later start removes if this process does not. */
export const ownFolder = (): string => mkdtempSync(path.join(os.tmpdir(), `${PREFIX}${process.pid}-`));

/** Removes folders of processes that are gone, as after a power cut. */
export const sweepFolders = (): void => {
  for (const name of readdirSync(os.tmpdir())) {
    const [, pid] = new RegExp(`^${PREFIX}(\\d+)-`).exec(name) ?? [];
    if (pid === undefined || isRunning(Number(pid))) continue;
    rmSync(path.join(os.tmpdir(), name), { recursive: true, force: true });
  }
};

const isRunning = (pid: number): boolean => {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return (error as { code?: string }).code === 'EPERM';
  }
};

// In bytes; of a process that is gone: none. Buffers count too, which no limit of a heap sees.
const memoryOf = (pid: number): number => {
  try {
    return Number(readFileSync(`/proc/${pid}/statm`, 'utf8').split(' ')[1]) * 4096;
  } catch {
    return 0;
  }
};

const bytesIn = (folder: string): number => {
  try {
    return readdirSync(folder, { withFileTypes: true }).reduce((sum, entry) => {
      const full = path.join(folder, entry.name);
      return sum + (entry.isDirectory() ? bytesIn(full) : statSync(full).size);
    }, 0);
  } catch {
    return 0; // a file went away meanwhile
  }
};

// What a process that reads may not do. Ends it, and says why.
const watch = (
  child: ChildProcess,
  folder: string,
  onTooMuch: (failure: Failure) => void,
): NodeJS.Timeout => {
  const began = Date.now();
  const stop = (...args: Parameters<typeof problem>) => {
    child.kill('SIGKILL');
    onTooMuch(new Failure([problem(...args)]));
  };
  return setInterval(() => {
    if (memoryOf(child.pid ?? 0) > limits.reading * 1_000_000) stop('import_memory', { mb: limits.reading });
    else if (bytesIn(folder) > limits.unpacked + limits.bytes) stop('file_unpacked_too_large');
    else if (Date.now() - began > limits.readingSeconds * 1000) stop('file_unreadable');
  }, LOOK_EVERY);
};

export type ApartRows = FileHead & { rows: AsyncIterable<RawRow>; comments: () => number };

/** Reads a file in a process of its own and gives what it has to `use`, which takes its rows; nothing of it is left after. */
export const readApart = async <T>(
  content: Buffer,
  asked: ReadAsk,
  use: (file: ApartRows) => Promise<T>,
): Promise<T> => {
  const folder = ownFolder();
  const file = path.join(folder, 'file');
  writeFileSync(file, content, { mode: 0o600 });
  const child = fork(fileURLToPath(partFile('files/parse-child')), [], {
    serialization: 'advanced',
    execArgv: [`--max-old-space-size=${Math.round(limits.reading * 0.6)}`],
    env: { ...process.env, TMPDIR: folder, NODE_OPTIONS: '' },
    stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
  });
  const messages = inbox(child);
  const watching = watch(child, folder, messages.stop);
  const tidy = async () => {
    clearInterval(watching);
    const isOver = child.exitCode !== null || child.signalCode !== null;
    const gone = isOver ? Promise.resolve() : once(child, 'exit');
    child.kill('SIGKILL');
    await gone;
    rmSync(folder, { recursive: true, force: true });
  };
  try {
    child.send({ path: file, asked } satisfies ToChild);
    const head = await messages.next();
    if (head.kind !== 'head') return fail('file_unreadable');
    let comments = 0;
    const rows = (async function* () {
      for (let said = await messages.next(); ; said = await messages.next()) {
        if (said.kind === 'end') comments = said.comments;
        // before anything is kept of the file: whoever ends this thread then leaves nothing behind
        if (said.kind !== 'rows') return tidy();
        yield* said.rows;
        child.send('taken');
      }
    })();
    return await use({ ...head, rows, comments: () => comments });
  } finally {
    await tidy();
  }
};

// What the child says, in turn; what it refuses, and its end, are thrown where the next is waited for.
const inbox = (child: ChildProcess) => {
  const kept: (FromChild | Error)[] = [];
  let wake: (() => void) | undefined;
  const put = (one: FromChild | Error): void => {
    kept.push(one);
    wake?.();
  };
  child.on('message', (message: FromChild) => {
    if (message.kind === 'refused') put(new Failure(message.problems));
    else if (message.kind === 'failed') put(new Error(message.error));
    else put(message);
  });
  // V8 ends a process whose heap is full by a signal, without a word
  child.on('exit', () => put(new Failure([problem('import_memory', { mb: limits.reading })])));
  child.on('error', put);
  const next = async (): Promise<FromChild> => {
    while (kept.length === 0) await new Promise<void>((resolve) => (wake = resolve));
    const one = kept.shift() as FromChild | Error;
    if (one instanceof Error) throw one;
    return one;
  };
  return { next, stop: (failure: Failure) => void (kept.unshift(failure), wake?.()) };
};
