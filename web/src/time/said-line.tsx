import { EntryLinks } from './entry-links';

/** What was written, and its entry where there is one. */
export type Said = { text: string; entry: number | null };

/** After something was written: what it was, the way to its entry, and its undo. */
export const SaidLine = ({ text, entry }: Said) => (
  <div className="savedline" role="status">
    <span className="moss">✓</span> {text} {entry !== null && <EntryLinks number={entry} />}
  </div>
);
