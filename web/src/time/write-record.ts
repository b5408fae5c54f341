// Things made and sections changed one at a time, as forms do that are no slips and no sections being edited.
import { type Bound, type Edit, type Kind, type PresetName, recordEndpoints } from '@gremium/contract';
import { BEGINNING, OPEN } from '@gremium/core';
import type { z } from 'zod';
import { call } from '../api';

/** Makes a thing by the values of its base section, from a day on or always. */
export const makeThing = (kind: PresetName & Kind, values: Record<string, unknown>, from: Bound | null) =>
  call(recordEndpoints.createRecord, {
    params: { kind },
    body: {
      from: from ?? BEGINNING,
      until: OPEN,
      sections: { [kind]: values },
      preview: false,
      words: {},
    },
  });

type Changed = { id: number; basedOn: number; edit: z.input<typeof Edit> };

/** Changes the base section of a thing; `basedOn`: the number of the last entry that whoever changes it has seen. */
export const changeThing = (kind: PresetName & Kind, { id, basedOn, edit }: Changed) =>
  call(recordEndpoints.editRecord, {
    params: { kind, id, section: kind },
    body: { edit: edit as Edit, basedOn, preview: false, words: {} },
  });

/** The number of the last entry that touched the base section of a thing. */
export const lastEntryOf = async (kind: Kind, id: number): Promise<number | undefined> => {
  const { sections } = await call(recordEndpoints.record, { params: { kind, id }, query: {} });
  return sections.find(({ name }) => name === kind)?.lastEntry;
};
