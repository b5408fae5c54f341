// Entries of a list as the page shows them: of list entries or of things of their own, in one shape.
import {
  type Bound,
  type Day,
  type PickList,
  type Row,
  type SectionName,
  pickLists,
} from '@gremium/contract';
import { type Register, RowRegister, isBefore } from '@gremium/core';
import { useMemo } from 'react';
import { useTranslation } from 'react-i18next';
import { useLens } from '../frame/lens';
import type { Texts } from '../texts/en';
import { asRows, useReference } from '../time/time.queries';

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
  const { list: own, flags } = (row as Row<'list_entry'>).values;
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

/** All lists with their entries; null until they are known. */
export const useLists = (): ListOf[] | null => {
  const { i18n } = useTranslation();
  const { on } = useLens();
  const rows = useReference();
  const { language } = i18n;
  return useMemo(() => {
    if (!rows) return null;
    const register = new RowRegister(asRows(rows));
    return pickLists.map((list) => ({ list, entries: entriesOf(register, list, { language, on }) }));
  }, [rows, language, on]);
};

/** What a list is called: by itself, else as among the options of a field. */
export const useListName = () => {
  const { t, i18n } = useTranslation();
  return ({ name, list }: PickList): string => {
    if (name) return i18n.language === 'de' ? name.de : name.en;
    const said = t(`choice.${list as keyof Texts['choice']}`);
    return said.charAt(0).toUpperCase() + said.slice(1);
  };
};
