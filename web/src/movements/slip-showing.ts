import { structureEndpoints } from '@gremium/contract';
import { RowRegister } from '@gremium/core';
import { keepPreviousData, useQueries } from '@tanstack/react-query';
import { useMemo } from 'react';
import { call } from '../api';
import { useLens } from '../frame/lens';
import { type NameOf, asRows, useReference, useUnits } from '../time/time.queries';
import type { Showing } from '../ui/field-value';

export const positionKey = (id: number, query: object) => ['position', id, query] as const;

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
    const own = positions.flatMap(({ rows: all }) => all.filter(({ section }) => section === 'position'));
    const all = [...reference, ...units, ...own];
    const register = new RowRegister(asRows(all));
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
