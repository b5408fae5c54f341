// A record as pages, set beside the server, one after the other; whoever comes while many wait is told to try again.
import { fail } from '../database/failure';
import { onceApart } from '../once-apart';
import type { PagesAsk } from './record-pdf';

/** Milliseconds and MB that a record may take. */
const BOUNDS = { working: 20_000, mb: 512 };
const MOST_WAITING = 8;

let last: Promise<unknown> = Promise.resolve();
let waiting = 0;

/**
 * The bytes of the PDF. Refused where there is more text than can be set in its time (`pages_too_many`), and while too many
 * others wait (`register_busy`).
 */
export const recordPages = async (asked: PagesAsk): Promise<Buffer> => {
  if (waiting >= MOST_WAITING) return fail('register_busy', {});
  waiting++;
  const own = last.then(() => onceApart<Uint8Array>('people/pdf-worker', asked, BOUNDS));
  last = own.catch(() => undefined);
  try {
    const bytes = await own;
    return bytes ? Buffer.from(bytes) : fail('pages_too_many', {});
  } finally {
    waiting--;
  }
};
