import { type TakeOutAsk, type TakeOutLine, takeOutEndpoints } from '@gremium/contract';
import { useInfiniteQuery, useMutation, useQueryClient } from '@tanstack/react-query';
import { useTranslation } from 'react-i18next';
import { Refused, call } from '../api';
import { useLens } from '../frame/lens';

const PAGE = 50;
const KEY = ['take-outs'] as const;

/** What was taken out, newest first; asked again while something is worked on. */
export const useTakeOuts = () =>
  useInfiniteQuery({
    queryKey: KEY,
    initialPageParam: 0,
    queryFn: ({ pageParam }) =>
      call(takeOutEndpoints.takeOuts, { query: { limit: PAGE, offset: pageParam } }),
    getNextPageParam: (last, pages) => (pages.length * PAGE < last.total ? pages.length * PAGE : undefined),
    refetchInterval: ({ state }) =>
      state.data?.pages.some(({ takeOuts }) => takeOuts.some(({ work }) => work !== null)) ? 1000 : false,
  });

/** Where the file of one is fetched. */
export const fileOf = (id: number): string => `/api/take-outs/${id}/file`;

// Tells when nothing of it is worked on any more: the server says so.
const ended = (id: number): Promise<void> =>
  new Promise((resolve) => {
    const events = new EventSource(`/api/take-outs/${id}/progress`);
    const end = () => {
      events.close();
      resolve();
    };
    events.onmessage = ({ data }: MessageEvent<string>) => {
      if (!(JSON.parse(data) as Pick<TakeOutLine, 'work'>).work) end();
    };
    // the stream ends when the work does; if it broke off, what stands is asked
    events.onerror = end;
  });

type Asked = Pick<TakeOutAsk, 'title' | 'parts' | 'format'>;

/** Takes views out as a file, and fetches it as soon as it is there; leaving the page stops nothing. */
export const useTakeOut = () => {
  const { i18n } = useTranslation();
  const { query } = useLens();
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (asked: Asked): Promise<TakeOutLine> => {
      const language = i18n.language === 'de' ? 'de' : 'en';
      const { id } = await call(takeOutEndpoints.takeOut, { body: { ...asked, language, ...query } });
      void queries.invalidateQueries({ queryKey: KEY });
      await ended(id);
      const line = await call(takeOutEndpoints.takenOut, { params: { id } });
      // what could not be written says why
      if (line.state !== 'ready') throw new Refused(422, line.trouble);
      Object.assign(document.createElement('a'), { href: fileOf(id), download: '' }).click();
      return line;
    },
    onSettled: () => queries.invalidateQueries({ queryKey: KEY }),
  });
};

/** Stops one, or deletes its file. */
export const useCancelTakeOut = () => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (id: number) => call(takeOutEndpoints.cancelTakeOut, { params: { id } }),
    onSettled: () => queries.invalidateQueries({ queryKey: KEY }),
  });
};
