import type { RecordOut } from '@gremium/contract';

type Saved = Pick<RecordOut, 'rows' | 'lastEntries' | 'entries' | 'names'>;

/** A record with the rows that came back in place of those it had of the same sections of the same things. */
export const mergeRecord = <R extends RecordOut>(old: R, saved: Saved): R => {
  const keyOf = ({ section, thing }: { section: string; thing: number }) => `${section} ${thing}`;
  const touched = new Set([...saved.rows, ...saved.lastEntries].map(keyOf));
  const kept = <T extends { section: string; thing: number }>(all: readonly T[]) =>
    all.filter((one) => !touched.has(keyOf(one)));
  const both = <T>(mine: readonly T[], theirs: readonly T[], idOf: (one: T) => string): T[] => [
    ...new Map([...mine, ...theirs].map((one) => [idOf(one), one])).values(),
  ];
  return {
    ...old,
    rows: [...kept(old.rows), ...saved.rows],
    lastEntries: [...kept(old.lastEntries), ...saved.lastEntries],
    entries: both(old.entries, saved.entries, ({ id }) => String(id)).sort((a, b) => b.number - a.number),
    names: both(old.names, saved.names, ({ kind, id }) => `${kind} ${id}`),
  };
};
