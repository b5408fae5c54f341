import {
  type Bound,
  type CalendarDay,
  type Day,
  type Holiday,
  type Kind,
  calendarEndpoints,
  recordEndpoints,
} from '@gremium/contract';
import { BEGINNING } from '@gremium/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { call } from '../api';
import { refreshTouched } from '../time/touched';

/** What was written last: said after it. */
export type Said = { text: string; entry: number | null };

const lastEntryOf = async (kind: Kind, id: number): Promise<number> => {
  const { sections } = await call(recordEndpoints.record, { params: { kind, id }, query: {} });
  return sections.find(({ name }) => name === kind)?.lastEntry ?? 0;
};

type Told = { entry: number | null; touched: readonly string[] };

/** Records and removes holidays and exchange rates; what was done is told in a sentence. */
export const useCalendarActs = (onSaid: (said: Said) => void) => {
  const queries = useQueryClient();
  const tell = async (text: string, { entry, touched }: Told) => {
    await refreshTouched(queries, touched as never);
    onSaid({ text, entry });
  };
  return {
    record: useMutation({
      mutationFn: (asked: { holidays: Holiday[]; say: (recorded: number, known: number) => string }) =>
        call(calendarEndpoints.recordHolidays, {
          body: { holidays: asked.holidays, preview: false, words: {} },
        }),
      onSuccess: (told, { say }) => tell(say(told.recorded, told.known), told),
    }),
    remove: useMutation({
      mutationFn: async ({ id, row }: { id: number; row: number; said: string }) =>
        call(recordEndpoints.editRecord, {
          params: { kind: 'holiday', id, section: 'holiday' },
          body: {
            edit: { mode: 'remove', row },
            basedOn: await lastEntryOf('holiday', id),
            preview: false,
            words: {},
          },
        }),
      onSuccess: (told, { said }) => tell(said, told),
    }),
    addRate: useMutation({
      mutationFn: ({ values, from }: { values: Record<string, unknown>; from: Day | null; said: string }) =>
        call(recordEndpoints.createRecord, {
          params: { kind: 'exchange_rate' },
          body: {
            from: from ?? BEGINNING,
            until: 'infinity' as Bound,
            sections: { exchange_rate: values },
            preview: false,
            words: {},
          },
        }),
      onSuccess: (told, { said }) => tell(said, told),
    }),
    newRate: useMutation({
      mutationFn: ({
        id,
        from,
        rate,
        basis,
      }: {
        id: number;
        from: Day;
        rate: unknown;
        basis: number;
        said: string;
      }) =>
        call(recordEndpoints.editRecord, {
          params: { kind: 'exchange_rate', id, section: 'exchange_rate' },
          body: {
            edit: { mode: 'set', from, values: { rate }, override: false },
            basedOn: basis,
            preview: false,
            words: {},
          },
        }),
      onSuccess: (told, { said }) => tell(said, told),
    }),
  };
};

/** Reads the whole days of a year out of a calendar file. */
export const useReadCalendar = () =>
  useMutation({
    mutationFn: async ({
      file,
      year,
    }: {
      file: File;
      year: number;
    }): Promise<{ days: CalendarDay[]; left: number }> =>
      call(calendarEndpoints.readCalendar, {
        body: { text: await file.text(), from: `${year}-01-01` as Day, until: `${year}-12-31` as Day },
      }),
  });
