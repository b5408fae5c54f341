import {
  type CalendarDay,
  type Day,
  type Holiday,
  type SectionName,
  calendarEndpoints,
} from '@gremium/contract';
import { yearDays } from '@gremium/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { call } from '../api';
import type { Said } from '../time/said-line';
import { refreshTouched } from '../time/touched';
import { changeThing, lastEntryOf, makeThing } from '../time/write-record';

type Told = { entry: number | null; touched: readonly SectionName[] };

type NewRate = { id: number; from: Day; rate: unknown; basis: number; said: string };
type ReadDays = { days: CalendarDay[]; left: number };

/** Records and removes holidays and exchange rates; what was done is told in a sentence. */
export const useCalendarActs = (onSaid: (said: Said) => void) => {
  const queries = useQueryClient();
  const tell = async (text: string, { entry, touched }: Told) => {
    await refreshTouched(queries, touched);
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
        changeThing('holiday', {
          id,
          basedOn: (await lastEntryOf('holiday', id)) ?? 0,
          edit: { mode: 'remove', row },
        }),
      onSuccess: (told, { said }) => tell(said, told),
    }),
    addRate: useMutation({
      mutationFn: ({ values, from }: { values: Record<string, unknown>; from: Day | null; said: string }) =>
        makeThing('exchange_rate', values, from),
      onSuccess: (told, { said }) => tell(said, told),
    }),
    newRate: useMutation({
      mutationFn: ({ id, from, rate, basis }: NewRate) =>
        changeThing('exchange_rate', { id, basedOn: basis, edit: { mode: 'set', from, values: { rate } } }),
      onSuccess: (told, { said }) => tell(said, told),
    }),
  };
};

/** Reads the whole days of a year out of a calendar file. */
export const useReadCalendar = () =>
  useMutation({
    mutationFn: async ({ file, year }: { file: File; year: number }): Promise<ReadDays> => {
      const { first, last } = yearDays(year);
      return call(calendarEndpoints.readCalendar, {
        body: { text: await file.text(), from: first, until: last },
      });
    },
  });
