// The organisation's own sections as sections like the others, made of the rows that define them.
import { z } from 'zod';
import type { OwnName } from './sections';
import type { OwnField, OwnSection } from './structure/own';
import {
  type FieldMeta,
  type ListName,
  type Section,
  Decimal,
  Id,
  currency,
  day,
  decimal,
  field,
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
const Email = z
  .string()
  .trim()
  .max(200)
  .regex(/^[^\s@]+@[^\s@]+\.[^\s@]+$/, { error: 'email_invalid' });
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

const schemaOf = ({ id, values }: Defined<OwnField>): z.ZodType => {
  switch (values.kind) {
    case 'text':
      return text();
    case 'long_text':
      return textAs(Long, { long: true });
    case 'email':
      return field(Email, { is: 'email' });
    case 'phone':
      return field(Phone, { is: 'phone' });
    case 'link':
      return field(Link, { is: 'link' });
    case 'number':
      return decimal();
    case 'money':
      return field(Money, { is: 'json' });
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
      for (const one of own) shape[ownFieldName(one.id)] = schemaOf(one).nullable();
      const traits = {
        owner: 'ownerId',
        several: values.several,
        sensitive: values.sensitive,
        rare: true,
      };
      return section(ownName(id), 'own_row', z.strictObject(shape), traits, id) as unknown as Section;
    });
