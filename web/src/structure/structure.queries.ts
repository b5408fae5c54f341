import { type PositionLine, type UnitLine, structureEndpoints } from '@gremium/contract';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { call } from '../api';
import { useLens } from '../frame/lens';
import { positionKey, unitKey } from '../movements/slip-showing';
import { readsRecord } from '../time/touched';

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
    meta: readsRecord.unit,
  });
};

/** Positions of a day; `branch` is a unit with all below it. */
export const usePositions = (branch: number | undefined) => {
  const { query } = useLens();
  return useQuery({
    queryKey: ['positions', query, branch],
    queryFn: () => call(structureEndpoints.positions, { query: { ...query, ...(branch ? { branch } : {}) } }),
    placeholderData: keepPreviousData,
    meta: { reads: readsRecord.position.reads },
  });
};

// What was shown of the record stays until it is there for the other day.
const stays = (id: number) => (previous: unknown, before: { queryKey: readonly unknown[] } | undefined) =>
  before?.queryKey[1] === id ? previous : undefined;

export const usePositionRecord = (id: number) => {
  const { query } = useLens();
  return useQuery({
    queryKey: positionKey(id, query),
    queryFn: () => call(structureEndpoints.positionRecord, { params: { id }, query }),
    placeholderData: stays(id) as never,
    retry: false,
    meta: readsRecord.position,
  });
};

export const useUnitRecord = (id: number) => {
  const { query } = useLens();
  return useQuery({
    queryKey: unitKey(id, query),
    queryFn: () => call(structureEndpoints.unitRecord, { params: { id }, query }),
    placeholderData: stays(id) as never,
    retry: false,
    meta: readsRecord.unit,
  });
};

export const useJobRecord = (id: number) => {
  const { query } = useLens();
  return useQuery({
    queryKey: ['job', id, query],
    queryFn: () => call(structureEndpoints.jobRecord, { params: { id }, query }),
    placeholderData: stays(id) as never,
    retry: false,
    meta: readsRecord.job,
  });
};

export type { PositionLine, UnitLine };
