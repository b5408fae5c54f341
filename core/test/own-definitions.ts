// Own sections and fields as they are defined, with what an example does not say left empty.
import type { Defined, OwnField, OwnSection } from '@gremium/contract';

const label = { en: 'x', de: 'x' };

/** A section of people with one row at a time, but for what is said otherwise. */
export const definedSection = (id: number, more: Partial<OwnSection> = {}): Defined<OwnSection> => ({
  id,
  values: {
    ...{ code: `S${id}`, label, of: 'person', several: false, sensitive: false, place: id },
    ...{ seenBy: null, editedBy: null, retired: null },
    ...more,
  },
});

/** A field of text that nothing is asked of, but for what is said otherwise. */
export const definedField = (
  id: number,
  sectionId: number,
  more: Partial<OwnField> = {},
): Defined<OwnField> => ({
  id,
  values: {
    ...{ sectionId, code: `F${id}`, label, help: null, kind: 'text', list: null, required: false, place: id },
    ...{ unique: null, pattern: null, least: null, most: null, retired: null },
    ...{ usual: null, atHire: null, searched: null },
    ...more,
  },
});
