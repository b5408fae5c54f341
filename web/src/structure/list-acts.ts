import { type PickList, listEndpoints, recordEndpoints } from '@gremium/contract';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { call } from '../api';
import { refreshTouched } from '../time/touched';
import type { EntryDraft } from './entry-form';
import type { Entry } from './list-entries';

const READS = ['list_entry', 'location', 'legal_entity', 'cost_centre', 'position', 'placement'] as const;

/** How often the entries of a kind are used, by their ids. */
export const useUses = (kind: PickList['kind'], enabled: boolean) =>
  useQuery({
    queryKey: ['uses', kind],
    queryFn: async () => {
      const { uses } = await call(listEndpoints.uses, { params: { kind }, query: {} });
      return new Map(uses.map((one) => [one.id, one]));
    },
    enabled,
    meta: { reads: [...READS] },
  });

/** Where one entry is used. */
export const useUsedIn = (kind: PickList['kind'], id: number) =>
  useQuery({
    queryKey: ['used-in', kind, id],
    queryFn: () => call(listEndpoints.usedIn, { params: { kind, id }, query: {} }),
  });

/** What was done last, with its entry, to be said after it. */
export type Done = {
  act: 'add' | 'change' | 'retire' | 'merge' | 'replace';
  name: string;
  entry: number | null;
};

/** How many uses would move: asked before it is done. */
export const useMoves = (
  kind: PickList['kind'],
  { from, to, day }: { from: number; to: number | null; day: string | null },
) =>
  useQuery({
    queryKey: ['moves', kind, from, to, day],
    queryFn: () =>
      call(listEndpoints.replaceUses, {
        body: { kind, from, to: to as number, day: day as never, preview: true, words: {} },
      }),
    enabled: to !== null,
    retry: false,
  });

/** Adds, changes and retires entries, and moves their uses; the last one done is said. */
export const useListActs = (list: PickList, onDone: (done: Done) => void) => {
  const queries = useQueryClient();
  const after =
    (act: Done['act'], name: string) => async (reply: { entry: number | null; touched: never[] }) => {
      await refreshTouched(queries, reply.touched);
      await queries.invalidateQueries({ queryKey: ['uses'] });
      onDone({ act, name, entry: reply.entry });
    };
  // the number of the last entry that touched it is asked for when it is changed: lists are long, changes are few
  const edit = async (entry: Entry, change: object) => {
    const params = { kind: list.kind, id: entry.id };
    const { sections } = await call(recordEndpoints.record, { params, query: {} });
    return call(recordEndpoints.editRecord, {
      params: { ...params, section: list.kind },
      body: { edit: change as never, basedOn: sections[0]?.lastEntry ?? 0, preview: false, words: {} },
    });
  };
  return {
    add: useMutation({
      mutationFn: ({ values, from }: EntryDraft) =>
        call(recordEndpoints.createRecord, {
          params: { kind: list.kind },
          body: {
            from: (from ?? '-infinity') as never,
            until: 'infinity',
            sections: { [list.kind]: values },
            preview: false,
            words: {},
          },
        }),
      onSuccess: (reply, { values }) => after('add', saidOf(values))(reply as never),
    }),
    change: useMutation({
      mutationFn: ({ entry, values }: { entry: Entry; values: Record<string, unknown> }) =>
        edit(entry, { mode: 'mend', row: entry.row.id, values }),
      onSuccess: (reply, { values }) => after('change', saidOf(values))(reply as never),
    }),
    retire: useMutation({
      mutationFn: ({ entry, lastDay }: { entry: Entry; lastDay: string }) =>
        edit(entry, { mode: 'end', lastDay }),
      onSuccess: (reply, { entry }) => after('retire', entry.name)(reply as never),
    }),
    move: useMutation({
      mutationFn: ({ entry, to, day }: { entry: Entry; to: number; day: string | null }) =>
        call(listEndpoints.replaceUses, {
          body: { kind: list.kind, from: entry.id, to, day: day as never, preview: false, words: {} },
        }),
      onSuccess: (reply, { entry, day }) =>
        after(day === null ? 'merge' : 'replace', entry.name)(reply as never),
    }),
  };
};

const saidOf = (values: Record<string, unknown>): string => {
  const label = values['label'] as { en: string } | undefined;
  return label?.en ?? String(values['name'] ?? values['code'] ?? '');
};
