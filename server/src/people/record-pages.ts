// A record as pages, set beside the server, one after the other: whoever asks for many keeps nobody else waiting.
import { fail } from '../database/failure';
import { onceApart } from '../once-apart';
import type { PagesAsk } from './record-pdf';

/** Milliseconds and MB that a record may take. */
const BOUNDS = { working: 20_000, mb: 512 };

let last: Promise<unknown> = Promise.resolve();

/** The bytes of the PDF; refused (`pages_too_many`) where there is more text than can be set in its time. */
export const recordPages = async (asked: PagesAsk): Promise<Buffer> => {
  const before = last;
  const own = before.then(() => onceApart<Uint8Array>('people/pdf-worker', asked, BOUNDS));
  last = own.catch(() => undefined);
  const bytes = await own;
  return bytes ? Buffer.from(bytes) : fail('pages_too_many', {});
};
