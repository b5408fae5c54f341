import { createWriteStream } from 'node:fs';
import { readFile, rm } from 'node:fs/promises';
import path from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { problem } from '@gremium/core';
import { Failure } from '../database/failure';
import { ownFolder } from './read-apart';

/** A file that somebody sent, on disk until the request is over: unfinished ones take no memory. */
export class Uploaded {
  constructor(private readonly folder: string) {}

  content(): Promise<Buffer> {
    return readFile(path.join(this.folder, 'file'));
  }

  async remove(): Promise<void> {
    await rm(this.folder, { recursive: true, force: true });
  }
}

/** Writes what is sent to disk, counting: fails with `body_too_large` beyond so many bytes, and keeps nothing. */
export const uploaded = async (sent: Readable, most: number): Promise<Uploaded> => {
  if (most === 0) throw new Failure([problem('json_invalid', { message: 'content-type' })], 415);
  const folder = ownFolder();
  let bytes = 0;
  const counted = async function* () {
    for await (const chunk of sent as AsyncIterable<Buffer>) {
      bytes += chunk.length;
      if (bytes > most) throw new Failure([problem('body_too_large')]);
      yield chunk;
    }
  };
  try {
    await pipeline(counted, createWriteStream(path.join(folder, 'file'), { mode: 0o600 }));
  } catch (error) {
    await rm(folder, { recursive: true, force: true });
    throw error;
  }
  return new Uploaded(folder);
};
