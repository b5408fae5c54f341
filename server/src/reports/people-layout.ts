// People as rows of a file of people: each field as that file says it, by codes and numbers, so that taken in again nothing differs.
import { ImportField, type SectionName } from '@gremium/contract';
import {
  type Evaluated,
  type ReportField,
  type Value,
  fieldMap,
  hiddenFor,
  managersOn,
  problem,
  rounded,
} from '@gremium/core';
import { Failure } from '../database/failure';
import type { Asking } from '../time/questions';
import { labelling } from './labels';

// What each column shows. What follows from a position (location, share) and what nobody keeps (the reason of a row) stays blank.
const SHOWN: Partial<Record<ImportField, string>> = {
  number: 'person.number',
  name: 'person_name.name',
  given: 'person_name.given',
  middle: 'person_name.middle',
  family: 'person_name.family',
  preferred: 'person_name.preferred',
  birthDate: 'person.birthDate',
  gender: 'person.gender',
  nationality: 'person.nationality',
  language: 'person.language',
  firstDay: 'employment.begins',
  lastDay: 'employment.ends',
  seniorityDate: 'employment.seniorityDate',
  workerType: 'employment.workerTypeId',
  legalEntity: 'employment.legalEntityId',
  position: 'placement.positionId',
  unit: 'position.unitId',
  job: 'position.jobId',
  hours: 'placement.hours',
  contract: 'contract.kindId',
  fixedUntil: 'contract.fixedUntil',
  probationUntil: 'contract.probationUntil',
  payKind: 'pay.kindId',
  pay: 'pay.amount',
  currency: 'pay.currency',
  basis: 'pay.basis',
};

/** The columns of such a file, in their order. */
export const peopleColumns = ImportField.options.filter(
  (name) =>
    SHOWN[name] !== undefined ||
    name === 'email' ||
    name === 'phone' ||
    name === 'from' ||
    name === 'manager',
);

// The first of each kind, as files of people mean it: the primary one.
const contactsOf = ({ facts, sight, looking }: Asking): Map<string, string> => {
  const found = new Map<string, { value: string; primary: boolean }>();
  if (!sight.has('contact')) return new Map();
  for (const { values } of facts.columns.allOn('contact', looking.on)) {
    const { personId, kind, value, primary } = values;
    if (!sight.person(personId, 'contact')) continue;
    const key = `${kind} ${personId}`;
    const known = found.get(key);
    if (!known || (primary && !known.primary)) found.set(key, { value, primary });
  }
  return new Map([...found].map(([key, { value }]) => [key, value]));
};

const isRatio = (
  value: Value,
): value is Exclude<Value, string | number | boolean | null | readonly number[]> =>
  typeof value === 'object' && value !== null && 'num' in value;

/** Lines of an evaluated view of people; the sections that stand in them. */
export const peopleLines = (
  asking: Asking,
  found: Evaluated,
  language: 'en' | 'de',
): { lines: (row: number) => (string | null)[]; sections: SectionName[] } => {
  const { facts, sight, looking } = asking;
  const { cursor } = found;
  if (cursor.table.declared.name !== 'person_name')
    throw new Failure([problem('subject_unknown', { named: cursor.table.declared.name }, 'layout')]);
  const fields = fieldMap(facts, 'person_name');
  const hidden = hiddenFor(sight);
  const labels = labelling(asking, language);
  const contacts = contactsOf(asking);
  const managers = sight.has('placement') ? managersOn(facts, looking.on) : new Map<number, number>();
  const numberOf = { id: 'plain.person', meta: { is: 'ref', kind: 'person' } } as unknown as ReportField;
  const shown = peopleColumns.map((name) => {
    const field = fields.get(SHOWN[name] ?? '');
    return { name, field: field && hidden(field) === null ? field : null };
  });
  const text = (field: ReportField): string | null => {
    const value = field.read(cursor);
    if (value === null || value === undefined) return null;
    if (field.kind === 'thing' || field.kind === 'entry') return labels.codeOf(field, value as number);
    if (field.kind === 'hundredths') return String((value as number) / 100);
    return isRatio(value) ? rounded(value, 4).replace(/\.?0+$/, '') : String(value);
  };
  const lines = (row: number): (string | null)[] => {
    found.goTo(row);
    const person = cursor.table.things.ids[cursor.table.thing[cursor.slot] as number] as number;
    return shown.map(({ name, field }) => {
      if (name === 'from') return looking.on;
      if (name === 'email' || name === 'phone') return contacts.get(`${name} ${person}`) ?? null;
      if (name === 'manager') {
        const above = managers.get(person) ?? null;
        return above === null ? null : labels.codeOf(numberOf, above);
      }
      return field ? text(field) : null;
    });
  };
  const sections = shown.flatMap(({ field }) => field?.needs ?? []) as SectionName[];
  return {
    lines,
    sections: [...new Set<SectionName>([...sections, ...(contacts.size > 0 ? ['contact' as const] : [])])],
  };
};
