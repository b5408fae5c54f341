import { peopleEndpoints, structureEndpoints } from '@gremium/contract';
import { RowRegister } from '@gremium/core';
import { keepPreviousData, useQueries } from '@tanstack/react-query';
import { useMemo } from 'react';
import { useLens } from '../frame/lens';
import { type NameOf, asRows, useReference, useUnits } from '../time/time.queries';
import type { Showing } from '../ui/field-value';
import { recordQuery } from '../ui/use-record-query';

export type SlipShowing = Showing & {
  /** The legal entity of a position on the day looked at, also where a unit above says it. */
  entityOf: (positionId: number) => number | null;
};

const idsIn = (values: readonly unknown[] = []): number[] => [
  ...new Set(values.filter((id): id is number => typeof id === 'number')),
];

/** Reference lists, units and some records as one register, with names: what a slip needs to show its values. */
export const useSlipShowing = ({
  positions: positionIds,
  units: unitIds,
  people: personIds,
}: { positions?: unknown[]; units?: unknown[]; people?: unknown[] } = {}): SlipShowing | null => {
  const reference = useReference();
  const units = useUnits();
  const { query } = useLens();
  const positions = useQueries({
    queries: idsIn(positionIds).map((id) => ({
      ...recordQuery(structureEndpoints.positionRecord, { kind: 'position', id, query }),
      placeholderData: keepPreviousData as never,
    })),
    combine: (results) => results.flatMap(({ data }) => data ?? []),
  });
  const records = useQueries({
    queries: idsIn(unitIds).map((id) => ({
      ...recordQuery(structureEndpoints.unitRecord, { kind: 'unit', id, query }),
      placeholderData: keepPreviousData as never,
    })),
    combine: (results) => results.flatMap(({ data }) => data ?? []),
  });
  const people = useQueries({
    queries: idsIn(personIds).map((id) => ({
      ...recordQuery(peopleEndpoints.personRecord, { kind: 'person', id, query }),
      placeholderData: keepPreviousData as never,
    })),
    combine: (results) => results.flatMap(({ data }) => data ?? []),
  });
  return useMemo(() => {
    if (!reference || !units) return null;
    const whole = records.flatMap(({ rows }) => rows.filter(({ section }) => section === 'unit'));
    const own = positions.flatMap(({ rows }) => rows.filter(({ section }) => section.startsWith('position')));
    // a record may hold rows of the lists too: each stands once
    const listed = new Set([...reference, ...units, ...whole, ...own].map(({ id }) => id));
    const theirs = people.flatMap(({ rows }) => rows).filter(({ id }) => !listed.has(id));
    const known = new Set(whole.map(({ thing }) => thing));
    const others = units.filter(({ thing }) => !known.has(thing));
    const register = new RowRegister(asRows([...reference, ...others, ...whole, ...own, ...theirs]));
    const named = new Map(
      [...positions, ...records, ...people].flatMap(({ names }) =>
        names.map(({ kind, id, name }) => [`${kind} ${id}`, name] as const),
      ),
    );
    const nameOf: NameOf = (kind, id) => {
      const known = named.get(`${kind} ${id ?? 0}`);
      if (known !== undefined) return known;
      const values = register.rows(kind as 'job', id ?? 0).at(-1)?.values as
        { name?: string; title?: string } | undefined;
      return (kind === 'position' ? values?.title : values?.name) ?? '';
    };
    const entityOf = (id: number) =>
      positions.find(({ rows }) => rows.some(({ thing }) => thing === id))?.inherited.legalEntityId ?? null;
    return { register, nameOf, entityOf };
  }, [reference, units, positions, records, people]);
};
