// Files as other offices send them: a cover sheet, titles above the headings, whole names in one column, a line of totals.
import excel from 'exceljs';

/** Somebody new in such a workbook: `place` is the code of a position. */
export type Newcomer = { name: string; first: string; place: string; pay: string | number };

/** Three sheets: a cover, the people (a title, a blank line, headings in row 3, totals at the end), and notes. */
export const foreignWorkbook = async (people: readonly Newcomer[]): Promise<Buffer> => {
  const book = new excel.Workbook();
  const cover = book.addWorksheet('Deckblatt');
  cover.addRow(['Büro Nord & Söhne']);
  cover.addRow(['Meldung neuer Leute', 'Stand 12.11.2026']);
  const sheet = book.addWorksheet('Neue Leute');
  sheet.addRow(['Meldung neuer Leute, Winter 2027']);
  sheet.addRow([]);
  sheet.addRow(['Name', 'E-Mail', 'Eintritt', 'Planstelle', 'Gehalt', 'Bemerkung']);
  people.forEach(({ name, first, place, pay }, i) =>
    sheet.addRow([name, `neu${i}@nord.example`, first, place, pay, i === 0 ? 'siehe Akte' : null]),
  );
  sheet.addRow(['Summe', null, null, null, people.length]);
  const notes = book.addWorksheet('Notizen');
  notes.addRow(['Rückfragen an Frau Döring']);
  return Buffer.from(await book.xlsx.writeBuffer());
};

/** Text as an old office program saves it: Windows-1252 (its letters are those of Latin-1 here), lines ended by CR LF. */
export const oldText = (lines: readonly string[]): Buffer => Buffer.from(lines.join('\r\n'), 'latin1');
