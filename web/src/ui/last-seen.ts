// Records looked at last: their ids alone, by account, in this browser; names are asked for by whoever may see them.
import type { Found, Kind } from '@gremium/contract';
import { recordEndpoints } from '@gremium/contract';
import { useQuery } from '@tanstack/react-query';
import { useEffect } from 'react';
import { call } from '../api';
import { useLens } from '../frame/lens';
import { useSession } from '../frame/session';

const MOST = 8;
const KINDS: readonly string[] = ['person', 'unit', 'position', 'job'] satisfies Found['kind'][];

const keyOf = (account: number): string => `gremium-seen-${account}`;
const seenBy = (account: number): string[] =>
  (localStorage.getItem(keyOf(account)) ?? '').split(',').filter(Boolean);

/** Notes that a record is looked at. */
export const useSeen = (kind: Kind, id: number): void => {
  const { account } = useSession().viewer;
  useEffect(() => {
    if (!KINDS.includes(kind)) return;
    const own = `${kind}:${id}`;
    const others = seenBy(account).filter((other) => other !== own);
    localStorage.setItem(keyOf(account), [own, ...others].slice(0, MOST).join(','));
  }, [account, kind, id]);
};

/** The records looked at last, by name. */
export const useLastSeen = (): Found[] => {
  const { account } = useSession().viewer;
  const { query } = useLens();
  const of = seenBy(account).join(',');
  const found = useQuery({
    queryKey: ['named', of, query],
    enabled: of !== '',
    queryFn: () => call(recordEndpoints.named, { query: { of, ...query } }),
    retry: false,
  });
  return of === '' ? [] : (found.data?.found ?? []);
};
