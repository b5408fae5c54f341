// The sections there are as the page knows them: the preset ones, and the organisation's own as the reference rows define them.
// Learned before anything is shown of them, since records wait for the reference rows.
import {
  type Catalogue,
  type OwnField,
  type OwnSection,
  type SectionName,
  type SectionRowOut,
  ownFieldId,
  ownSections,
  preset,
} from '@gremium/contract';
import { BEGINNING, isBefore } from '@gremium/core';

type Definitions = { sections: Map<number, OwnSection>; fields: Map<number, OwnField> };

let now: Catalogue = preset;
let definitions: Definitions = { sections: new Map(), fields: new Map() };

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

/** Learns what the organisation defined, from the reference rows. */
export const learnDefinitions = (rows: readonly SectionRowOut[]): void => {
  const read = {
    sections: latest<OwnSection>(rows, 'own_section'),
    fields: latest<OwnField>(rows, 'own_field'),
  };
  if (read.sections.size + definitions.sections.size === 0) return;
  const told = ({ sections, fields }: Definitions) => JSON.stringify([listed(sections), listed(fields)]);
  if (told(read) === told(definitions)) return;
  definitions = read;
  now = preset.with(ownSections(listed(read.sections), listed(read.fields)), now.number + 1);
};

/** The sections there are. */
export const catalogueNow = (): Catalogue => now;

/** What an own section says of itself; undefined of a preset one. */
export const ownSectionOf = (name: string): OwnSection | undefined =>
  name.startsWith('own.') ? definitions.sections.get(Number(name.slice(4))) : undefined;

/** What an own field says of itself; undefined of a preset one. */
export const ownFieldOf = (name: string): OwnField | undefined => {
  const id = ownFieldId(name);
  return id === null ? undefined : definitions.fields.get(id);
};
