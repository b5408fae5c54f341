import type { Bound, Kind, Row, SectionName } from '@gremium/contract';
import { dayNumber } from '../time/calendar';
import type { Columns } from '../time/columns';
import { ownerOf } from './owner';
import type { Sight } from './sight';

/** A section and which page of its rows. */
export type SectionRowsAsk = { section: SectionName; limit: number; offset: number };
/** A row with whose it is. */
export type OwnedRow = { row: Row; owner: { kind: Kind; id: number } };

/**
 * Rows of a section in effect on a day that the viewer may see, each with whose it is, by the ids of their things; one page
 * of them, and how many there are. Throws `NotLoaded` where the section is asked for rarely and not here yet.
 */
export const sectionRows = (
  columns: Columns,
  sight: Sight,
  { section, limit, offset, on }: SectionRowsAsk & { on: Bound },
): { rows: OwnedRow[]; total: number } => {
  const table = columns.table(section);
  if (!sight.has(section)) return { rows: [], total: 0 };
  const day = dayNumber(on);
  const found: OwnedRow[] = [];
  for (let slot = 0; slot < table.size; slot++) {
    if ((table.from[slot] as number) > day || day >= (table.until[slot] as number)) continue;
    const row = table.row(slot);
    const owner = ownerOf(columns.catalogue, row);
    if (sight.owned(section, owner, day)) found.push({ row, owner });
  }
  found.sort((a, b) => a.row.thing - b.row.thing);
  return { rows: found.slice(offset, offset + limit), total: found.length };
};
