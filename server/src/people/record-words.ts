// Values of a record in words, for what is written on the server.
import {
  type Catalogue,
  type FieldMeta,
  type FileRef,
  type Row,
  type SectionName,
  fieldLabel,
  orderedMetas,
} from '@gremium/contract';
import { labels as de } from '@gremium/contract/labels/de';
import { labels as en } from '@gremium/contract/labels/en';
import { codeName } from '@gremium/core';
import { type OwnLabels, subjectLabel } from '../files/plain-subjects';

export type Language = 'en' | 'de';

/** Names of things and labels of list entries, by "kind id". */
export type Names = ReadonlyMap<string, string>;

/** What values are said with: the sections, what things and own sections and fields are called, in a language. */
export type Saying = { catalogue: Catalogue; names: Names; own: OwnLabels; language: Language };

const catalogues = { en, de };

/** What a section is called. */
export const sectionWord = (name: SectionName, { own, language }: Saying): string =>
  subjectLabel(name, language, own);

/** A day as a language writes it: 1 Dec 2026, 01.12.2026; the open ends in words. */
export const dayWord = (day: string, language: Language): string => {
  if (day === '-infinity') return language === 'de' ? 'Anfang' : 'the beginning';
  if (day === 'infinity') return language === 'de' ? 'offen' : 'open';
  const options =
    language === 'de'
      ? { dateStyle: 'medium' as const }
      : { day: 'numeric' as const, month: 'short' as const, year: 'numeric' as const };
  return new Intl.DateTimeFormat(language === 'de' ? 'de-DE' : 'en-GB', {
    ...options,
    timeZone: 'UTC',
  }).format(new Date(`${day}T00:00:00Z`));
};

const number = (value: number | string, language: Language): string =>
  new Intl.NumberFormat(language === 'de' ? 'de-DE' : 'en-GB', { maximumFractionDigits: 4 }).format(
    Number(value),
  );

/** A value in words; an empty text where there is none. */
export const valueWord = (meta: FieldMeta, value: unknown, { names, language }: Saying): string => {
  if (value === null || value === undefined) return '';
  const choice = (one: unknown) =>
    (catalogues[language].choice as Record<string, string>)[String(one)] ?? String(one);
  switch (meta.is) {
    case 'day':
      return dayWord(String(value), language);
    case 'ref':
      return names.get(`${meta.kind} ${String(value)}`) ?? '';
    case 'list':
      return names.get(`list_entry ${String(value)}`) ?? '';
    case 'lists':
      return (value as number[]).map((id) => names.get(`list_entry ${id}`) ?? '').join(', ');
    case 'refs':
      return (value as number[]).map((id) => names.get(`${meta.kind} ${id}`) ?? '').join(', ');
    case 'choice':
      return choice(value);
    case 'choices':
      return (value as string[]).map(choice).join(', ');
    case 'yes_no':
      return language === 'de' ? (value ? 'ja' : 'nein') : value ? 'yes' : 'no';
    case 'hundredths':
      return number((value as number) / 100, language);
    case 'decimal':
    case 'number':
      return number(value as string, language);
    case 'file':
      return (value as FileRef).name;
    case 'country':
    case 'language':
      return codeName(
        language === 'de' ? 'de' : 'en-GB',
        meta.is === 'country' ? 'region' : 'language',
        String(value),
      );
    case 'json':
      return Object.values(value as object).join(' ');
    default:
      return String(value);
  }
};

/** The fields of a row that say something, each with its label; whose it is is left out. */
export const factsOf = (
  { section, values }: Pick<Row, 'section' | 'values'>,
  saying: Saying,
): { label: string; value: string }[] => {
  const declared = saying.catalogue.section(section);
  return orderedMetas(declared.metas).flatMap(([field, meta]) => {
    if (field === declared.owner?.field || meta.quiet) return [];
    const value = valueWord(meta, (values as Record<string, unknown>)[field], saying);
    const label = ownOrPreset(section, field, saying);
    return value === '' ? [] : [{ label, value }];
  });
};

const ownOrPreset = (section: SectionName, field: string, saying: Saying): string =>
  saying.catalogue.section(section).metas.get(field)?.label?.[saying.language] ??
  saying.own.get(field)?.[saying.language] ??
  fieldLabel(catalogues[saying.language], section, field) ??
  field;
