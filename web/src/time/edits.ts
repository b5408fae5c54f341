// Sections of one record that are being changed and not yet saved: one draft per record.
import {
  type Bound,
  type Day,
  type Problem,
  type Kind,
  type RecordOut,
  type SectionEdit as WireEdit,
  type SectionName,
  recordEndpoints,
} from '@gremium/contract';
import { addDays } from '@gremium/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useCallback } from 'react';
import { Refused, call } from '../api';
import { fieldsOf } from '../ui/fields';
import { useReading } from '../texts/format';
import { readTyped } from '../ui/typed';
import { catalogueNow } from './catalogue-now';
import { mergeRecord } from './merge-record';
import { sectionDrafts } from './section-drafts';
import { refreshTouched } from './touched';
import { useKept } from './kept';
import { useFound } from './use-found';

/** It changed, it was wrong, one more begins, it ends. */
export type Mode = 'set' | 'mend' | 'create' | 'end';
export type SectionEdit = {
  section: SectionName;
  /** A new one has a number below nothing until it is saved. */
  thing: number;
  /** Not chosen yet for a day in the past: it is asked. */
  mode: Mode | null;
  /** From when; of an end, the last day. */
  from: Bound;
  /** Of what changes or begins: the last day it holds; afterwards what was there before goes on. */
  lastDay?: Day | null;
  /** What was typed for these days and is none. */
  unread?: { from?: string; lastDay?: string };
  /** The version being mended, or the one in effect on `from`. */
  row: number;
  /** Only what was changed. */
  values: Record<string, unknown>;
  /** What stood there when the editing began, to be compared with what stands there now. */
  base: Record<string, unknown>;
  basedOn: number;
  /** The section under which it was opened, where that is another one that shows fields of it. */
  at?: SectionName;
};
type Words = Partial<Record<Problem['code'], string>>;
type Content = { edits: Record<string, SectionEdit>; reason: string; words?: Words };

export const editKey = (section: SectionName, thing: number): string => `${section} ${thing}`;

const typedIn = ({ section, values }: SectionEdit, language: string) =>
  Object.entries(values).map(([name, value]) => {
    const field = fieldsOf(section).find((candidate) => candidate.name === name);
    return [name, field ? readTyped(field, value, language) : { value }] as const;
  });

const wiredValues = (edit: SectionEdit, language: string): Record<string, unknown> =>
  Object.fromEntries(
    typedIn(edit, language).map(([name, read]) => [name, 'problem' in read ? edit.values[name] : read.value]),
  );

/** Whether it can be saved: all that was typed could be read, and nothing is missing that is needed. */
export const isReady = (edit: SectionEdit, language: string): boolean => {
  if (edit.mode === null) return false;
  if (edit.mode !== 'mend' && Object.keys(edit.unread ?? {}).length > 0) return false;
  if (edit.mode === 'end') return true;
  if (typedIn(edit, language).some(([, read]) => 'problem' in read)) return false;
  // where nothing need be said, something must be
  if (edit.mode === 'create') return neededIn(edit, language).length === 0 && saysSomething(edit);
  return Object.keys(edit.values).length > 0;
};

const saysSomething = ({ values, section }: SectionEdit): boolean =>
  !section.startsWith('own.') || Object.values(values).some((value) => (value ?? null) !== null);

/** Fields of a new row that are needed and not there. */
export const neededIn = (edit: SectionEdit, language: string): string[] => {
  if (!catalogueNow().has(edit.section)) return [];
  const values = { ...edit.base, ...wiredValues(edit, language) };
  const declared = catalogueNow().section(edit.section);
  const { error } = declared.create.safeParse(values);
  const required = [...declared.metas].flatMap(([name, meta]) =>
    meta.required && (values[name] ?? null) === null ? [name] : [],
  );
  return [...new Set([...(error?.issues ?? []).map(({ path }) => String(path[0])), ...required])];
};

const kindOf = (section: SectionName) =>
  catalogueNow().has(section) ? catalogueNow().section(section).kind : 'own_row';

