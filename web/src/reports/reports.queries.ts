import {
  type ReportFieldOut,
  type ReportKept,
  type ViewDefinition,
  reportEndpoints,
} from '@gremium/contract';
import {
  keepPreviousData,
  useInfiniteQuery,
  useMutation,
  useQuery,
  useQueryClient,
} from '@tanstack/react-query';
import { useTranslation } from 'react-i18next';
import { call } from '../api';
import { useLens } from '../frame/lens';

const useLanguage = (): 'en' | 'de' => (useTranslation().i18n.language === 'de' ? 'de' : 'en');

/** The shelf: whatever may be opened. */
export const useShelf = (enabled = true) => {
  const language = useLanguage();
  return useQuery({
    enabled,
    queryKey: ['reports', language],
    queryFn: () => call(reportEndpoints.reports, { query: { language } }),
    meta: { reads: [] },
  });
};

/** What reports can be about, and the fields of one subject. */
export const useReportFields = (subject?: string) => {
  const language = useLanguage();
  return useQuery({
    enabled: subject !== undefined,
    queryKey: ['report-fields', subject, language],
    queryFn: () =>
      call(reportEndpoints.reportFields, {
        query: { language, ...(subject ? { subject: subject as ViewDefinition['subject'] } : {}) },
      }),
    placeholderData: keepPreviousData,
    staleTime: 60_000,
    retry: false,
    meta: { reads: ['own_section', 'own_field'] },
  });
};

/** A view worked out on the day looked at: its first rows, with groups and totals of all. */
export const useReportRun = (view: ViewDefinition | null, limit: number) => {
  const language = useLanguage();
  const { query } = useLens();
  return useQuery({
    queryKey: ['report-run', view, query, limit, language],
    queryFn: ({ signal }) =>
      call(
        reportEndpoints.runReport,
        { body: { view: view as ViewDefinition, ...query, language, limit, offset: 0 } },
        { signal },
      ),
    enabled: view !== null && view.columns.length > 0,
    placeholderData: keepPreviousData,
    retry: false,
  });
};

const PAGE = 100;

/** A view page by page, for a list that is scrolled. */
export const useReportPages = (view: ViewDefinition) => {
  const language = useLanguage();
  const { query } = useLens();
  return useInfiniteQuery({
    queryKey: ['report-pages', view, query, language],
    initialPageParam: 0,
    queryFn: ({ pageParam, signal }) =>
      call(
        reportEndpoints.runReport,
        { body: { view, ...query, language, limit: PAGE, offset: pageParam } },
        { signal },
      ),
    getNextPageParam: (last, pages) => (pages.length * PAGE < last.matched ? pages.length * PAGE : undefined),
    placeholderData: keepPreviousData,
    retry: false,
  });
};

/** Ids of the things that a condition matches; null where nothing is asked. */
export const useMatching = (subject: string, condition: string) => {
  const language = useLanguage();
  const { query } = useLens();
  const found = useQuery({
    queryKey: ['matching', subject, condition, query, language],
    enabled: condition !== '',
    queryFn: async () => {
      const body = { subject: subject as ViewDefinition['subject'], condition, language, ...query };
      return new Set((await call(reportEndpoints.matching, { body })).ids);
    },
    placeholderData: keepPreviousData,
    retry: false,
  });
  return { ids: condition === '' ? null : found.data, error: condition === '' ? null : found.error };
};

/** Codes and labels that a field can be compared with. */
export const useReportChoices = (subject: string, field: ReportFieldOut | undefined) => {
  const language = useLanguage();
  const { query } = useLens();
  const isListed = field?.kind === 'entry' || field?.kind === 'entries' || field?.kind === 'thing';
  return useQuery({
    queryKey: ['report-choices', subject, field?.id, query, language],
    queryFn: () =>
      call(reportEndpoints.reportChoices, {
        query: {
          subject: subject as ViewDefinition['subject'],
          field: field?.id ?? '',
          search: '',
          language,
          ...query,
        },
      }),
    enabled: isListed,
  });
};

/** Keeps a report anew or as it now is, takes it from the shelf, brings it back. */
export const useKeepReport = () => {
  const queries = useQueryClient();
  const onSuccess = () => queries.invalidateQueries({ queryKey: ['reports'] });
  return {
    save: useMutation({
      mutationFn: ({ id, kept }: { id: number | null; kept: ReportKept }) =>
        id === null
          ? call(reportEndpoints.makeReport, { body: kept })
          : call(reportEndpoints.changeReport, { params: { id }, body: kept }),
      onSuccess,
    }),
    remove: useMutation({
      mutationFn: (id: number) => call(reportEndpoints.deleteReport, { params: { id } }),
      onSuccess,
    }),
    restore: useMutation({
      mutationFn: (id: number) => call(reportEndpoints.restoreReport, { params: { id } }),
      onSuccess,
    }),
  };
};

/** Gives a file to whoever looks at the page. */
export const saveBlob = (blob: Blob, name: string): void => {
  const address = URL.createObjectURL(blob);
  const link = Object.assign(document.createElement('a'), { href: address, download: name });
  link.click();
  URL.revokeObjectURL(address);
};
