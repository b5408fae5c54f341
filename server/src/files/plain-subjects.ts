// What files about plain subjects call their columns, in both languages, and by what headings they are known.
import {
  type Catalogue,
  type FieldMeta,
  type OwnColumn,
  type PlainColumn,
  type Section,
  type SectionName,
  type Viewer,
  fieldLabel,
  ownFieldName,
  ownName,
  plainColumns,
  plainSubjects,
  reportWordsOf,
  seenSection,
} from '@gremium/contract';
import { labels as de } from '@gremium/contract/labels/de';
import { labels as en } from '@gremium/contract/labels/en';
import { headingKey } from '@gremium/core';
import { fail } from '../database/failure';
import type { Db } from '../database/sql';
import { many } from '../database/sql';
import { allRows } from '../time/version.sql';

const LANGUAGES = { en, de };
type Language = keyof typeof LANGUAGES;

const OWN = {
  en: { id: 'Id', from: 'In effect from' },
  de: { id: 'ID', from: 'Gültig ab' },
};

/** What own sections and fields are called, by their names. */
export type OwnLabels = ReadonlyMap<string, Record<Language, string>>;

/** Labels of the organisation's own sections and fields. */
export const ownLabels = async (db: Db, catalogue: Catalogue): Promise<OwnLabels> => {
  const found = new Map<string, Record<Language, string>>();
  for (const section of ['own_section', 'own_field'] as const) {
    const rows = await many<{ thing: number; values: { label: Record<Language, string> } }>(
      db,
      allRows(catalogue.section(section), null),
    );
    for (const { thing, values } of rows)
      found.set(section === 'own_section' ? ownName(thing) : ownFieldName(thing), values.label);
  }
  return found;
};

/** The section a file is about, with the fields that the viewer sees; refused where there are no plain files about it. */
export const plainSection = (
  catalogue: Catalogue,
  subject: string,
  { grants }: Pick<Viewer, 'grants'>,
): Section => {
  if (!plainSubjects(catalogue).includes(subject as SectionName))
    return fail('subject_unknown', { named: subject }, 'subject');
  return seenSection(catalogue.section(subject), grants);
};

const PEOPLE = { en: 'People', de: 'Personen' };

/** What files about a subject are called. */
export const subjectLabel = (section: string, language: Language, own: OwnLabels): string =>
  (section === 'people' ? PEOPLE[language] : undefined) ??
  reportWordsOf[language].subjects[section] ??
  (LANGUAGES[language].section as Record<string, string>)[section] ??
  own.get(section)?.[language] ??
  section;

/** What a column is called. */
export const columnLabel = (
  section: Section,
  { is, field, part, kind }: PlainColumn,
  language: Language,
  own: OwnLabels,
): string => {
  const texts = LANGUAGES[language];
  if (is === 'id' || is === 'from') return OWN[language][is];
  if (is === 'of') return (texts.kind as Record<string, string>)[kind ?? ''] ?? '';
  const name = field ?? '';
  const called = section.metas.get(name)?.label ?? own.get(name);
  const label = called?.[language] ?? fieldLabel(texts, section.name, name) ?? name;
  return part ? `${label} (${part})` : label;
};

/** Headings by which columns are known (keys), with the columns they say: names, and labels in both languages. */
export const headingsOf = (section: Section, own: OwnLabels): Map<string, string> => {
  const names = new Map<string, string>();
  // the organisation's own word for a preset field, and what it is called everywhere
  const presetly: Section = {
    ...section,
    metas: new Map([...section.metas].map(([name, { label: _, ...meta }]) => [name, meta as FieldMeta])),
  };
  for (const called of [section, presetly])
    for (const column of plainColumns(called))
      for (const name of [
        column.name,
        columnLabel(called, column, 'en', own),
        columnLabel(called, column, 'de', own),
      ])
        if (!names.has(headingKey(name))) names.set(headingKey(name), column.name);
  return names;
};

/** What an option is called, in any language. */
export const wordsOf = (option: string): string[] =>
  (['en', 'de'] as const).flatMap(
    (language) => (LANGUAGES[language].choice as Record<string, string>)[option] ?? [],
  );

/** What columns of own fields are called in files of people, by their names; with their section where two fields are called alike. */
export const ownColumnLabels = (
  columns: readonly OwnColumn[],
  own: OwnLabels,
  language: Language,
): Map<string, string> => {
  const labelOf = ({ field, meta }: OwnColumn): string => (meta.label ?? own.get(field))?.[language] ?? field;
  const counts = new Map<string, number>();
  for (const column of columns) counts.set(labelOf(column), (counts.get(labelOf(column)) ?? 0) + 1);
  return new Map(
    columns.map((column) => {
      const label = labelOf(column);
      const section = own.get(column.section)?.[language] ?? '';
      return [column.name, counts.get(label) === 1 ? label : `${section}: ${label}`];
    }),
  );
};

/** Headings (keys) by which own fields are known in a file of people: those that mean one field only. */
export const ownHeadings = (columns: readonly OwnColumn[], own: OwnLabels): Map<string, string> => {
  const found = new Map<string, string | null>();
  for (const language of ['en', 'de'] as const)
    for (const [name, label] of ownColumnLabels(columns, own, language)) {
      const key = headingKey(label);
      const known = found.get(key);
      found.set(key, known === undefined || known === name ? name : null);
    }
  return new Map([...found].flatMap(([key, name]) => (name === null ? [] : [[key, name]])));
};