const wireEdit = (edit: SectionEdit, language: string): WireEdit => {
  const { section, mode, from, row, base, basedOn } = edit;
  const values = wiredValues(edit, language);
  const until: Bound = edit.lastDay ? addDays(edit.lastDay, 1) : 'infinity';
  if (mode === 'create') return { section, edit: { mode, from, until, values: { ...base, ...values } } };
  const of = { kind: kindOf(section), id: edit.thing, section, basedOn };
  if (mode === 'end') return { ...of, edit: { mode, lastDay: from } };
  return mode === 'mend'
    ? { ...of, edit: { mode, row, values } }
    : { ...of, edit: { mode: 'set', from, ...(edit.lastDay ? { until } : {}), values, override: false } };
};

const NOTHING: Content = { edits: {}, reason: '' };

// What is unsaved of a record, and how it is written down.
const useContent = (kind: Kind, id: number) => {
  const key = `edit${kind}${id}`;
  const draft = useKept(sectionDrafts, key);
  const content = (draft?.content as Content | undefined) ?? NOTHING;
  const write = useCallback(
    (next: Content): void => {
      if (Object.keys(next.edits).length === 0) return void sectionDrafts.discard(key);
      sectionDrafts.keep({ key, kind: 'edit', about: `${kind} ${id}`, content: next });
    },
    [key, kind, id],
  );
  return { key, content, keptAt: draft?.keptAt ?? null, write };
};

const useSave = (record: readonly [Kind, number], { key, content }: ReturnType<typeof useContent>) => {
  const language = useReading();
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (_written: string) =>
      call(recordEndpoints.saveEdits, {
        body: {
          edits: Object.values(content.edits).map((edit) => wireEdit(edit, language)),
          ...(content.reason ? { reason: content.reason } : {}),
          words: Object.fromEntries(Object.entries(content.words ?? {}).filter(([, word]) => word.trim())),
        },
      }),
    onSuccess: async ({ touched, ...saved }) => {
      await sectionDrafts.discard(key);
      // what now stands came back: the record need not be asked for
      queries.setQueriesData<RecordOut>({ queryKey: [...record] }, (old) => old && mergeRecord(old, saved));
      await refreshTouched(queries, touched, record);
    },
  });
};

/** Reads and writes the unsaved sections of a record. */
export const useEdits = (kind: Kind, id: number) => {
  const kept = useContent(kind, id);
  const { content, write, keptAt } = kept;
  const save = useSave([kind, id], kept);
  const written = JSON.stringify(content.edits);
  const language = useReading();
  const all = Object.values(content.edits);
  const found = useFound(
    all.every((edit) => isReady(edit, language)) ? all.map((edit) => wireEdit(edit, language)) : null,
  );
  const put = (edit: SectionEdit) =>
    write({ ...content, edits: { ...content.edits, [editKey(edit.section, edit.thing)]: edit } });
  const drop = (edit: SectionEdit) => {
    const { [editKey(edit.section, edit.thing)]: _, ...others } = content.edits;
    write({ ...content, edits: others });
  };
  return {
    edits: Object.values(content.edits),
    reason: content.reason,
    keptAt,
    put,
    drop,
    words: content.words ?? {},
    setReason: (reason: string) => write({ ...content, reason }),
    setWord: (code: Problem['code'], word: string) =>
      write({ ...content, words: { ...content.words, [code]: word } }),
    discardAll: () => write(NOTHING),
    save,
    saveAll: () => save.mutate(written),
    /** Why the last save was refused, as long as nothing else is written since. */
    refusal: save.variables === written ? save.error : null,
    conflicts: conflictsIn(save.error),
    /** What is odd or wrong in what is written, asked while it is typed. */
    found,
  };
};

export type Edits = ReturnType<typeof useEdits>;

export type Conflict = { section: SectionName; thing: number; entry: number; now: RecordOut['rows'] };

/** Sections that somebody else saved meanwhile, with what now stands. */
const conflictsIn = (error: Error | null): Conflict[] => {
  const problems: Problem[] = error instanceof Refused ? error.problems : [];
  return problems
    .filter(({ code }) => code === 'conflict')
    .map(({ params }) => ({
      section: params['section'] as SectionName,
      thing: params['thing'] as number,
      entry: params['entry'] as number,
      now: JSON.parse(params['now'] as string) as RecordOut['rows'],
    }));
};
