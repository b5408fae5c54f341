// What is odd or wrong in what is being written of a record, asked while it is typed: a preview of the save.
import type { Problem } from '@gremium/contract';
import { recordEndpoints } from '@gremium/contract';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import type { SectionEdit as WireEdit } from '@gremium/contract';
import { Refused, call } from '../api';
import { useSettled } from '../ui/use-settled';

const SETTLE = 300;

/** Problems of edits as they are written; none while they cannot be saved yet. What others saved meanwhile is said when one saves. */
export const useFound = (edits: readonly WireEdit[] | null): readonly Problem[] => {
  const settled = useSettled(edits, SETTLE);
  const { data } = useQuery({
    queryKey: ['preview edits', settled],
    enabled: settled !== null && settled.length > 0,
    queryFn: async () => {
      try {
        const body = { edits: [...(settled ?? [])], preview: true, words: {} };
        return (await call(recordEndpoints.saveEdits, { body })).problems;
      } catch (error) {
        if (!(error instanceof Refused)) throw error;
        return error.problems.filter(({ code }) => code !== 'conflict');
      }
    },
    placeholderData: keepPreviousData,
    staleTime: 0,
    gcTime: 0,
    retry: false,
    meta: { reads: [] },
  });
  return edits === null || edits.length === 0 ? [] : (data ?? []);
};
