import { stringify } from 'csv-stringify/sync';

export type Cell = string | number | null;

// A text that a spreadsheet would take for a formula gets an apostrophe, which the import takes off again; one that begins with
// apostrophes and such a sign gets another, so that its own stays.
const isFormula = /^'*[=+\-@\t\r]/;
const isQuoted = /^'+[=+\-@\t\r]/;

/** A text as it stands in a CSV file. */
export const safeText = (text: string): string => (isFormula.test(text) ? `'${text}` : text);

/** A text as it stands in a workbook, where it is typed as text: only apostrophes of its own are kept from the import. */
export const typedText = (text: string): string => (isQuoted.test(text) ? `'${text}` : text);

/** Rows as CSV (RFC 4180) with a mark of its encoding, so that spreadsheets read accents right. */
export const writeCsv = (rows: readonly (readonly Cell[])[]): string =>
  `\ufeff${stringify(rows.map((row) => row.map((cell) => (typeof cell === 'string' ? safeText(cell) : cell))))}`;
