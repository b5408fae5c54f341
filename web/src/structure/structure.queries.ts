import { type PositionLine, type UnitLine, structureEndpoints } from '@gremium/contract';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { call } from '../api';
import { useLens } from '../frame/lens';
import { positionKey } from '../movements/slip-showing';

export const useOutline = () => {
  const { query } = useLens();
  return useQuery({
    queryKey: ['outline', query],
    queryFn: () => call(structureEndpoints.outline, { query }),
    placeholderData: keepPreviousData,
  });
};

/** Positions of a day; `branch` is a unit with all below it. */
export const usePositions = (branch: number | undefined) => {
  const { query } = useLens();
  return useQuery({
    queryKey: ['positions', query, branch],
    queryFn: () => call(structureEndpoints.positions, { query: { ...query, ...(branch ? { branch } : {}) } }),
    placeholderData: keepPreviousData,
  });
};

export const usePositionRecord = (id: number) => {
  const { query } = useLens();
  return useQuery({
    queryKey: positionKey(id, query),
    queryFn: () => call(structureEndpoints.positionRecord, { params: { id }, query }),
    placeholderData: (previous, previousQuery) => (previousQuery?.queryKey[1] === id ? previous : undefined),
    retry: false,
  });
};

/** Units in the order of the tree, each with its depth. */
export const inTreeOrder = <U extends Pick<UnitLine, 'id' | 'parentId' | 'name'>>(
  units: readonly U[],
): (U & { depth: number })[] => {
  const children = new Map<number | null, U[]>();
  for (const unit of units) children.set(unit.parentId, [...(children.get(unit.parentId) ?? []), unit]);
  for (const siblings of children.values()) siblings.sort((a, b) => a.name.localeCompare(b.name));
  const walk = (parent: number | null, depth: number): (U & { depth: number })[] =>
    (children.get(parent) ?? []).flatMap((unit) => [{ ...unit, depth }, ...walk(unit.id, depth + 1)]);
  return walk(null, 0);
};

export type { PositionLine, UnitLine };
