// What is done with own sections and fields: made, changed, put elsewhere, retired; each an entry, with its undo.
import {
  DEFINING,
  type FieldSetting,
  type OwnField,
  type OwnSection,
  type SectionRowOut,
  recordEndpoints,
} from '@gremium/contract';
import { codeFrom } from '@gremium/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { call } from '../api';
import { latestRows } from '../time/catalogue-now';
import type { Said } from '../time/said-line';
import { changeThing, lastEntryOf, makeThing } from '../time/write-record';
import { refreshTouched } from '../time/touched';

/** A definition with the row that says it. */
export type Definition<V> = { id: number; row: number; values: V };
/** A section with its fields, both in their order. */
export type SectionDefined = Definition<OwnSection> & { fields: Definition<OwnField>[] };

type Kind = 'own_section' | 'own_field';
type Change = { kind: Kind; of: Definition<object>; values: Record<string, unknown> };

const byPlace = (a: Definition<{ place: number }>, b: Definition<{ place: number }>): number =>
  a.values.place - b.values.place || a.id - b.id;

const definitionsIn = <V>(rows: readonly SectionRowOut[], section: Kind): Definition<V>[] =>
  [...latestRows(rows, section).values()].map(({ thing, id, values }) => ({
    id: thing,
    row: id,
    values: values as V,
  }));

/** Own sections with their fields, of the reference rows. */
export const sectionsDefined = (rows: readonly SectionRowOut[]): SectionDefined[] => {
  const fields = definitionsIn<OwnField>(rows, 'own_field').sort(byPlace);
  return definitionsIn<OwnSection>(rows, 'own_section')
    .sort(byPlace)
    .map((one) => ({ ...one, fields: fields.filter(({ values }) => values.sectionId === one.id) }));
};

const GAP = 10;

/** The places to be written so that one stands before another one, or last: its own where there is room, else all. */
export const placesFor = (
  all: readonly Definition<{ place: number }>[],
  moved: number,
  before: number | null,
): { id: number; place: number }[] => {
  const others = all.filter(({ id }) => id !== moved);
  const at = before === null ? others.length : others.findIndex(({ id }) => id === before);
  const [low, high] = [others[at - 1]?.values.place ?? -GAP, others[at]?.values.place];
  if (high === undefined) return [{ id: moved, place: low + GAP }];
  const middle = Math.floor((low + high) / 2);
  if (middle > low && middle < high && middle >= 0) return [{ id: moved, place: middle }];
  const order = [...others.slice(0, at).map(({ id }) => id), moved, ...others.slice(at).map(({ id }) => id)];
  return order
    .map((id, i) => ({ id, place: i * GAP }))
    .filter(({ id, place }) => all.find((one) => one.id === id)?.values.place !== place);
};

const write = async (changes: readonly Change[]) => {
  const edits = await Promise.all(
    changes.map(async ({ kind, of, values }) => ({
      ...{ kind, id: of.id, section: kind, basedOn: (await lastEntryOf(kind, of.id)) ?? 0 },
      edit: { mode: 'mend' as const, row: of.row, values },
    })),
  );
  return call(recordEndpoints.saveEdits, { body: { edits, words: {} } as never });
};

export type NewField = { values: Omit<OwnField, 'place'> & { place: number }; choices: readonly string[] };

/** A code made of a label that no other choice has: choices of all own fields are one list. */
export const freeCode = (label: string, taken: ReadonlySet<string>): string => {
  const code = codeFrom(label);
  for (let n = 2; ; n++) {
    const one = taken.has(code) ? `${code.slice(0, 36)}-${n}` : code;
    if (!taken.has(one)) return one;
  }
};

/** Codes of the choices that there are of own fields. */
export const ownCodes = (rows: readonly SectionRowOut[]): string[] =>
  rows.flatMap(({ section, values }) =>
    section === 'list_entry' && values['list'] === 'own' ? [String(values['code'])] : [],
  );

// A field, and the choices that are made for it: each an entry of its own.
const makeField = async ({ values, choices }: NewField, codes: readonly string[]) => {
  const made = await makeThing('own_field', values, null);
  const taken = new Set(codes);
  for (const [place, label] of choices.entries()) {
    const code = freeCode(label, taken);
    taken.add(code);
    await makeThing(
      'list_entry',
      {
        ...{ list: 'own', code, label: { en: label, de: label }, flags: {} },
        ...{ place, ownFieldId: made.id },
      },
      null,
    );
  }
  return made;
};

export type SettingChange = {
  of: Pick<FieldSetting, 'section' | 'field'>;
  values: Partial<FieldSetting>;
};

// One setting a field: what there is already is changed.
const setField = async ({ of, values }: SettingChange, rows: readonly SectionRowOut[]) => {
  const there = [...latestRows(rows, 'field_setting').values()].find(
    (row) => row.values['section'] === of.section && row.values['field'] === of.field,
  );
  if (!there)
    return makeThing(
      'field_setting',
      { ...of, label: null, hiddenFrom: null, place: null, shownIn: null, ...values },
      null,
    );
  const edit = { mode: 'mend' as const, row: there.id, values };
  const basedOn = (await lastEntryOf('field_setting', there.thing)) ?? 0;
  return changeThing('field_setting', { id: there.thing, basedOn, edit });
};

/** The acts, and what was done last. */
export const useOwnActs = (rows: readonly SectionRowOut[]) => {
  const codes = ownCodes(rows);
  const queries = useQueryClient();
  const [done, setDone] = useState<Said | null>(null);
  const act = <A>(run: (asked: A) => Promise<{ entry: number | null; touched: never[] }>) => ({
    mutationFn: ({ asked }: { asked: A; text: string }) => run(asked),
    onSuccess: async (
      { entry, touched }: { entry: number | null; touched: never[] },
      { text }: { asked: A; text: string },
    ) => {
      setDone({ text, entry });
      await refreshTouched(queries, [...touched, ...DEFINING, 'list_entry'] as never);
    },
  });
  return {
    done,
    addSection: useMutation(act((values: OwnSection) => makeThing('own_section', values, null) as never)),
    addField: useMutation(act((asked: NewField) => makeField(asked, codes) as never)),
    setField: useMutation(act((asked: SettingChange) => setField(asked, rows) as never)),
    change: useMutation(act((changes: readonly Change[]) => write(changes) as never)),
  };
};

export type OwnActs = ReturnType<typeof useOwnActs>;
