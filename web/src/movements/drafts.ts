// Drafts live on the server, so that neither a closed browser nor another machine loses them. What is typed shows at once
// and is kept a moment later; whatever waits is sent when the page goes away.
import { type Draft, type KeptDraft, draftEndpoints } from '@gremium/contract';
import { type QueryClient, useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback } from 'react';
import { call } from '../api';

const KEEP_AFTER = 300;
const KEY = ['drafts'] as const;

const waiting = new Map<string, { draft: Draft; timer: ReturnType<typeof setTimeout> }>();

const send = async (queries: QueryClient, { key, ...body }: Draft, keepalive = false) => {
  waiting.delete(key);
  const { keptAt } = await call(draftEndpoints.keepDraft, { params: { key }, body }, { keepalive });
  queries.setQueryData<KeptDraft[]>(KEY, (all = []) =>
    all.map((draft) => (draft.key === key ? { ...draft, keptAt } : draft)),
  );
};

const forget = (key: string): void => {
  clearTimeout(waiting.get(key)?.timer);
  waiting.delete(key);
};

/** Sends what waits when the page is left or hidden. */
export const keepOnLeaving = (queries: QueryClient): void => {
  const flush = () => {
    for (const { draft, timer } of [...waiting.values()]) {
      clearTimeout(timer);
      void send(queries, draft, true);
    }
  };
  addEventListener('pagehide', flush);
  document.addEventListener('visibilitychange', () => document.visibilityState === 'hidden' && flush());
};

export const useDrafts = () =>
  useQuery({
    queryKey: KEY,
    queryFn: async () => (await call(draftEndpoints.drafts, {})).drafts,
    staleTime: Infinity,
  });

export const newKey = (): string =>
  [...crypto.getRandomValues(new Uint8Array(12))].map((byte) => byte.toString(16).padStart(2, '0')).join('');

/** Keeping and discarding drafts; what is kept shows at once. */
export const useKeepDraft = () => {
  const queries = useQueryClient();
  const keep = useCallback(
    (draft: Draft): void => {
      forget(draft.key);
      queries.setQueryData<KeptDraft[]>(KEY, (all = []) => [
        { ...draft, keptAt: all.find(({ key }) => key === draft.key)?.keptAt ?? ('' as KeptDraft['keptAt']) },
        ...all.filter(({ key }) => key !== draft.key),
      ]);
      waiting.set(draft.key, { draft, timer: setTimeout(() => void send(queries, draft), KEEP_AFTER) });
    },
    [queries],
  );
  const discard = useCallback(
    async (key: string): Promise<void> => {
      forget(key);
      queries.setQueryData<KeptDraft[]>(KEY, (all = []) => all.filter((draft) => draft.key !== key));
      await call(draftEndpoints.discardDraft, { params: { key } });
    },
    [queries],
  );
  return { keep, discard };
};

/** One draft as it now stands; undefined while drafts load, null if there is none. */
export const useDraft = (key: string | null): KeptDraft | null | undefined => {
  const drafts = useDrafts();
  if (!drafts.data) return undefined;
  return drafts.data.find((draft) => draft.key === key) ?? null;
};
