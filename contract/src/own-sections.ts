// The organisation's own sections as sections like the others, made of the rows that define them.
import { z } from 'zod';
import { isEmailForm } from './time/email-form';
import type { OwnName } from './sections';
import type { FieldSetting, OwnField, OwnSection } from './structure/own';
import {
  type FieldMeta,
  type ListName,
  type Section,
  Decimal,
  Id,
  Text,
  currency,
  day,
  decimal,
  field,
  file,
  metaOf,
  orderedMetas,
  refTo,
  section,
  text,
  textAs,
  yesNo,
} from './time/section';

/** A definition in force: its id with its values. */
export type Defined<V> = { id: number; values: V };

/** The name of an own section, by the id of its definition. */
export const ownName = (id: number): OwnName => `own.${id}`;
/** Under what an own field's values are kept: no number, as members named by numbers stand in their order, not in ours. */
export const ownFieldName = (id: number): string => `f${id}`;

/** The id in the name of an own field; null for what is none. */
export const ownFieldId = (name: string): number | null =>
  /^f\d+$/.test(name) ? Number(name.slice(1)) : null;

const Long = z.string().trim().min(1).max(4000);
const Email = z.string().trim().max(200).refine(isEmailForm, { error: 'email_invalid' });
const Phone = z
  .string()
  .trim()
  .regex(/^\+?[\d\s()/.-]{4,30}$/, { error: 'phone_invalid' });
const Link = z
  .string()
  .trim()
  .max(1000)
  .regex(/^https?:\/\/[^\s]+$/, { error: 'link_invalid' });
const Money = z.strictObject({ amount: Decimal, currency: currency() });

const listMeta = (is: 'list' | 'lists', id: number, { list }: OwnField): FieldMeta =>
  list === null || list === 'own' ? { is, list: 'own', ownField: id } : { is, list: list as ListName };

// A pattern as it is written: A a letter, 0 a digit, everything else itself.
const formed = (pattern: string): RegExp =>
  new RegExp(
    `^${[...pattern].map((sign) => (sign === 'A' ? '\\p{L}' : sign === '0' ? '\\d' : sign.replace(/[\\^$.*+?()[\]{}|/]/g, '\\$&'))).join('')}$`,
    'u',
  );

const patterned = (pattern: string | null | undefined): z.ZodType =>
  pattern
    ? field(
        Text.refine((said) => formed(pattern).test(said), { error: 'pattern_differs' }),
        { is: 'text' },
      )
    : text();

const ranged = ({ least = null, most = null }: Pick<OwnField, 'least' | 'most'>): z.ZodType =>
  least === null && most === null
    ? decimal()
    : field(
        Decimal.refine(
          (said) =>
            (least === null || Number(said) >= Number(least)) &&
            (most === null || Number(said) <= Number(most)),
          { error: 'outside_range' },
        ),
        { is: 'decimal' },
      );

const TEXTS: readonly OwnField['kind'][] = ['text', 'email', 'phone', 'link', 'number'];

// What its definition says beside its kind.
const schemaOf = (defined: Defined<OwnField>): z.ZodType => {
  const { kind, required, unique, retired, usual = null, atHire, searched } = defined.values;
  const schema = kindOf(defined);
  const isUnique = unique === true && TEXTS.includes(kind);
  return field(schema, {
    ...metaOf(kind, schema),
    ...(required && !retired ? { required: true as const } : {}),
    ...(isUnique ? { unique: true as const, looked: true as const } : {}),
    ...(usual !== null && !retired ? { usual } : {}),
    ...(atHire && !retired ? { atHire: true as const } : {}),
    ...(searched && TEXTS.includes(kind) ? { searched: true as const, looked: true as const } : {}),
    ...(retired ? { retired: true as const } : {}),
  });
};

