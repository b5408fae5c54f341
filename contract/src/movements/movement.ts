// What a movement is, declared once: its input, who may do it, from which day it holds. Its decision stands in core, its slip in web.
import { z } from 'zod';
import type { Right } from '../endpoint';
import { type FieldMeta, metaIn } from '../time/field';
import type { PresetName } from '../sections';
import type { Kind } from '../time/kind';

/** What is said of a movement once it has happened: left the old place, started at the new one, is back. */
export const Saying = z.enum(['left', 'started', 'back']);
export type Saying = z.infer<typeof Saying>;

/** What a movement says of itself. */
export type Movement<I extends z.ZodObject = z.ZodObject> = {
  /** What it is called, and so its entry. */
  name: { en: string; de: string };
  /** What is asked; each field by what it is, so that its input, its references and its slip are known. */
  input: I;
  right: Right;
  /**
   * The field with the first day on which it holds; where it is a last day, it holds from the day after. `isOpen`: it stands as it
   * is until somebody says another one, so that none is proposed.
   */
  day: { field: string; isLast?: true; isOpen?: true };
  /** It makes a person who needs a number. */
  numbers?: true;
  /** Where there is much that can be begun, it stands among what is wanted less often. */
  aside?: true;
  /** The word on what begins it ("Hire"). */
  act: { en: string; de: string };
  /** The letter that begins it on a record. */
  key?: string;
  /** Records it is begun from, each with the field that the record fills (one of `several`) and the states in which it is offered (any). */
  starts: { [R in Kind]?: { field: string; while?: readonly string[]; several?: true } };
  /** Sections it needs whole, because it may touch any of theirs: nothing else is written meanwhile. */
  whole?: readonly PresetName[];
  /** What has to be said once it has happened: so many days after the day of a field. */
  says?: readonly { what: Saying; field: string; after: number }[];
  /** It says something of an earlier one, by the placement: what has happened, or when it is planned now (`after` the day of its own). */
  marks?: { what: Saying; planned?: { after: number } };
  /** It tells what has happened: recorded whatever the limits are, above them by itself. */
  isFact?: true;
  /** Sections that change through it and not by themselves: they open it; in their place only what was wrong is mended. */
  doorTo?: readonly PresetName[];
};

/** Declares a movement, keeping its exact input. */
export const movement = <I extends z.ZodObject>(declared: Movement<I>): Movement<I> => declared;

/** A field of an input: where it stands, what it is, whether it must be said, and whether nothing is an answer. */
export type InputField = { path: string; meta: FieldMeta; isNeeded: boolean; isNullable: boolean };

type Schema = z.ZodType;
type Unwrapped = { schema: Schema; isOptional: boolean; isNullable: boolean };

const unwrap = (schema: Schema): Unwrapped => {
  const isOuter =
    schema instanceof z.ZodNullable ||
    schema instanceof z.ZodOptional ||
    schema instanceof z.ZodDefault ||
    schema instanceof z.ZodNonOptional;
  if (metaIn(schema) || !isOuter) return { schema, isOptional: false, isNullable: false };
  const inner = unwrap(schema.unwrap() as Schema);
  return {
    schema: inner.schema,
    isOptional: !(schema instanceof z.ZodNonOptional),
    isNullable: inner.isNullable || schema instanceof z.ZodNullable,
  };
};

/** What the field at a path of an input is ("pay.0.amount"); undefined where there is none. */
export const fieldAt = (input: Schema, path: string): InputField | undefined => {
  const found = reached(input, path);
  if (!found) return undefined;
  const { schema, isOptional, isNullable } = unwrap(found.schema);
  const meta = metaIn(schema);
  return meta && { path, meta, isNeeded: found.isNeeded && !isOptional, isNullable };
};

/** The schema of the field at a path, as it was declared; undefined where there is none. */
export const declaredAt = (input: Schema, path: string): Schema | undefined => {
  const found = reached(input, path);
  return found && unwrap(found.schema).schema;
};

/** A schema of a field as it was declared, out of what says that it may be left out or empty. */
export const unwrapped = (schema: Schema): Schema => unwrap(schema).schema;

// What stands at a path, and whether all that leads there must be said.
const reached = (input: Schema, path: string): { schema: Schema; isNeeded: boolean } | undefined => {
  let at: Schema[] = [input];
  let isNeeded = true;
  for (const step of path.split('.')) {
    at = at.flatMap((one) => {
      const { schema, isOptional } = unwrap(one);
      // what stands in a list need not be there at all
      if (isOptional || schema instanceof z.ZodArray) isNeeded = false;
      return inside(schema, step);
    });
  }
  const [schema] = at;
  return schema && { schema, isNeeded };
};

const inside = (schema: Schema, step: string): Schema[] => {
  if (schema instanceof z.ZodUnion) return (schema.options as Schema[]).flatMap((one) => inside(one, step));
  if (schema instanceof z.ZodArray) return [schema.element as Schema];
  if (schema instanceof z.ZodObject && step in schema.shape) return [schema.shape[step] as Schema];
  return [];
};

/** A thing that an input names, and where. */
export type NamedIn = { path: string; kind: Kind; id: number };

/** All things that an input names; what does not fit its schema is passed over, so that drafts can be asked too. */
export const namedIn = (input: Schema, value: unknown, at = ''): NamedIn[] => {
  if (value === null || value === undefined) return [];
  const { schema } = unwrap(input);
  const meta = metaIn(schema);
  if (meta?.is === 'refs')
    return Array.isArray(value)
      ? value.flatMap((id, i) =>
          typeof id === 'number' ? [{ path: join(at, String(i)), kind: meta.kind, id }] : [],
        )
      : [];
  if (meta) {
    if (typeof value !== 'number') return [];
    if (meta.is === 'ref') return [{ path: at, kind: meta.kind, id: value }];
    return meta.is === 'list' ? [{ path: at, kind: 'list_entry', id: value }] : [];
  }
  if (schema instanceof z.ZodUnion)
    return (
      (schema.options as Schema[]).map((one) => namedIn(one, value, at)).find((one) => one.length > 0) ?? []
    );
  if (Array.isArray(value))
    return schema instanceof z.ZodArray
      ? value.flatMap((one, i) => namedIn(schema.element as Schema, one, join(at, String(i))))
      : [];
  if (!(schema instanceof z.ZodObject) || typeof value !== 'object') return [];
  return Object.entries(value).flatMap(([name, inner]) =>
    name in schema.shape ? namedIn(schema.shape[name] as Schema, inner, join(at, name)) : [],
  );
};

const join = (at: string, name: string): string => (at === '' ? name : `${at}.${name}`);

/** A value of a slip with where it came from: before and after, under the field of a section where it is one. */
export const SlipValue = z.object({
  section: z.string().optional(),
  field: z.string(),
  before: z.union([z.string(), z.number(), z.boolean(), z.null()]),
  after: z.union([z.string(), z.number(), z.boolean(), z.null()]),
  /** Names of the things that `before` and `after` are ids of, as far as the viewer may see them. */
  beforeName: z.string().optional(),
  afterName: z.string().optional(),
  source: z.enum([
    'typed',
    'position',
    'unit',
    'job',
    'location',
    'agreement',
    'legal_entity',
    'organisation',
    'preset',
    'before',
  ]),
});
export type SlipValue = z.infer<typeof SlipValue>;
