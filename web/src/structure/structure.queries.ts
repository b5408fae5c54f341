import { type PositionLine, type UnitLine, type WhichPositions, structureEndpoints } from '@gremium/contract';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { call } from '../api';
import { useLens } from '../frame/lens';
import { readsOf } from '../time/touched';

// So many levels are unfolded until something is folded or unfolded.
export const LEVELS = 2;

/** The lines of the outline as it is unfolded: `turned` are the units that are the other way than their level. */
export const useOutline = (turned: readonly number[]) => {
  const { query } = useLens();
  const folding = { levels: LEVELS, ...(turned.length > 0 ? { turned: turned.join('.') } : {}) };
  return useQuery({
    queryKey: ['outline', query, folding],
    queryFn: () => call(structureEndpoints.outline, { query: { ...query, ...folding } }),
    placeholderData: keepPreviousData,
    meta: { reads: [...readsOf('unit').reads, 'position_limits', 'pay', 'list_entry'] },
  });
};

/** Positions of a day; `branch` is a unit with all below it, `which` those that want something. */
export const usePositions = (branch: number | undefined, which?: WhichPositions) => {
  const { query } = useLens();
  return useQuery({
    queryKey: ['positions', query, branch, which],
    queryFn: () =>
      call(structureEndpoints.positions, {
        query: { ...query, ...(branch ? { branch } : {}), ...(which ? { which } : {}) },
      }),
    placeholderData: keepPreviousData,
    meta: { reads: readsOf('position').reads },
  });
};

export type { PositionLine, UnitLine };
