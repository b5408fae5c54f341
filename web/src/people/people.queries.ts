import { peopleEndpoints } from '@gremium/contract';
import { keepPreviousData, useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { call } from '../api';
import { useLens } from '../frame/lens';
import { readsRecord } from '../time/touched';

export const STATUSES = ['here', 'coming', 'left', 'any'] as const;
export type StatusAsked = (typeof STATUSES)[number];
export type PeopleFilter = {
  search: string;
  status: StatusAsked;
  branch: number | undefined;
  location: number | undefined;
};

const PAGE = 100;

export const usePeople = ({ search, status, branch, location }: PeopleFilter) => {
  const { query } = useLens();
  return useInfiniteQuery({
    queryKey: ['people', query, search, status, branch, location],
    initialPageParam: 0,
    queryFn: ({ pageParam }) =>
      call(peopleEndpoints.people, {
        query: {
          ...query,
          status,
          limit: PAGE,
          offset: pageParam,
          ...(search ? { search } : {}),
          ...(branch ? { branch } : {}),
          ...(location ? { location } : {}),
        },
      }),
    getNextPageParam: (last, pages) => (pages.length * PAGE < last.total ? pages.length * PAGE : undefined),
    placeholderData: keepPreviousData,
    // emails are looked for, and not shown
    meta: { reads: [...readsRecord.person.around, 'person', ...(search ? (['contact'] as const) : [])] },
  });
};

export const usePersonRecord = (id: number) => {
  const { query } = useLens();
  return useQuery({
    queryKey: ['person', id, query],
    queryFn: () => call(peopleEndpoints.personRecord, { params: { id }, query }),
    placeholderData: (previous, before) => (before?.queryKey[1] === id ? previous : undefined),
    retry: false,
    meta: readsRecord.person,
  });
};
