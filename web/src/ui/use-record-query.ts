import type { CallOf, Endpoint, Kind, Lens, ReplyOf, SectionName } from '@gremium/contract';
import { useQuery } from '@tanstack/react-query';
import { call } from '../api';
import { useLens } from '../frame/lens';
import { readsOf } from '../time/touched';

/** The key of a record in the cache: its kind, its id, the day looked at. */
export const recordKey = (kind: Kind, id: number, query: Lens) => [kind, id, query] as const;

/** How a record is asked for, and what of it changes by which sections. */
export const recordQuery = <E extends Endpoint>(
  endpoint: E,
  { kind, id, query, around = [] }: { kind: Kind; id: number; query: Lens; around?: SectionName[] },
) => ({
  queryKey: recordKey(kind, id, query),
  queryFn: () => call(endpoint, { params: { id }, query } as unknown as CallOf<E>),
  retry: false,
  meta: readsOf(kind, ...around),
});

/** The record of a thing on the day looked at; for another day it stays as it was until that has come. */
export const useRecordQuery = <E extends Endpoint>(
  endpoint: E,
  { kind, id, around }: { kind: Kind; id: number; around?: SectionName[] },
) => {
  const { query } = useLens();
  return useQuery({
    ...recordQuery(endpoint, { kind, id, query, ...(around ? { around } : {}) }),
    placeholderData: ((
      previous: ReplyOf<E> | undefined,
      before: { queryKey: readonly unknown[] } | undefined,
    ) => (before?.queryKey[1] === id ? previous : undefined)) as never,
  });
};
