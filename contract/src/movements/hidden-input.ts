// Which field of a section what is typed into a movement ends up in, as far as that field may be hidden from somebody.
import type { MovementKind } from './movements';

// What movements say at the top of their input, by the section that keeps it.
const TOP: { [K in MovementKind]?: string } = {
  ...{ new_position: 'position', change_position: 'position', copy_position: 'position' },
  ...{ new_unit: 'unit', change_unit: 'unit', split_unit: 'unit', merge_unit: 'unit' },
  ...{ new_job: 'job', change_job: 'job' },
  ...{ hire: 'employment', rehire: 'employment' },
};

const WITHIN: Readonly<Record<string, string>> = {
  'person.name': 'person_name',
  'person.contacts': 'contact',
  person: 'person',
  contract: 'contract',
  pay: 'pay',
};

/** The field (`person.birthDate`) that a path of a movement's input (`person.birthDate`, `pay.0.step`) says. */
export const keptIn = (kind: MovementKind, path: string): string => {
  const steps = path.split('.').filter((step) => !/^\d+$/.test(step));
  const field = steps.pop() ?? '';
  const section = steps.length === 0 ? TOP[kind] : WITHIN[steps.join('.')];
  return `${section ?? ''}.${field}`;
};

/** The paths of an input that say something: `{ person: { birthDate } }` says `person.birthDate`. */
export const saidPaths = (input: unknown, at = ''): string[] => {
  if (input === null || input === undefined) return [];
  if (typeof input !== 'object') return at === '' ? [] : [at];
  return Object.entries(input).flatMap(([name, value]) =>
    saidPaths(value, at === '' ? name : `${at}.${name}`),
  );
};
