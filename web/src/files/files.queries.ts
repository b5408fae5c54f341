import { type ImportLine, type ImportOut, type RowStatus, fileEndpoints } from '@gremium/contract';
import {
  keepPreviousData,
  useInfiniteQuery,
  useMutation,
  useQuery,
  useQueryClient,
} from '@tanstack/react-query';
import { useEffect } from 'react';
import { useTranslation } from 'react-i18next';
import { call, upload } from '../api';
import { makeThing } from '../time/write-record';

const PAGE = 100;

export const fileKeys = {
  all: ['imports'] as const,
  list: ['imports', 'list'] as const,
  one: (id: number) => ['imports', 'one', id] as const,
  rows: (id: number, status: RowStatus) => ['imports', 'rows', id, status] as const,
};

export const useImports = () =>
  useInfiniteQuery({
    queryKey: fileKeys.list,
    initialPageParam: 0,
    queryFn: ({ pageParam }) => call(fileEndpoints.imports, { query: { limit: PAGE, offset: pageParam } }),
    getNextPageParam: (last, pages) => (pages.length * PAGE < last.total ? pages.length * PAGE : undefined),
  });

/** One import; while it is worked on, events of the server say how far it is. */
export const useImport = (id: number) => {
  const queries = useQueryClient();
  const query = useQuery({
    queryKey: fileKeys.one(id),
    queryFn: () => call(fileEndpoints.import, { params: { id } }),
    retry: false,
  });
  const isWorking = (query.data?.work ?? null) !== null;
  useEffect(() => {
    if (!isWorking) return;
    const events = new EventSource(`/api/imports/${id}/progress`);
    events.onmessage = ({ data }: MessageEvent<string>) => {
      const { work } = JSON.parse(data) as Pick<ImportLine, 'work'>;
      if (work) queries.setQueryData<ImportOut>(fileKeys.one(id), (old) => (old ? { ...old, work } : old));
      else {
        events.close();
        void queries.invalidateQueries();
      }
    };
    // the stream ends when the work does; if it broke off, ask how things stand
    events.onerror = () => {
      events.close();
      void queries.invalidateQueries({ queryKey: fileKeys.all });
    };
    return () => events.close();
  }, [id, isWorking, queries]);
  return query;
};

export const useImportRows = (id: number, status: RowStatus, limit: number, enabled = true) =>
  useQuery({
    queryKey: [...fileKeys.rows(id, status), limit],
    queryFn: () => call(fileEndpoints.importRows, { params: { id }, query: { status, limit } }),
    placeholderData: keepPreviousData,
    enabled,
  });

/** What is in the register, and not in the file; asked for when somebody wants to know. */
export const useMissing = (id: number, enabled: boolean) =>
  useQuery({
    queryKey: ['imports', 'missing', id],
    queryFn: () => call(fileEndpoints.importMissing, { params: { id } }),
    enabled,
  });

/** Adds what a cell says to the list it is to be one of, and checks again. */
export const useAddToList = (id: number) => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async ({ list, text }: { list: string; text: string }) => {
      const code = text
        .normalize('NFD')
        .replace(/[^A-Za-z0-9]+/g, '_')
        .toUpperCase()
        .replace(/^_+|_+$/g, '');
      const values = {
        ...{ list, code: code.slice(0, 30) || 'NEW', label: { en: text, de: text }, flags: {} },
        ...{ meaning: null, place: null, ownFieldId: null },
      };
      await makeThing('list_entry', values, null);
      await call(fileEndpoints.checkImport, { params: { id } });
    },
    onSettled: () => queries.invalidateQueries({ queryKey: fileKeys.all }),
  });
};

/** What files can be about, with their columns. */
export const useImportSubjects = () => {
  const { i18n } = useTranslation();
  return useQuery({
    queryKey: ['import-subjects', i18n.language],
    queryFn: async () => (await call(fileEndpoints.importSubjects, {})).subjects,
    staleTime: 60_000,
  });
};

/** What can be done with an import; afterwards it is asked for anew. */
export const useImportActs = (id: number) => {
  const queries = useQueryClient();
  const done = { onSettled: () => queries.invalidateQueries({ queryKey: fileKeys.all }) };
  const params = { id };
  type Body<E extends keyof typeof fileEndpoints> = Parameters<
    typeof call<(typeof fileEndpoints)[E]>
  >[1] extends { body: infer B }
    ? B
    : never;
  return {
    arrange: useMutation({
      mutationFn: (body: Body<'arrangeImport'>) => call(fileEndpoints.arrangeImport, { params, body }),
      ...done,
    }),
    repair: useMutation({
      mutationFn: (body: Body<'repairImport'>) => call(fileEndpoints.repairImport, { params, body }),
      ...done,
    }),
    leaveOut: useMutation({
      mutationFn: (body: Body<'leaveOutRows'>) => call(fileEndpoints.leaveOutRows, { params, body }),
      ...done,
    }),
    check: useMutation({ mutationFn: () => call(fileEndpoints.checkImport, { params }), ...done }),
    write: useMutation({
      mutationFn: (body: Body<'writeImport'>) => call(fileEndpoints.writeImport, { params, body }),
      ...done,
    }),
    cancel: useMutation({ mutationFn: () => call(fileEndpoints.cancelImport, { params }), ...done }),
  };
};

// Several files are one import: they go together.
const packed = async (files: readonly File[]): Promise<{ name: string; content: Blob }> => {
  const [only] = files;
  if (only && files.length === 1) return { name: only.name, content: only };
  const { default: JSZip } = await import('jszip');
  const zip = new JSZip();
  for (const file of files) zip.file(file.name, file);
  const names = files.map(({ name }) => name.replace(/\.[a-z]{3,4}$/i, ''));
  return {
    name: `${names.join(', ').slice(0, 190)}.zip`,
    content: await zip.generateAsync({ type: 'blob' }),
  };
};

/** Takes files in as one import; answers with its id. */
export const useTakeIn = (onTaken: (id: number) => void) => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async ({ files, subject }: { files: readonly File[]; subject: string }) => {
      if (files.length === 0) return 0;
      const { name, content } = await packed(files);
      return (await upload(fileEndpoints.uploadImport, { query: { name, subject } }, content)).id;
    },
    onSuccess: async (id) => {
      await queries.invalidateQueries({ queryKey: fileKeys.list });
      if (id) onTaken(id);
    },
  });
};
