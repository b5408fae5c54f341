// Files packed together (ZIP): those in any folder of it that are of a kind that is taken in, whatever else lies beside them.
import { problem } from '@gremium/core';
import yauzl from 'yauzl';
import { Failure } from '../database/failure';
import { limits } from './limits';

const MOST_FILES = 60;
const TAKEN = /\.(csv|tsv|txt|xlsx)$/i;

const base = (path: string): string => path.split('/').at(-1) as string;
// what systems put beside files for themselves
const isOwn = (path: string): boolean => path.startsWith('__MACOSX/') || base(path).startsWith('.');

/** The files within a file, by their names. Fails with `file_unreadable`, `files_too_many`, `file_unpacked_too_large`, `zip_empty`. */
export const filesIn = (content: Buffer): Promise<{ name: string; content: Buffer }[]> =>
  new Promise((resolve, reject) => {
    const refuse = () => reject(new Failure([problem('file_unreadable')]));
    yauzl.fromBuffer(content, { lazyEntries: true, validateEntrySizes: false }, (error, zip) => {
      if (error) return refuse();
      const files: { name: string; content: Buffer }[] = [];
      let unpacked = 0;
      const take = (entry: yauzl.Entry): Promise<Buffer> =>
        new Promise((done, failed) =>
          zip.openReadStream(entry, (broken, stream) => {
            if (broken) return failed(new Failure([problem('file_unreadable')]));
            const chunks: Buffer[] = [];
            stream.on('data', (chunk: Buffer) => {
              unpacked += chunk.length;
              // what it says of itself is not believed
              if (unpacked > limits.bytes * 2)
                stream.destroy(new Failure([problem('file_unpacked_too_large')]));
              else chunks.push(chunk);
            });
            stream.on('end', () => done(Buffer.concat(chunks)));
            stream.on('error', failed);
          }),
        );
      const next = async (entry: yauzl.Entry): Promise<void> => {
        const { fileName } = entry;
        if (!fileName.endsWith('/') && !isOwn(fileName) && TAKEN.test(fileName)) {
          if (files.length === MOST_FILES)
            throw new Failure([problem('files_too_many', { most: MOST_FILES })]);
          files.push({ name: base(fileName), content: await take(entry) });
        }
        zip.readEntry();
      };
      zip.on('entry', (entry: yauzl.Entry) => {
        next(entry).catch((wrong: unknown) => (wrong instanceof Failure ? reject(wrong) : refuse()));
      });
      zip.on('end', () => (files.length > 0 ? resolve(files) : reject(new Failure([problem('zip_empty')]))));
      zip.on('error', refuse);
      zip.readEntry();
    });
  });
