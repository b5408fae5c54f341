import excel from 'exceljs';
import { type Cell, typedText } from './write-csv';

export type Sheet = {
  name: string;
  rows: readonly (readonly Cell[])[];
  /** Which row holds the headings, counted from 0. */
  headings: number;
  /** Number format of each column, in the language of spreadsheets; none is general. */
  formats?: readonly (string | undefined)[];
  widths?: readonly number[];
};

/** Sheets as a workbook: headings bold and kept in sight, text typed as text. */
export const writeXlsx = async (sheets: readonly Sheet[]): Promise<Buffer> => {
  const book = new excel.Workbook();
  for (const { name, rows, headings, formats = [], widths = [] } of sheets) {
    const sheet = book.addWorksheet(name, { views: [{ state: 'frozen', xSplit: 1, ySplit: headings + 1 }] });
    for (const row of rows)
      sheet.addRow(row.map((cell) => (typeof cell === 'string' ? typedText(cell) : cell)));
    sheet.getRow(headings + 1).font = { bold: true };
    formats.forEach((format, i) => {
      if (format) sheet.getColumn(i + 1).numFmt = format;
    });
    widths.forEach((width, i) => (sheet.getColumn(i + 1).width = width));
  }
  return Buffer.from(await book.xlsx.writeBuffer());
};
