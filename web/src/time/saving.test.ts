// What a save does to what is shown: rows that came back take their places, and nothing else is asked for.
import { describe, expect, test } from '@jest/globals';
import type { RecordOut } from '@gremium/contract';
import { QueryClient, QueryObserver } from '@tanstack/react-query';
import { beginRow } from './begin-edit';
import { isReady, neededIn } from './edits';
import { mergeRecord } from './merge-record';
import { readsOf, refreshTouched } from './touched';

const row = (id: number, thing: number, value: string) =>
  ({ id, thing, section: 'contact', from: '-infinity', until: 'infinity', values: { value } }) as never;
const last = (thing: number, number: number) => ({ section: 'contact' as const, thing, number });
const entry = (id: number, number: number) => ({ id, number }) as never;
const record = {
  rows: [row(1, 10, 'a'), row(2, 20, 'b')],
  lastEntries: [last(10, 5), last(20, 5)],
  entries: [entry(100, 5)],
  names: [],
  managers: [],
} as RecordOut;

describe('a record with rows that came back', () => {
  test('has them in place of those of the same section of the same thing', () => {
    const merged = mergeRecord(record, {
      rows: [row(3, 20, 'c'), row(4, 30, 'd')],
      lastEntries: [last(20, 6), last(30, 6)],
      entries: [entry(101, 6)],
      names: [{ kind: 'person', id: 1, name: 'A' }],
    });
    expect(merged.rows.map(({ id }) => id)).toEqual([1, 3, 4]);
    expect(merged.lastEntries.map(({ thing, number }) => [thing, number])).toEqual([
      [10, 5],
      [20, 6],
      [30, 6],
    ]);
    expect(merged.entries.map(({ number }) => number)).toEqual([6, 5]);
    expect(record.rows).toHaveLength(2);
  });

  test('loses those that are no longer there', () => {
    const merged = mergeRecord(record, { rows: [], lastEntries: [last(20, 6)], entries: [], names: [] });
    expect(merged.rows.map(({ id }) => id)).toEqual([1]);
  });
});

describe('what is asked for anew', () => {
  const askedBy = async (touched: string[], merged?: readonly [string, number]): Promise<string[]> => {
    const queries = new QueryClient();
    const asked: string[] = [];
    const watch = (key: unknown[], meta?: object) => {
      queries.setQueryData(key, 1);
      const observer = new QueryObserver(queries, {
        queryKey: key,
        queryFn: () => {
          asked.push(key.join(' '));
          return 2;
        },
        staleTime: Infinity,
        ...(meta ? { meta: meta as never } : {}),
      });
      observer.subscribe(() => undefined);
    };
    watch(['person', 1], readsOf('person'));
    watch(['units'], { reads: ['unit'] });
    watch(['people'], { reads: ['person_name', 'placement'] });
    watch(['journal']);
    watch(['session']);
    watch(['preview', 'x']);
    await refreshTouched(queries, touched as never, merged);
    queries.clear();
    return asked.sort();
  };

  test('is what shows a section that was touched, and what does not say what it shows', async () => {
    expect(await askedBy(['unit'])).toEqual(['journal', 'person 1', 'units']);
    expect(await askedBy(['contact'])).toEqual(['journal', 'person 1']);
    expect(await askedBy(['organisation'])).toEqual(['journal', 'session']);
    expect(await askedBy(['own.7'])).toEqual(['journal', 'person 1']);
  });

  test('but not the record whose rows came back, unless what is around it was touched', async () => {
    expect(await askedBy(['contact'], ['person', 1])).toEqual(['journal']);
    expect(await askedBy(['person_name'], ['person', 1])).toEqual(['journal', 'people', 'person 1']);
  });
});

describe('one row more', () => {
  test('begins with whose it is, and says what it still needs', () => {
    const edit = beginRow('contact', 7, { on: '2026-11-23' as never, thing: -1 });
    expect(edit).toMatchObject({ mode: 'create', base: { personId: 7, primary: false } });
    expect(neededIn(edit, 'en')).toEqual(['kind', 'use', 'value']);
    const whole = { ...edit, values: { kind: 'phone', use: 'work', value: '+1 555' } };
    expect([isReady(edit, 'en'), isReady(whole, 'en')]).toEqual([false, true]);
  });
});
