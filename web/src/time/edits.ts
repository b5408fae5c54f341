// Sections of one record that are being changed and not yet saved: one draft per record.
import {
  type Bound,
  type Edit,
  type Problem,
  type RecordOut,
  type SectionName,
  preset,
  recordEndpoints,
} from '@gremium/contract';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useCallback } from 'react';
import { useTranslation } from 'react-i18next';
import { Refused, call } from '../api';
import { discardDraft, keepDraft, useDraft } from '../movements/drafts';
import { fieldsOf } from '../ui/fields';
import { readTyped } from '../ui/typed';

export type Mode = 'set' | 'mend';
export type SectionEdit = {
  section: SectionName;
  thing: number;
  /** Not chosen yet for a day in the past: it is asked. */
  mode: Mode | null;
  from: Bound;
  /** The version being mended, or the one in effect on `from`. */
  row: number;
  /** Only what was changed. */
  values: Record<string, unknown>;
  /** What stood there when the editing began, to be compared with what stands there now. */
  base: Record<string, unknown>;
  basedOn: number;
};
type Words = Partial<Record<Problem['code'], string>>;
type Content = { edits: Record<string, SectionEdit>; reason: string; words?: Words };

export const editKey = (section: SectionName, thing: number): string => `${section} ${thing}`;

const typedIn = ({ section, values }: SectionEdit, language: string) =>
  Object.entries(values).map(([name, value]) => {
    const field = fieldsOf(section).find((candidate) => candidate.name === name);
    return [name, field ? readTyped(field, value, language) : { value }] as const;
  });

/** Whether all that was typed could be read: else nothing is saved, and the field says why. */
export const isRead = (edit: SectionEdit, language: string): boolean =>
  typedIn(edit, language).every(([, read]) => !('problem' in read));

const wireEdit = (edit: SectionEdit, language: string): Edit => {
  const { mode, from, row } = edit;
  const wired = Object.fromEntries(
    typedIn(edit, language).map(([name, read]) => [name, 'problem' in read ? edit.values[name] : read.value]),
  );
  return mode === 'mend'
    ? { mode: 'mend', row, values: wired }
    : { mode: 'set', from, values: wired, override: false };
};

/** Reads and writes the unsaved sections of a record. */
export const useEdits = (kind: 'person' | 'position', id: number) => {
  const { language } = useTranslation().i18n;
  const key = `edit${kind}${id}`;
  const draft = useDraft(key);
  const queries = useQueryClient();
  const content = (draft?.content as Content | undefined) ?? { edits: {}, reason: '' };
  const edits = Object.values(content.edits);

  const write = useCallback(
    (next: Content): void => {
      if (Object.keys(next.edits).length === 0) return void discardDraft(key);
      keepDraft({ key, kind: 'edit', about: `${kind} ${id}`, content: next });
    },
    [key, kind, id],
  );
  const put = (edit: SectionEdit) =>
    write({ ...content, edits: { ...content.edits, [editKey(edit.section, edit.thing)]: edit } });
  const drop = (edit: SectionEdit) =>
    write({
      ...content,
      edits: Object.fromEntries(
        Object.entries(content.edits).filter(([name]) => name !== editKey(edit.section, edit.thing)),
      ),
    });

  const written = JSON.stringify(content.edits);
  const save = useMutation({
    mutationFn: (_written: string) =>
      call(recordEndpoints.saveEdits, {
        body: {
          edits: edits.map((edit) => ({
            kind: preset.has(edit.section) ? preset.section(edit.section).kind : 'own_row',
            id: edit.thing,
            section: edit.section,
            edit: wireEdit(edit, language),
            basedOn: edit.basedOn,
          })),
          ...(content.reason ? { reason: content.reason } : {}),
          words: Object.fromEntries(Object.entries(content.words ?? {}).filter(([, word]) => word.trim())),
        },
      }),
    onSuccess: async () => {
      await discardDraft(key);
      await queries.invalidateQueries();
    },
  });
  return {
    edits,
    reason: content.reason,
    keptAt: draft?.keptAt ?? null,
    put,
    drop,
    words: content.words ?? {},
    setReason: (reason: string) => write({ ...content, reason }),
    setWord: (code: Problem['code'], word: string) =>
      write({ ...content, words: { ...content.words, [code]: word } }),
    discardAll: () => write({ edits: {}, reason: '' }),
    save,
    saveAll: () => save.mutate(written),
    /** Why the last save was refused, as long as nothing else is written since. */
    refusal: save.variables === written ? save.error : null,
    conflicts: conflictsIn(save.error),
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
