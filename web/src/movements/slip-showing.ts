import { type Row, type SectionRowOut, recordEndpoints, structureEndpoints } from '@gremium/contract';
import { Register } from '@gremium/core';
import { keepPreviousData, useQueries, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { call } from '../api';
import { useLens } from '../frame/lens';
import { type NameOf, useReference } from '../time/time.queries';
import type { Showing } from '../ui/field-value';

export const positionKey = (id: number, query: object) => ['position', id, query] as const;

/** Units in effect on a day, with their names; a small list that many views choose from. */
export const useUnits = () => {
  const { query } = useLens();
  return useQuery({
    queryKey: ['units', query],
    queryFn: () =>
      call(recordEndpoints.records, { params: { kind: 'unit' }, query: { ...query, limit: 1000 } }),
    placeholderData: keepPreviousData,
    staleTime: 60_000,
  }).data?.rows;
};

export type SlipShowing = Showing & {
  /** The legal entity of a position on the day looked at, also where a unit above says it. */
  entityOf: (positionId: number) => number | null;
};

/** Reference lists, units and some positions as one register, with names: what a slip needs to show its values. */
export const useSlipShowing = (positionIds: readonly (number | null | undefined)[]): SlipShowing | null => {
  const reference = useReference();
  const units = useUnits();
  const { query } = useLens();
  const ids = [...new Set(positionIds.filter((id): id is number => typeof id === 'number'))];
  const positions = useQueries({
    queries: ids.map((id) => ({
      queryKey: positionKey(id, query),
      queryFn: () => call(structureEndpoints.positionRecord, { params: { id }, query }),
      placeholderData: keepPreviousData,
    })),
    combine: (results) => results.flatMap(({ data }) => data ?? []),
  });
  return useMemo(() => {
    if (!reference || !units) return null;
    const rows = units.map((row) => ({ ...row, section: 'unit', lineage: row.id, entry: 0 }));
    const own = positions.flatMap(({ rows: all }) => all.filter(({ section }) => section === 'position'));
    const all = [...reference, ...rows, ...own] as unknown as SectionRowOut[];
    const register = new Register(all as unknown as Row[]);
    const nameOf: NameOf = (kind, id) => {
      const values = register.rows(kind as 'job', id ?? 0).at(-1)?.values as
        { name?: string; title?: string } | undefined;
      return (kind === 'position' ? values?.title : values?.name) ?? '';
    };
    const entityOf = (id: number) =>
      positions.find(({ rows: all }) => all.some(({ thing }) => thing === id))?.inherited.legalEntityId ??
      null;
    return { register, nameOf, entityOf };
  }, [reference, units, positions]);
};