const kindOf = ({ id, values }: Defined<OwnField>): z.ZodType => {
  switch (values.kind) {
    case 'text':
      return patterned(values.pattern);
    case 'long_text':
      return textAs(Long, { long: true });
    case 'email':
      return field(Email, { is: 'email' });
    case 'phone':
      return field(Phone, { is: 'phone' });
    case 'link':
      return field(Link, { is: 'link' });
    case 'number':
      return ranged(values);
    case 'money':
      return field(Money, { is: 'money' });
    case 'file':
      return file();
    case 'day':
      return day();
    case 'yes_no':
      return yesNo();
    case 'list':
      return field(Id, listMeta('list', id, values));
    case 'lists':
      return field(z.array(Id).min(1).max(100), listMeta('lists', id, values));
    case 'person':
    case 'unit':
    case 'location':
      return refTo(values.kind);
  }
};

/** Own sections in the order of their places; a field is kept under its id, so that its code and label may change. */
export const ownSections = (
  defined: readonly Defined<OwnSection>[],
  fields: readonly Defined<OwnField>[],
): Section[] =>
  [...defined]
    .sort((a, b) => a.values.place - b.values.place || a.id - b.id)
    .map(({ id, values }) => {
      const own = fields
        .filter((one) => one.values.sectionId === id)
        .sort((a, b) => a.values.place - b.values.place || a.id - b.id);
      const shape: Record<string, z.ZodType> = { ownerId: refTo(values.of, { followed: true }) };
      // nothing more is said in a section that is retired
      for (const one of own)
        shape[ownFieldName(one.id)] = schemaOf(
          values.retired ? { ...one, values: { ...one.values, retired: true } } : one,
        ).nullable();
      const { several, sensitive, seenBy = null, editedBy = null } = values;
      const given = seenBy || editedBy ? { see: seenBy, edit: editedBy } : null;
      const traits = { ...{ owner: 'ownerId', several, sensitive }, rare: true, ...(given ? { given } : {}) };
      return section(ownName(id), 'own_row', z.strictObject(shape), traits, id) as unknown as Section;
    });

/** Sections with what the organisation says of their fields; what is said of a field that there is not says nothing. */
export const withSettings = (
  sections: readonly Section[],
  settings: readonly Defined<FieldSetting>[],
): readonly Section[] => {
  if (settings.length === 0) return sections;
  const said = new Map(settings.map(({ values }) => [`${values.section}.${values.field}`, values]));
  const isNamed = new Set(settings.map(({ values }) => values.section));
  const names = new Set<string>(sections.map(({ name }) => name));
  return sections.map((section) =>
    isNamed.has(section.name)
      ? {
          ...section,
          metas: new Map(
            [...section.metas].map(([name, meta]) => [
              name,
              settled(meta, said.get(`${section.name}.${name}`), names),
            ]),
          ),
        }
      : section,
  );
};

const settled = (meta: FieldMeta, said: FieldSetting | undefined, names: ReadonlySet<string>): FieldMeta =>
  said
    ? {
        ...meta,
        ...(said.label ? { label: said.label } : {}),
        ...(said.hiddenFrom ? { hiddenFrom: said.hiddenFrom } : {}),
        ...(said.place === null ? {} : { place: said.place }),
        ...(said.shownIn !== null && names.has(said.shownIn) ? { shownIn: said.shownIn } : {}),
      }
    : meta;

/** Whether a value is one that a field can have. */
export const fitsOwnField = (defined: Defined<OwnField>, value: unknown): boolean =>
  kindOf(defined).safeParse(value).success;

/** A field of an own section that a hire asks for. */
export type AskedAtHire = { section: OwnName; field: string; meta: FieldMeta };

/** Fields of people's own sections that a hire asks for, in the order of sections and fields. */
export const askedAtHire = (sections: readonly Section[]): AskedAtHire[] =>
  sections.flatMap(({ name, own, owner, several, metas }) =>
    own === null || several || owner?.kind !== 'person'
      ? []
      : orderedMetas(metas).flatMap(([field, meta]) =>
          meta.atHire ? [{ section: name as OwnName, field, meta }] : [],
        ),
  );
