// Which of the first rows of a sheet holds its headings: files from other offices begin with titles.
import { headingKey, isKnownHeading } from './match-columns';

/** A row as it stands in a file, counted from 1. */
export type SheetRow = { row: number; cells: readonly string[] };

const filled = ({ cells }: SheetRow): number => cells.filter((cell) => cell.trim() !== '').length;
type IsKnown = (key: string) => boolean;
const known = ({ cells }: SheetRow, isKnown: IsKnown): number =>
  cells.filter((cell) => isKnown(headingKey(cell))).length;

/** The row with the most headings that are known, two at least; else the first that is no title (one cell alone); else the first. */
export const headingRowOf = (rows: readonly SheetRow[], isKnown: IsKnown = isKnownHeading): number | null => {
  const best = [...rows].sort((a, b) => known(b, isKnown) - known(a, isKnown) || a.row - b.row)[0];
  if (best && known(best, isKnown) >= 2) return best.row;
  const wide = rows.find((row) => filled(row) > 1);
  return (wide ?? rows[0])?.row ?? null;
};

/** The first sheet that has such headings, else the first that has rows; null where none has. */
export const sheetOf = (
  sheets: readonly (readonly SheetRow[])[],
  isKnown: IsKnown = isKnownHeading,
): number | null => {
  const named = sheets.findIndex((rows) => rows.some((row) => known(row, isKnown) >= 2));
  const at = named >= 0 ? named : sheets.findIndex((rows) => rows.length > 0);
  return at < 0 ? null : at;
};
