// What the page shows of a section: its fields as they are declared, in the order of reading.
import type { Catalogue, FieldMeta, PresetName, SectionName } from '@gremium/contract';
import { catalogueNow } from '../time/catalogue-now';

export type Field = { name: string } & FieldMeta;

const made = new WeakMap<Catalogue, Map<string, Field[]>>();

const readFields = (catalogue: Catalogue, section: SectionName): Field[] => {
  const { metas, owner } = catalogue.section(section);
  return [...metas].flatMap(([name, meta]) => {
    // whose it is stands above it; objects are read by rules of their own
    const isShown = !meta.quiet && meta.is !== 'json' && name !== owner?.field;
    return isShown ? [{ name, ...meta }] : [];
  });
};

/** Fields of a section as they are shown; none of one that only the server knows. */
export const fieldsOf = (section: PresetName | SectionName): Field[] => {
  const catalogue = catalogueNow();
  const known = made.get(catalogue) ?? new Map<string, Field[]>();
  made.set(catalogue, known);
  const fields = known.get(section) ?? (catalogue.has(section) ? readFields(catalogue, section) : []);
  known.set(section, fields);
  return fields;
};

/** Fields of a section as they are typed: nothing more is said in those that are retired. */
export const typedFieldsOf = (section: PresetName | SectionName): Field[] =>
  fieldsOf(section).filter(({ retired }) => !retired);
