import {
  type CrossOut,
  type DimensionName,
  type MeasureName,
  type WhyOut,
  DimensionName as Dimensions,
  MeasureName as Measures,
  measureEndpoints,
} from '@gremium/contract';
import { addMonths, endOfMonth, startOfMonth } from '@gremium/core';
import { keepPreviousData, useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { useEffect } from 'react';
import { useTranslation } from 'react-i18next';
import { useSearchParams } from 'react-router';
import { call } from '../api';
import { useLens } from '../frame/lens';

export type Narrowed = Record<string, string[]>;

/** What the address asks of a cross table; the preset is turnover by division over the twelve months that are over. */
export type Asked = {
  measure: MeasureName;
  by: DimensionName;
  from: string;
  until: string;
  narrow: string;
};

const parse = (text: string): Narrowed =>
  Object.fromEntries(
    text
      .split(';')
      .filter(Boolean)
      .map((part) => part.split(':') as [string, string])
      .map(([name, values]) => [name, values.split(',')]),
  );

const write = (narrowed: Narrowed): string =>
  Object.entries(narrowed)
    .filter(([, values]) => values.length > 0)
    .map(([name, values]) => `${name}:${values.join(',')}`)
    .join(';');

/** The narrowing with one value more, or less. */
export const turned = (narrow: string, name: string, value: string): string => {
  const narrowed = parse(narrow);
  const old = narrowed[name] ?? [];
  const next = old.includes(value) ? old.filter((other) => other !== value) : [...old, value];
  return write({ ...narrowed, [name]: next });
};

export const isNarrowed = (narrow: string, name: string, value: string): boolean =>
  parse(narrow)[name]?.includes(value) ?? false;
export const narrowedNames = (narrow: string): string[] => Object.keys(parse(narrow));

export const useAsked = (): Asked => {
  const [params] = useSearchParams();
  const { on } = useLens();
  const last = endOfMonth(on) === on ? on : addMonths(startOfMonth(on), -1);
  const until = params.get('until') ?? last.slice(0, 7);
  const from = params.get('from') ?? addMonths(startOfMonth(`${until}-01` as typeof on), -11).slice(0, 7);
  return {
    measure: Measures.catch('turnover').parse(params.get('measure')),
    by: Dimensions.catch('division').parse(params.get('by')),
    from,
    until,
    narrow: params.get('narrow') ?? '',
  };
};

export const useCrossTable = (asked: Asked) => {
  const { query } = useLens();
  return useQuery({
    queryKey: ['cross-table', asked, query],
    queryFn: () => call(measureEndpoints.crossTable, { query: { ...asked, ...query } }),
    placeholderData: keepPreviousData,
    retry: false,
  });
};

/** So many people behind a figure come at a time. */
export const PEOPLE = 500;

/** The cell that is open, as `key~month` in the address; its people page by page. */
export const useWhy = (asked: Asked, cell: { key: string; month: string }) => {
  const { query } = useLens();
  const why = useInfiniteQuery({
    queryKey: ['why', asked, cell, query],
    initialPageParam: 0,
    queryFn: ({ pageParam }) =>
      call(measureEndpoints.why, {
        query: { ...asked, ...query, ...cell, limit: PEOPLE, offset: pageParam },
      }),
    getNextPageParam: (last, pages) => {
      const shown = pages.reduce((sum, page) => sum + page.people.length, 0);
      return shown < last.total ? shown : undefined;
    },
    placeholderData: keepPreviousData,
    retry: false,
  });
  // something was recorded between two pages: they are asked for anew, or somebody might be missing or twice
  const { data, refetch } = why;
  const isMixed = new Set(data?.pages.map(({ entry }) => entry)).size > 1;
  useEffect(() => {
    if (isMixed) void refetch();
  }, [isMixed, data, refetch]);
  return why;
};

/** Where a report is taken out as a file: a table, or with a cell the people behind it. */
export const useFileAddress = (asked: Asked, cell?: { key: string; month: string }) => {
  const { i18n } = useTranslation();
  const { query } = useLens();
  const language = i18n.language === 'de' ? 'de' : 'en';
  return (format: 'csv' | 'xlsx'): string => {
    const wanted = { ...asked, ...query, ...cell, format, language } as Record<string, string>;
    const { path } = cell ? measureEndpoints.whyFile : measureEndpoints.crossTableFile;
    return `${path}?${new URLSearchParams(wanted).toString()}`;
  };
};

export type { CrossOut, WhyOut };
