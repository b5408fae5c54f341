// Entries of a list as the page shows them: of list entries or of things of their own, in one shape.
import {
  type Bound,
  type Day,
  type PickList,
  type Row,
  type SectionName,
  type SectionRowOut,
  ownFieldName,
  ownPickList,
  pickLists,
} from '@gremium/contract';
import { type Register, RowRegister, isBefore } from '@gremium/core';
import { useMemo } from 'react';
import { useTranslation } from 'react-i18next';
import { useLens } from '../frame/lens';
import type { Texts } from '../texts/en';
import { ownFieldOf } from '../time/catalogue-now';
import { asRows, useReference } from '../time/time.queries';
import { sectionsDefined } from './own-acts';

export type Entry = {
  id: number;
  code: string;
  /** In the language of the page. */
  name: string;
  /** Its latest version. */
  row: Row;
  from: Bound;
  until: Bound;
  isRetired: boolean;
};

export type ListOf = { list: PickList; entries: Entry[] };

const isIn = (list: PickList, row: Row): boolean => {
  if (row.section !== list.kind) return false;
  if (list.kind !== 'list_entry') return true;
  const { list: own, flags, ownFieldId } = (row as Row<'list_entry'>).values;
  if (list.ownField !== undefined) return ownFieldId === list.ownField;
  return own === list.list && (!list.acts || (flags.acts ?? []).includes(list.acts));
};

const nameIn = (row: Row, language: string): string => {
  if (row.section !== 'list_entry') return String((row.values as { name?: string }).name ?? '');
  const { label } = (row as Row<'list_entry'>).values;
  return language === 'de' ? label.de : label.en;
};

/** Where an entry stands in an order of the list's own; after all those that have a place without one. */
const placeOf = ({ values }: Row): number => (values as { place?: number | null }).place ?? Infinity;

const entriesOf = (
  register: Register,
  list: PickList,
  { language, on }: { language: string; on: Day },
): Entry[] => {
  const ids = new Set([...register.all(list.kind as 'list_entry')].map(({ thing }) => thing));
  return [...ids]
    .flatMap((id): Entry[] => {
      const versions = register.rows(list.kind as SectionName, id);
      const [first, last] = [versions[0], versions.at(-1)];
      if (!first || !last || !isIn(list, last)) return [];
      const { code } = last.values as { code: string };
      const { from } = first;
      const { until } = last;
      return [
        { id, code, name: nameIn(last, language), row: last, from, until, isRetired: !isBefore(on, until) },
      ];
    })
    .sort(
      (a, b) =>
        Number(a.isRetired) - Number(b.isRetired) ||
        placeOf(a.row) - placeOf(b.row) ||
        a.name.localeCompare(b.name),
    );
};

// Choices of own fields are lists too, called as their fields.
const ownLists = (rows: readonly SectionRowOut[]): PickList[] =>
  sectionsDefined(rows).flatMap(({ fields }) =>
    fields.flatMap(({ id, values }) =>
      (values.kind === 'list' || values.kind === 'lists') && (values.list ?? 'own') === 'own'
        ? [ownPickList(id, values.label)]
        : [],
    ),
  );

/** All lists with their entries; null until they are known. */
export const useLists = (): ListOf[] | null => {
  const { i18n } = useTranslation();
  const { on } = useLens();
  const rows = useReference();
  const { language } = i18n;
  return useMemo(() => {
    if (!rows) return null;
    const register = new RowRegister(asRows(rows));
    return [...pickLists, ...ownLists(rows)].map((list) => ({
      list,
      entries: entriesOf(register, list, { language, on }),
    }));
  }, [rows, language, on]);
};

/** What a list is called: by itself, else as among the options of a field. */
export const useListName = () => {
  const { t, i18n } = useTranslation();
  return ({ name, list, ownField }: PickList): string => {
    const own = ownField === undefined ? undefined : ownFieldOf(ownFieldName(ownField))?.label;
    if (own) return i18n.language === 'de' ? own.de : own.en;
    if (name) return i18n.language === 'de' ? name.de : name.en;
    const said = t(`choice.${list as keyof Texts['choice']}`);
    return said.charAt(0).toUpperCase() + said.slice(1);
  };
};
