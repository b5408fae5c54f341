import { ImportField, importFields } from '@gremium/contract';
import { fold } from '../people/names';

/** What a column is taken for, and why. */
export type ColumnMatch = { field: ImportField | null; how: 'name' | 'memory' | null };

/** A heading as it is compared: folded, without marks such as the asterisk of a required column. */
export const headingKey = (heading: string): string =>
  fold(heading)
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();

const named = new Map<string, ImportField>();
for (const field of ImportField.options) {
  const { label, also } = importFields[field];
  for (const name of [field, label.en, label.de, ...also.split(',').filter(Boolean)])
    if (!named.has(headingKey(name))) named.set(headingKey(name), field);
}

/** Whether a heading (by its key) is one that a field is called by. */
export const isKnownHeading = (key: string): boolean => named.has(key);

/**
 * What each column of a file is taken for: by what was chosen for such a heading before (`memory`, by `headingKey`), else by
 * name, label in either language or another name of the field. Each field once: the first column has it.
 * @example matchColumns(['Vorname', 'E-Mail *', 'Local code'], new Map()).map(({ field }) => field) // ['given', 'email', null]
 */
export const matchColumns = (
  headings: readonly string[],
  memory: ReadonlyMap<string, ImportField | null>,
): ColumnMatch[] => {
  const taken = new Set<ImportField>();
  const found = headings.map((heading): ColumnMatch => {
    const key = headingKey(heading);
    const remembered = memory.get(key);
    const field = remembered === undefined ? (named.get(key) ?? null) : remembered;
    if (field === null || taken.has(field)) return { field: null, how: null };
    taken.add(field);
    return { field, how: remembered === undefined ? 'name' : 'memory' };
  });
  // a column of names, and nothing else by which anybody would be called or known: those are whole names of new people
  const others: ImportField[] = ['given', 'family', 'preferred', 'number', 'wholeName'];
  const isWhole = taken.has('name') && !others.some((field) => taken.has(field));
  return found.map((match) =>
    isWhole && match.field === 'name' && match.how === 'name' ? { ...match, field: 'wholeName' } : match,
  );
};

/** The same for columns called otherwise: each name (by `headingKey`) with the column it says. */
export const matchNamed = (
  headings: readonly string[],
  names: ReadonlyMap<string, string>,
  memory: ReadonlyMap<string, string | null>,
): { field: string | null; how: ColumnMatch['how'] }[] => {
  const taken = new Set<string>();
  return headings.map((heading) => {
    const key = headingKey(heading);
    const remembered = memory.get(key);
    const field = remembered === undefined ? (names.get(key) ?? null) : remembered;
    if (field === null || taken.has(field)) return { field: null, how: null };
    taken.add(field);
    return { field, how: remembered === undefined ? 'name' : 'memory' };
  });
};

/** Whether whole names are to be split: nothing else says given or family names. */
export const isSplit = (fields: readonly (string | null)[]): boolean =>
  fields.includes('wholeName') && !fields.includes('given') && !fields.includes('family');
