// What the page shows of a section: its fields as the contract declares them, in the order of reading.
import { type FieldMeta, type PresetName, type SectionName, preset } from '@gremium/contract';

export type Field = { name: string } & FieldMeta;

const made = new Map<string, Field[]>();

const readFields = (section: SectionName): Field[] => {
  const { metas, owner } = preset.section(section);
  return [...metas].flatMap(([name, meta]) => {
    // whose it is stands above it; objects are read by rules of their own
    const isShown = !meta.quiet && meta.is !== 'json' && name !== owner?.field;
    return isShown ? [{ name, ...meta }] : [];
  });
};

/** Fields of a section as they are shown and typed; none of one that only the server knows. */
export const fieldsOf = (section: PresetName | SectionName): Field[] => {
  const known = made.get(section);
  if (known) return known;
  const fields = preset.has(section) ? readFields(section) : [];
  made.set(section, fields);
  return fields;
};
