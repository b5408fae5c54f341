// What files about plain subjects have as columns: made of the declared section, for templates, reading and taking out alike.
import type { z } from 'zod';
import type { Catalogue } from '../catalogue';
import type { SectionName } from '../sections';
import type { FieldMeta, Kind, Section } from '../time/section';

/** A column of a file about a subject. */
export type PlainColumn = {
  /** `id`, `from`, `of` (whose it is, where the section stands beside another one), or a field, with its language. */
  name: string;
  is: 'id' | 'from' | 'of' | 'field';
  field?: string;
  /** Of words in both languages: which of them. */
  part?: 'en' | 'de';
  meta?: FieldMeta;
  /** What `of` names. */
  kind?: Kind;
  /** Needed of what is new. */
  required: boolean;
  /** May be emptied. */
  clears: boolean;
};

/** Why files about a section are not plain. */
export type NotPlain = 'people_file' | 'movement' | 'definition' | 'picture' | 'file' | 'by_oneself';

const NOT_PLAIN: Readonly<Record<string, NotPlain>> = {
  person: 'people_file',
  employment: 'people_file',
  contract: 'people_file',
  placement: 'movement',
  own_section: 'definition',
  own_field: 'definition',
  field_setting: 'definition',
  role: 'definition',
  person_photo: 'picture',
  document: 'file',
  confidential_document: 'file',
  declared_fact: 'by_oneself',
};

/** Why there are no plain files about a section; null where there are. */
export const notPlain = (name: string): NotPlain | null => NOT_PLAIN[name] ?? null;

/** Sections that files can be about, beside people. */
export const plainSubjects = (catalogue: Catalogue): SectionName[] =>
  catalogue.names.filter((name) => notPlain(name) === null);

const isNullable = (section: Section, field: string): boolean => field in section.nulls;

// Words in both languages are two columns.
const isWords = (section: Section, field: string): boolean => {
  const schema = section.fields.shape[field] as z.ZodType | undefined;
  const inner = (schema as { unwrap?: () => z.ZodType } | undefined)?.unwrap?.() ?? schema;
  const shape = (inner as { shape?: Record<string, unknown> } | undefined)?.shape;
  return shape !== undefined && Object.keys(shape).join() === 'en,de';
};

// What stands in a new version where nobody says it.
const USUAL: Readonly<Record<string, unknown>> = {
  flags: {},
  sources: {},
  madeOnHire: false,
  confirmedTop: false,
  temporary: false,
  primary: false,
  active: true,
  standing: 'in_force',
  handoverDays: 0,
  logo: null,
};

/** What a field is in a new version that does not say it: null where it may be empty; nothing where it must be said. */
export const usualOf = (section: Section, field: string): unknown =>
  field in section.nulls ? null : USUAL[field];

/** The columns of files about a section, in the order of its fields. */
export const plainColumns = (section: Section): PlainColumn[] => {
  const columns: PlainColumn[] = [
    { name: 'id', is: 'id', required: false, clears: false },
    { name: 'from', is: 'from', required: false, clears: false },
  ];
  // beside the section that carries a thing: whose it is stands in a column of its own
  if (!section.base && section.own === null)
    columns.push({ name: 'of', is: 'of', kind: section.kind, required: true, clears: false });
  for (const [field, meta] of section.metas) {
    // a file of rows cannot hold files
    if (meta.is === 'file') continue;
    const clears = isNullable(section, field);
    const required = !clears && USUAL[field] === undefined;
    if (isWords(section, field))
      for (const part of ['en', 'de'] as const)
        columns.push({ name: `${field}.${part}`, is: 'field', field, part, meta, required, clears });
    else columns.push({ name: field, is: 'field', field, meta, required, clears });
  }
  return columns;
};

/** Fields by which rows of one owner are told apart, where none has an id: what they are of, kind, code, currency, step. */
export const keyFields = (section: Section): string[] => {
  const keys = [...section.metas].flatMap(([field, meta]) => {
    if (field === section.owner?.field) return [field];
    if (field in section.nulls) return [];
    const isKey =
      meta.is === 'code' ||
      meta.is === 'list' ||
      meta.is === 'currency' ||
      meta.is === 'country' ||
      field === 'step';
    return isKey || KEYS.has(`${section.name}.${field}`) ? [field] : [];
  });
  const code = keys.find((field) => section.metas.get(field)?.is === 'code');
  // a code says it alone; entries of lists are known by list and code
  if (code) return section.name === 'list_entry' ? ['list', code] : [code];
  return keys;
};

const KEYS = new Set([
  'holiday.day',
  'contact.kind',
  'contact.use',
  'dotted_line.toId',
  'position_evaluation.evaluatedOn',
  'exchange_rate.code',
  'postal_address.use',
  'emergency_contact.contactName',
  'dependant.dependantName',
  'identifier.number',
  'bank_account.purpose',
  'one_off_payment.paidOn',
  'cost_split.costCentreId',
  'spoken_language.language',
  'medical_fitness.examinedOn',
  'disciplinary_measure.imposedOn',
  'asset.label',
  'profile_link.address',
  'note.about',
  'payroll_number.number',
  'award.awardedOn',
]);
