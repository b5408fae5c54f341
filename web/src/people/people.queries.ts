import { peopleEndpoints } from '@gremium/contract';
import { keepPreviousData, useInfiniteQuery } from '@tanstack/react-query';
import { call } from '../api';
import { useLens } from '../frame/lens';
import { readsOf } from '../time/touched';

export const STATUSES = ['here', 'counted', 'coming', 'left', 'any'] as const;
export type StatusAsked = (typeof STATUSES)[number];
export type PeopleFilter = {
  search: string;
  status: StatusAsked;
  branch: number | undefined;
  itself: boolean;
  location: number | undefined;
  where: string;
  photos: boolean;
};

const PAGE = 100;

export const usePeople = ({ search, status, branch, itself, location, where, photos }: PeopleFilter) => {
  const { query } = useLens();
  return useInfiniteQuery({
    queryKey: ['people', query, search, status, branch, itself, location, where, photos],
    initialPageParam: 0,
    queryFn: ({ pageParam }) =>
      call(peopleEndpoints.people, {
        query: {
          ...query,
          status,
          limit: PAGE,
          offset: pageParam,
          ...(search ? { search } : {}),
          ...(branch ? { branch, ...(itself ? { itself: 'yes' as const } : {}) } : {}),
          ...(location ? { location } : {}),
          ...(where ? { where } : {}),
          ...(photos ? { photos: 'yes' as const } : {}),
        },
      }),
    getNextPageParam: (last, pages) => (pages.length * PAGE < last.total ? pages.length * PAGE : undefined),
    placeholderData: keepPreviousData,
    // emails are looked for, and not shown
    ...(where ? { retry: false } : {}),
    // a condition may read anything
    meta: where
      ? {}
      : { reads: [...readsOf('person').around, 'person', ...(search ? (['contact'] as const) : [])] },
  });
};
