// Which field of a section what is typed into a movement ends up in: an input is made of the fields of sections themselves.
import type { z } from 'zod';
import { presetSections } from '../sections';
import { declaredAt, unwrapped } from './movement';
import { type MovementKind, movementOf } from './movements';

const keeping = new Map<z.ZodType, string[]>();
for (const { name, fields } of presetSections)
  for (const [field, schema] of Object.entries(fields.shape)) {
    const declared = unwrapped(schema as z.ZodType);
    keeping.set(declared, [...(keeping.get(declared) ?? []), `${name}.${field}`]);
  }

/** The fields (`person.birthDate`) that a path of a movement's input says; none where it asks something of its own. */
export const keptIn = (kind: MovementKind, path: string): readonly string[] => {
  const declared = declaredAt(movementOf(kind).input, path);
  const kept = (declared && keeping.get(declared)) ?? [];
  // several fields of a section may share what they are: then the one that is called so
  const called = kept.filter((field) => field.endsWith(`.${path.split('.').at(-1)}`));
  return called.length > 0 ? called : kept;
};

/** The paths of an input that say something: `{ person: { birthDate } }` says `person.birthDate`. */
export const saidPaths = (input: unknown, at = ''): string[] => {
  if (input === null || input === undefined) return [];
  if (typeof input !== 'object') return at === '' ? [] : [at];
  return Object.entries(input).flatMap(([name, value]) =>
    saidPaths(value, at === '' ? name : `${at}.${name}`),
  );
};
