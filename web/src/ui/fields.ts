// What the page shows of a section: its fields as they are declared, in the order of reading.
import {
  type Catalogue,
  type FieldMeta,
  type PresetName,
  type SectionName,
  orderedMetas,
} from '@gremium/contract';
import { catalogueNow } from '../time/catalogue-now';

export type Field = { name: string } & FieldMeta;

const made = new WeakMap<Catalogue, Map<string, Field[]>>();

const readFields = (catalogue: Catalogue, section: SectionName): Field[] => {
  const { metas, owner } = catalogue.section(section);
  return orderedMetas(metas).flatMap(([name, meta]) => {
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

/** Fields of a section as records show it: those shown under another one stand there. */
export const shownFieldsOf = (section: PresetName | SectionName): Field[] =>
  fieldsOf(section).filter(({ shownIn }) => shownIn === undefined || shownIn === section);

/** Sections with fields that are kept there and shown under another one. */
export const broughtInto = (section: PresetName | SectionName): { section: SectionName; fields: Field[] }[] =>
  catalogueNow().names.flatMap((name) => {
    const fields = name === section ? [] : fieldsOf(name).filter(({ shownIn }) => shownIn === section);
    return fields.length > 0 ? [{ section: name, fields }] : [];
  });

/** Whether an edit was opened under another section that still shows fields of it: it stands there then. */
export const isElsewhere = ({ section, at }: { section: SectionName; at?: SectionName }): boolean =>
  at !== undefined && broughtInto(at).some((one) => one.section === section);
