import {
  type Day,
  type Kind,
  type RecordOut,
  type Row,
  type SectionRowOut,
  journalEndpoints,
  preset,
  recordEndpoints,
} from '@gremium/contract';
import { type Register, RowRegister, addDays, startOfMonth } from '@gremium/core';
import { keepPreviousData, useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { call } from '../api';
import { catalogueNow, learnDefinitions } from './catalogue-now';
import { useLens } from '../frame/lens';
import { useSession } from '../frame/session';

export const timeKeys = {
  reference: (known: string | null) => ['reference', known] as const,
  ticks: (from: string, until: string, known: string | null) => ['ticks', from, until, known] as const,
  journal: (thing: number | null) => ['journal', thing] as const,
  entry: (number: number) => ['entry', number] as const,
  plan: (number: number) => ['undo-plan', number] as const,
};

export const asRows = (rows: readonly SectionRowOut[]): Row[] => rows as unknown as Row[];

/** Lists, jobs, grades, locations, legal entities … as one register, as recorded by the moment of the lens. */
export const useReference = () => {
  const { known } = useLens();
  const { viewer } = useSession();
  const query = useQuery({
    queryKey: timeKeys.reference(known),
    queryFn: async () => {
      const found = await call(recordEndpoints.reference, { query: known ? { recordedBy: known } : {} });
      learnDefinitions(found.rows, viewer.grants);
      return found;
    },
    staleTime: 60_000,
    meta: { reads: preset.references },
  });
  return query.data?.rows;
};

export type NameOf = (kind: Kind, id: number | null | undefined) => string;

const UNITS = 1000;

/** Units in effect on the day looked at, as rows of a register; many views choose from them. */
export const useUnits = (): SectionRowOut[] | undefined => {
  const { query } = useLens();
  return useQuery({
    queryKey: ['units', query],
    queryFn: async () => {
      const units: SectionRowOut[] = [];
      for (let offset = 0; ; offset += UNITS) {
        const page = { ...query, limit: UNITS, offset };
        const { rows } = await call(recordEndpoints.records, { params: { kind: 'unit' }, query: page });
        units.push(...rows.map((row) => ({ ...row, section: 'unit' as const, lineage: row.id, entry: 0 })));
        if (rows.length < UNITS) return units;
      }
    },
    placeholderData: keepPreviousData,
    staleTime: 60_000,
    retry: false,
    meta: { reads: ['unit'] },
  }).data;
};

/** A record's versions and the reference lists as one register, and the names of what it refers to. */
export const useRecordRegister = (record: RecordOut | undefined, units?: readonly SectionRowOut[]) => {
  const reference = useReference();
  return useMemo(() => {
    if (!record || !reference) return null;
    // units of the day, and all versions of the one whose record it is
    const own = new Set(record.rows.flatMap((row) => (row.section === 'unit' ? row.thing : [])));
    const others = (units ?? []).filter(({ thing }) => !own.has(thing));
    // what the record brings stands for itself, also where it is of the reference lists
    const brought = new Set(record.rows.map(({ id }) => id));
    const lists = reference.filter(({ id }) => !brought.has(id));
    const register = new RowRegister(asRows([...lists, ...others, ...record.rows]), catalogueNow());
    return { register, nameOf: namesIn(register, record) };
  }, [record, reference, units]);
};

export const useReferenceRegister = (): Register | null => {
  const reference = useReference();
  return useMemo(() => (reference ? new RowRegister(asRows(reference)) : null), [reference]);
};

const namesIn = (register: Register, { names }: Pick<RecordOut, 'names'>): NameOf => {
  const known = new Map(names.map(({ kind, id, name }) => [`${kind} ${id}`, name]));
  return (kind, id) => {
    if (id === null || id === undefined) return '';
    const values = register.rows(kind as 'job', id).at(-1)?.values as { name?: string } | undefined;
    return known.get(`${kind} ${id}`) ?? values?.name ?? '';
  };
};

/** Days on which something happens, well around the day looked at. */
export const useTicks = () => {
  const { on, today, known } = useLens();
  const around = (day: Day, days: number): Day => startOfMonth(addDays(day, days));
  const from = [around(on, -400), around(today, -200)].sort()[0] as Day;
  const until = [around(on, 400), around(today, 400)].sort()[1] as Day;
  const query = useQuery({
    queryKey: timeKeys.ticks(from, until, known),
    queryFn: () =>
      call(recordEndpoints.ticks, { query: { from, until, ...(known ? { recordedBy: known } : {}) } }),
    placeholderData: keepPreviousData,
    staleTime: 60_000,
    retry: false,
    meta: { reads: ['placement', 'employment'] },
  });
  return query.data?.ticks ?? [];
};

const PAGE = 60;

export const useJournal = (thing: number | null = null, where = '') =>
  useInfiniteQuery({
    queryKey: [...timeKeys.journal(thing), where],
    ...(where ? { retry: false } : {}),
    initialPageParam: 0,
    queryFn: ({ pageParam }) =>
      call(journalEndpoints.journal, {
        query: {
          limit: PAGE,
          offset: pageParam,
          ...(thing === null ? {} : { thing }),
          ...(where ? { where } : {}),
        },
      }),
    getNextPageParam: (last, pages) =>
      last.entries.length < PAGE ? undefined : pages.reduce((sum, page) => sum + page.entries.length, 0),
  });

export const useEntry = (number: number | null) =>
  useQuery({
    queryKey: timeKeys.entry(number ?? 0),
    enabled: number !== null,
    queryFn: () => call(journalEndpoints.entry, { params: { number: number ?? 0 } }),
    placeholderData: keepPreviousData,
  });

export const useUndoPlan = (number: number) =>
  useQuery({
    queryKey: timeKeys.plan(number),
    queryFn: () => call(journalEndpoints.planUndo, { params: { number } }),
    staleTime: 0,
    gcTime: 0,
  });
