// People found by their own fields: those that the organisation says people are found by (a badge, a locker).
import { type Day, type SectionName, hiddenFields } from '@gremium/contract';
import type { Sight } from '../access/sight';
import { dayNumber } from '../time/calendar';
import { NONE, type Field, type Table } from '../time/table';
import { fold } from './names';

/** A person found, by which field, and what it says. */
export type FoundByOwn = { personId: number; section: SectionName; field: string; text: string };

type Asked = { search: string; limit: number; on: Day };

/**
 * The first people of whom a field that is searched begins with the text on a day, accents and case aside; whoever says it
 * exactly first. Throws `NotLoaded` where the section is not in memory yet.
 */
export const findByOwn = (sight: Sight, { search, limit, on }: Asked): FoundByOwn[] => {
  const wanted = fold(search).trim();
  if (wanted === '') return [];
  const { columns } = sight.facts;
  const hidden = hiddenFields(sight.viewer.grants);
  const day = dayNumber(on);
  const found: (FoundByOwn & { isExact: boolean })[] = [];
  for (const section of columns.catalogue.belongingTo('person')) {
    const declared = columns.catalogue.section(section);
    for (const [field, { searched }] of declared.metas) {
      if (!searched || hidden.has(`${section}.${field}`) || !sight.has(section)) continue;
      const table = columns.table(section);
      for (const { slot, text } of saying(table, table.field(field), wanted, day)) {
        const owner = table.field(declared.owner?.field ?? '');
        const personId = owner.things?.ids[owner.data[slot] as number] as number;
        if (!sight.owned(section, { kind: 'person', id: personId }, day)) continue;
        found.push({ personId, section, field, text, isExact: fold(text) === wanted });
      }
    }
  }
  return found
    .sort(
      (a, b) =>
        Number(b.isExact) - Number(a.isExact) || a.text.localeCompare(b.text) || a.personId - b.personId,
    )
    .slice(0, limit)
    .map(({ isExact: _, ...one }) => one);
};

// Texts of a column as they are compared: worked out anew where there are more of them.
const folds = new WeakMap<object, string[]>();
const foldsOf = ({ words }: Field): readonly string[] => {
  const known = folds.get(words) ?? [];
  for (let i = known.length; i < words.texts.length; i++) known.push(fold(words.texts[i] as string));
  folds.set(words, known);
  return known;
};

// Rows in effect on a day of which a field begins with a text.
const saying = (
  table: Table,
  field: Field,
  wanted: string,
  day: number,
): { slot: number; text: string }[] => {
  const codes = new Set(foldsOf(field).flatMap((text, code) => (text.startsWith(wanted) ? code : [])));
  if (codes.size === 0) return [];
  const found: { slot: number; text: string }[] = [];
  for (let slot = 0; slot < table.size; slot++) {
    const code = field.data[slot] as number;
    if (code === NONE || !codes.has(code)) continue;
    if ((table.from[slot] as number) > day || day >= (table.until[slot] as number)) continue;
    found.push({ slot, text: field.words.texts[code] as string });
  }
  return found;
};
