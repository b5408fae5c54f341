// How ids are called and coded where a view is worked out: entries by their labels, other things by names the viewer may see.
import {
  type Kind,
  type SectionName,
  type MovementKind,
  ledgers,
  movementOf,
  movements,
  ownFieldName,
  ownName,
  reportWordsOf,
  fieldLabel,
} from '@gremium/contract';
import { labels as de } from '@gremium/contract/labels/de';
import { labels as en } from '@gremium/contract/labels/en';
import { type Labelling, type ReportField, dayNumber, spokenName } from '@gremium/core';
import type { Asking } from '../time/questions';

const LANGUAGES = { en, de };
type Language = keyof typeof LANGUAGES;

const kindOf = ({ meta }: ReportField): Kind => (meta?.is === 'ref' ? meta.kind : 'list_entry');

/** Labels and codes of entries and things, each worked out once. */
export const labelling = (asking: Asking, language: Language): Labelling => {
  const { facts, sight, looking } = asking;
  const { columns } = facts;
  const day = dayNumber(looking.on);
  const labels = new Map<string, string>();
  const codes = new Map<string, string | null>();
  const isSeen = (kind: Kind, id: number): boolean => {
    if (kind === 'person') return sight.person(id);
    if (kind === 'unit') return sight.unit(id, day);
    if (kind === 'position') return sight.position(id, day);
    if (kind === 'employment') return sight.employment(id, day);
    return sight.has(kind as SectionName);
  };
  const label = (kind: Kind, id: number): string => {
    if (!isSeen(kind, id)) return '';
    if (kind === 'person') {
      const name = columns.at('person_name', id, looking.on) ?? columns.rows('person_name', id)[0]?.values;
      return name ? spokenName(name) : '';
    }
    if (kind === 'employment' || kind === 'placement') {
      const employment = kind === 'employment' ? id : columns.rows('placement', id)[0]?.values.employmentId;
      const person = columns.rows('employment', employment ?? 0)[0]?.values.personId;
      return person === undefined ? '' : label('person', person);
    }
    const values = (columns.at(kind as 'unit', id, looking.on) ??
      columns.rows(kind as 'unit', id).at(-1)?.values) as
      { title?: string; name?: string; label?: { en: string; de: string } } | undefined;
    return values?.label?.[language] ?? values?.title ?? values?.name ?? '';
  };
  const code = (kind: Kind, id: number, isKnown: boolean): string | null => {
    if (!isKnown && !isSeen(kind, id)) return null;
    const section = kind as SectionName;
    const values = (columns.at(section, id, looking.on) ?? columns.rows(section, id).at(-1)?.values) as
      { code?: string; number?: string } | undefined;
    if (kind === 'person') return sight.person(id, 'person') ? (values?.number ?? null) : null;
    return values?.code ?? String(id);
  };
  const kept = <T>(known: Map<string, T>, key: string, make: () => T): T => {
    const found = known.get(key);
    if (found !== undefined) return found;
    const made = make();
    known.set(key, made);
    return made;
  };
  return {
    labelOf: (field, id) => kept(labels, `${kindOf(field)} ${id}`, () => label(kindOf(field), id)),
    // where a unit of the viewer stands they know by the list too; what those above are called is not told
    codeOf: (field, id) =>
      kept(codes, `${field.id} ${id}`, () => code(kindOf(field), id, field.id === 'unit.within')),
  };
};

/** What own sections and fields are called, by their names. */
type OwnLabel = (name: string) => string | undefined;

const ownLabelIn = ({ facts }: Asking, language: Language): OwnLabel => {
  const { columns } = facts;
  const known = new Map<string, string>();
  for (const section of ['own_section', 'own_field'] as const)
    for (const { thing, values } of columns.all(section))
      known.set(section === 'own_section' ? ownName(thing) : ownFieldName(thing), values.label[language]);
  return (name) => known.get(name);
};

// Acts are called as their movement is, or as what was done.
const actIn = (act: string, language: Language): string | undefined =>
  act in movements ? movementOf(act as MovementKind).name[language] : reportWordsOf[language].acts[act];

/** What sections, fields and options are called in reports. */
export const namesIn = (asking: Asking, language: Language) => {
  const words = reportWordsOf[language];
  const own = ownLabelIn(asking, language);
  const texts = LANGUAGES[language];
  const sectionLabel = (name: string): string =>
    words.subjects[name] ?? (texts.section as Record<string, string>)[name] ?? own(name) ?? name;
  return {
    section: sectionLabel,
    field: ({ section, name, isWorkedOut, meta }: ReportField): string => {
      if (meta?.label && !isWorkedOut) return meta.label[language];
      if (ledgers.has(section)) return words.ledger[name] ?? name;
      // of units, jobs and the like the name is what they are called by
      const called = (texts.section as Record<string, string>)[section];
      if (name === 'name' && !isWorkedOut && called) return called;
      if (section === 'position' && name === 'title') return called ?? name;
      if (name === 'code' && called) return `${called}, ${fieldLabel(texts, section, name) ?? name}`;
      const said = isWorkedOut || !meta ? words.fields[name] : undefined;
      return said ?? own(name) ?? fieldLabel(texts, section, name) ?? name;
    },
    option: (value: string, field?: ReportField): string =>
      (field && ledgers.has(field.section) ? actIn(value, language) : undefined) ??
      (texts.choice as Record<string, string>)[value] ??
      words.options[value] ??
      value,
  };
};
