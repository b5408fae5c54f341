// Entries of a list as the page shows them: of list entries or of things of their own, in one shape.
import { type Bound, type PickList, type Row, type SectionName, pickLists } from '@gremium/contract';
import { type Register, RowRegister } from '@gremium/core';
import { useMemo } from 'react';
import { useTranslation } from 'react-i18next';
import { useLens } from '../frame/lens';
import { useReference } from '../time/time.queries';
import { asRows } from '../time/time.queries';

export type Entry = {
  id: number;
  code: string;
  /** In the language of the page. */
  name: string;
  /** Its latest version. */
  row: Row;
  /** Its first and last version's bounds. */
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

const entriesOf = (
  register: Register,
  list: PickList,
  { language, on }: { language: string; on: string },
): Entry[] => {
  const ids = new Set([...register.all(list.kind as 'list_entry')].map(({ thing }) => thing));
  return [...ids]
    .flatMap((id): Entry[] => {
      const versions = register.rows(list.kind as SectionName, id) as unknown as Row[];
      const [first, last] = [versions[0], versions.at(-1)];
      if (!first || !last || !isIn(list, last)) return [];
      const { code } = last.values as { code: string };
      const isRetired = last.until <= on;
      return [
        { id, code, name: nameIn(last, language), row: last, from: first.from, until: last.until, isRetired },
      ];
    })
    .sort((a, b) => Number(a.isRetired) - Number(b.isRetired) || a.name.localeCompare(b.name));
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
