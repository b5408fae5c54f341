import { type Bound, type RecordOut, type SectionName, doorOf } from '@gremium/contract';
import { fieldsOf } from '../ui/fields';
import { catalogueNow } from './catalogue-now';
import type { SectionEdit } from './edits';

/** A version as sections show one. */
export type Version = {
  id: number;
  thing: number;
  from: Bound;
  until: Bound;
  values: Record<string, unknown>;
};

type Here = { record: RecordOut; on: Bound; today: Bound };

const lastEntryOf = ({ lastEntries }: RecordOut, section: SectionName, thing: number): number =>
  lastEntries.find((last) => last.section === section && last.thing === thing)?.number ?? 0;

/**
 * The start of an edit of a section: from the day of the lens, nothing changed yet. For a past day the mode is asked; a section
 * that changes through a movement is only mended here.
 */
export const beginEdit = (
  section: SectionName,
  version: Version,
  { record, on, today }: Here,
): SectionEdit => ({
  section,
  thing: version.thing,
  mode: doorOf(section) ? 'mend' : on < today ? null : 'set',
  from: version.from > on ? version.from : on,
  row: version.id,
  values: {},
  base: version.values,
  basedOn: lastEntryOf(record, section, version.thing),
});

/** One more row of a section, of the thing given; what says yes or no begins with no. */
export const beginRow = (
  section: SectionName,
  owner: number,
  { on, thing }: { on: Bound; thing: number },
): SectionEdit => {
  const declared = catalogueNow().section(section);
  const asked = new Set(fieldsOf(section).map(({ name }) => name));
  // what is hidden is not said
  const base: Record<string, unknown> = Object.fromEntries(
    Object.keys(declared.nulls).flatMap((name) => (declared.metas.has(name) ? [[name, null]] : [])),
  );
  for (const [name, meta] of declared.metas)
    if (meta.is === 'yes_no' && !(asked.has(name) && name in declared.nulls)) base[name] = false;
  for (const [name, { usual }] of declared.metas) if (usual !== undefined) base[name] = usual;
  if (declared.owner) base[declared.owner.field] = owner;
  return { section, thing, mode: 'create', from: on, row: 0, values: {}, base, basedOn: 0 };
};

/** The end of a row, on the day of the lens as its last one. */
export const endRow = (section: SectionName, version: Version, { record, on }: Here): SectionEdit => ({
  section,
  thing: version.thing,
  mode: 'end',
  from: on,
  row: version.id,
  values: {},
  base: version.values,
  basedOn: lastEntryOf(record, section, version.thing),
});
