import { type Day, type Kind, type PickList, type Written, listEndpoints } from '@gremium/contract';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { z } from 'zod';
import { call } from '../api';
import { changeThing, lastEntryOf, makeThing } from '../time/write-record';
import { refreshTouched } from '../time/touched';
import type { Entry } from './list-entries';

/** What is typed of an entry: its values, and from when a new one is there (null: always). */
export type EntryDraft = { values: Record<string, unknown>; from: Day | null };

/** What was done last, with its entry, to be said after it. */
export type Done = {
  act: 'add' | 'change' | 'retire' | 'merge' | 'replace' | 'order';
  name: string;
  entry: number | null;
};

/** How often the entries of a kind are used, by their ids. */
export const useUses = (kind: PickList['kind'], enabled: boolean) =>
  useQuery({
    queryKey: ['uses', kind],
    queryFn: async () => {
      const { uses } = await call(listEndpoints.uses, { params: { kind }, query: {} });
      return new Map(uses.map((one) => [one.id, one]));
    },
    enabled,
  });

/** Where one entry is used. */
export const useUsedIn = (kind: PickList['kind'], id: number) =>
  useQuery({
    queryKey: ['used-in', kind, id],
    queryFn: () => call(listEndpoints.usedIn, { params: { kind, id }, query: {} }),
  });

/** The number of the last entry that touched it when a form was opened: what is saved is based on that. */
export const useBasis = (kind: Kind, id: number): number | undefined =>
  useQuery({
    queryKey: ['basis', kind, id],
    queryFn: () => lastEntryOf(kind, id),
    gcTime: 0,
    staleTime: Infinity,
  }).data;

type Moving = { from: number; to: number | null; day: Day | null };

/** How many uses would move: asked before it is done. */
export const useMoves = (kind: PickList['kind'], { from, to, day }: Moving, enabled: boolean) =>
  useQuery({
    queryKey: ['moves', kind, from, to, day],
    queryFn: () =>
      call(listEndpoints.replaceUses, { body: { kind, from, to: to ?? 0, day, preview: true, words: {} } }),
    enabled: enabled && to !== null,
    retry: false,
  });

type Told = z.infer<typeof Written>;

/** Adds, changes and retires entries, and moves their uses; what was done is told. */
export const useListActs = ({ kind }: PickList, onDone: (done: Done) => void) => {
  const queries = useQueryClient();
  const tell = async (act: Done['act'], name: string, { entry, touched }: Told): Promise<void> => {
    await refreshTouched(queries, touched);
    onDone({ act, name, entry });
  };
  return {
    add: useMutation({
      mutationFn: ({ values, from }: EntryDraft & { name: string }) => makeThing(kind, values, from),
      onSuccess: (told, { name }) => tell('add', name, told),
    }),
    change: useMutation({
      mutationFn: ({ entry, basis, values }: { entry: Entry; basis: number } & Pick<EntryDraft, 'values'>) =>
        changeThing(kind, {
          id: entry.id,
          basedOn: basis,
          edit: { mode: 'mend', row: entry.row.id, values },
        }),
      onSuccess: (told, { entry }) => tell('change', entry.name, told),
    }),
    retire: useMutation({
      mutationFn: ({ entry, basis, lastDay }: { entry: Entry; basis: number; lastDay: Day }) =>
        changeThing(kind, { id: entry.id, basedOn: basis, edit: { mode: 'end', lastDay } }),
      onSuccess: (told, { entry }) => tell('retire', entry.name, told),
    }),
    order: useMutation({
      mutationFn: ({ ids }: { ids: number[]; name: string }) =>
        call(listEndpoints.orderEntries, { body: { ids, preview: false, words: {} } }),
      onSuccess: (told, { name }) => tell('order', name, told),
    }),
    move: useMutation({
      mutationFn: ({ entry, to, day }: { entry: Entry; to: number; day: Day | null }) =>
        call(listEndpoints.replaceUses, {
          body: { kind, from: entry.id, to, day, preview: false, words: {} },
        }),
      onSuccess: (told, { entry, day }) => tell(day === null ? 'merge' : 'replace', entry.name, told),
    }),
  };
};
