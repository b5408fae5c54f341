// The sections there are as the page knows them: the preset ones, and the organisation's own as the reference rows define them.
// Learned before anything is shown of them, since records wait for the reference rows.
import {
  Catalogue,
  type FieldSetting,
  type Grant,
  type OwnField,
  type OwnRole,
  type OwnSection,
  type SectionName,
  type SectionRowOut,
  hiddenFields,
  ownFieldId,
  ownSections,
  preset,
  seenSection,
} from '@gremium/contract';
import { BEGINNING, isBefore } from '@gremium/core';

type Definitions = {
  sections: Map<number, OwnSection>;
  fields: Map<number, OwnField>;
  settings: Map<number, FieldSetting>;
  roles: Map<number, OwnRole>;
};

let now: Catalogue = preset;
let whole: Catalogue = preset;
let definitions: Definitions = {
  sections: new Map(),
  fields: new Map(),
  settings: new Map(),
  roles: new Map(),
};
let seenBy = '';

/** Of each definition the latest row: one whose use ended stays, as its rows do. */
export const latestRows = (
  rows: readonly SectionRowOut[],
  section: SectionName,
): Map<number, SectionRowOut> => {
  const found = new Map<number, SectionRowOut>();
  for (const row of rows)
    if (row.section === section && !isBefore(row.from, found.get(row.thing)?.from ?? BEGINNING))
      found.set(row.thing, row);
  return found;
};

const latest = <V>(rows: readonly SectionRowOut[], section: SectionName): Map<number, V> =>
  new Map([...latestRows(rows, section)].map(([id, { values }]) => [id, values as V]));

const listed = <V>(of: ReadonlyMap<number, V>) => [...of].map(([id, values]) => ({ id, values }));

/** Learns what the organisation defined, from the reference rows; fields that are hidden from the viewer are not there. */
export const learnDefinitions = (rows: readonly SectionRowOut[], grants: readonly Grant[]): void => {
  const read = {
    sections: latest<OwnSection>(rows, 'own_section'),
    fields: latest<OwnField>(rows, 'own_field'),
    settings: latest<FieldSetting>(rows, 'field_setting'),
    roles: latest<OwnRole>(rows, 'role'),
  };
  const hidden = [...hiddenFields(grants)].join();
  const told = ({ sections, fields, settings, roles }: Definitions) =>
    JSON.stringify([listed(sections), listed(fields), listed(settings), listed(roles)]);
  if (told(read) === told(definitions) && hidden === seenBy) return;
  definitions = read;
  seenBy = hidden;
  const own = ownSections(listed(read.sections), listed(read.fields));
  whole = preset.with(own, now.number + 1, { settings: listed(read.settings), roles: listed(read.roles) });
  now = new Catalogue(
    whole.sections.map((section) => seenSection(section, grants)),
    whole.number,
    whole.roles,
  );
};

/** The sections there are. */
export const catalogueNow = (): Catalogue => now;

/** All of them with all their fields, whoever sees them: for those who define them. */
export const wholeCatalogue = (): Catalogue => whole;

/** What an own section says of itself; undefined of a preset one. */
export const ownSectionOf = (name: string): OwnSection | undefined =>
  name.startsWith('own.') ? definitions.sections.get(Number(name.slice(4))) : undefined;

/** What an own field says of itself; undefined of a preset one. */
export const ownFieldOf = (name: string): OwnField | undefined => {
  const id = ownFieldId(name);
  return id === null ? undefined : definitions.fields.get(id);
};

/** What the organisation says of a field; undefined where it says nothing. */
export const settingOf = (section: string, field: string): { id: number; values: FieldSetting } | undefined =>
  listed(definitions.settings).find(({ values }) => values.section === section && values.field === field);
