import { z } from 'zod';

/** Kinds of things that the register keeps; each has a table of ids of that name. */
export const Kind = z.enum([
  'organisation',
  'list_entry',
  'legal_entity',
  'location',
  'cost_centre',
  'unit',
  'grade',
  'grade_range',
  'job',
  'position',
  'person',
  'contact',
  'employment',
  'contract',
  'placement',
  'pay',
]);
export type Kind = z.infer<typeof Kind>;

/** Id of a thing, a row or an entry: one sequence numbers them all, so an id never means two things. */
export const Id = z.int().positive();
export type Id = z.infer<typeof Id>;

/** A field that names another thing. The law `reference_missing` asks that it exists on every day of the row. */
export const refTo = (kind: Kind) => Id.meta({ ref: kind });

/** A field that names a thing which need not exist on the days of the row (an employment that this one continues). */
export const refToPast = (kind: Kind) => Id.meta({ ref: kind, past: true });

/** Decimal text, never a binary number: up to 13 digits before and 4 after the point; zeros at its end are dropped. */
export const Decimal = z
  .string()
  .regex(/^-?\d{1,13}(\.\d{1,4})?$/, { error: 'decimal_invalid' })
  .overwrite((text) => (text.includes('.') ? text.replace(/\.?0+$/, '') : text))
  .meta({ decimal: true });

/** Hours or shares in hundredths: 37.5 h is 3750. */
export const Hundredths = z.int().min(0).max(1_000_000);

const isZone = (name: string): boolean => {
  if (!/^[A-Za-z][\w+-]*(\/[\w+-]+)*$/.test(name)) return false;
  try {
    return new Intl.DateTimeFormat('en', { timeZone: name }).resolvedOptions().timeZone !== '';
  } catch {
    return false;
  }
};
/** A time zone by its name in the IANA database: one that is not in it would leave nobody a "today". */
export const TimeZone = z.string().max(60).refine(isZone, { error: 'time_zone_unknown' });

export const Text = z.string().trim().min(1).max(200);
export const Code = z.string().trim().min(1).max(40);
export const Currency = z.string().regex(/^[A-Z]{3}$/, { error: 'currency_invalid' });
export const Country = z.string().regex(/^[A-Z]{2}$/, { error: 'country_invalid' });

/**
 * One part of a thing that is kept in versions: its table is `<name>_version`, its columns are the fields in snake case.
 * `base` sections carry the thing's existence: the thing exists on the days its base section has a version.
 */
export type Section<F extends z.ZodRawShape = z.ZodRawShape> = {
  name: string;
  kind: Kind;
  base: boolean;
  fields: z.ZodObject<F>;
};

export const section = <N extends string, F extends z.ZodRawShape>(
  name: N,
  kind: Kind,
  fields: z.ZodObject<F>,
) => ({ name, kind, base: name === kind, fields }) as const;

const innermost = (schema: z.ZodType): z.ZodType => {
  if (schema instanceof z.ZodNullable || schema instanceof z.ZodOptional)
    return innermost(schema.unwrap() as z.ZodType);
  if (schema instanceof z.ZodDefault) return innermost(schema.unwrap() as z.ZodType);
  return schema;
};

/** How a field is kept: decimal text as numeric, objects and arrays as JSON, the rest as it is. */
export const storageOf = (schema: unknown): 'decimal' | 'json' | 'plain' => {
  const inner = innermost(schema as z.ZodType);
  if (inner.meta()?.['decimal']) return 'decimal';
  return inner instanceof z.ZodObject || inner instanceof z.ZodArray || inner instanceof z.ZodRecord
    ? 'json'
    : 'plain';
};

/** What a value of a field is in memory: the id of another thing, a whole number, yes or no, an object, or text. */
export const cellOf = (schema: unknown): 'reference' | 'number' | 'boolean' | 'json' | 'text' => {
  const inner = innermost(schema as z.ZodType);
  if (inner.meta()?.['ref']) return 'reference';
  if (storageOf(inner) === 'json') return 'json';
  if (inner instanceof z.ZodNumber) return 'number';
  return inner instanceof z.ZodBoolean ? 'boolean' : 'text';
};

export type Reference = { field: string; kind: Kind; past: boolean };

/** The fields of a section that name other things, with the kind each names. */
export const refsOf = (of: Pick<Section, 'fields'>): Reference[] =>
  Object.entries(of.fields.shape).flatMap(([field, schema]) => {
    const meta = innermost(schema as z.ZodType).meta();
    return meta?.['ref'] ? [{ field, kind: meta['ref'] as Kind, past: meta['past'] === true }] : [];
  });
