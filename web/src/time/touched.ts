// What is asked for anew after an act: only what shows a section of which the act recorded or superseded rows.
import { DEFINING, type Kind, type SectionName, preset } from '@gremium/contract';
import type { Query, QueryClient } from '@tanstack/react-query';

/** Sections that a query shows; left out: any. `around`: those of what it shows beside the rows of its own record. */
export type Reads = { reads: readonly SectionName[]; around?: readonly SectionName[] };

declare module '@tanstack/react-query' {
  interface Register {
    queryMeta: Partial<Reads> & Record<string, unknown>;
  }
}

const allOf = (...kinds: Kind[]): SectionName[] =>
  kinds.flatMap((kind) => [...preset.of(kind), ...preset.belongingTo(kind)]);

// Where somebody stands, who leads: what most records show beside their own.
const standing: SectionName[] = ['position', 'unit', 'placement', 'employment', 'person_name'];

/** What the record of a kind shows: its own sections and what belongs to it, and where it stands. */
export const readsOf = (
  kind: Kind,
  ...more: SectionName[]
): { reads: SectionName[]; around: SectionName[] } => {
  const around = [...standing, ...more];
  return { reads: [...allOf(kind), ...(kind === 'person' ? allOf('employment') : []), ...around], around };
};

const isOwn = (section: string): boolean => section.startsWith('own');

const shows = ({ meta }: Query, touched: readonly SectionName[], isMerged: boolean): boolean => {
  const reads = isMerged ? (meta?.around ?? meta?.reads) : meta?.reads;
  if (!reads) return true;
  // own sections stand on records, and are known there only
  return touched.some(
    (section) => reads.includes(section) || (isOwn(section) && !isMerged && Boolean(meta?.around)),
  );
};

// Asked for by whoever looks at them, each time.
const PASSING = new Set(['preview', 'undo-plan', 'movement', 'session']);

/** Asks anew for what shows something of what was touched; of a record whose rows came back, only for what is around it. */
export const refreshTouched = (
  queries: QueryClient,
  touched: readonly SectionName[],
  merged?: readonly [string, number],
): Promise<void> =>
  queries.invalidateQueries({
    predicate: (query) => {
      const [name, id] = query.queryKey;
      // who may what follows what sections there are
      if (PASSING.has(String(name)))
        return (
          name === 'session' &&
          (touched.includes('organisation') || DEFINING.some((section) => touched.includes(section)))
        );
      return shows(query, touched, merged !== undefined && name === merged[0] && id === merged[1]);
    },
  });
