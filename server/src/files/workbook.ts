import type { ImportRow } from '@gremium/contract';
import excel from 'exceljs';
import { FileOut } from './file-out';
import type { Kept } from './import.sql';
import { sentenceOf } from './sentences';
import { typedText } from './write-csv';

const BAD: excel.Fill = { type: 'pattern', pattern: 'solid', fgColor: { argb: 'FFF7D9D3' } };
const HEADS = { en: 'What is wrong', de: 'Was nicht stimmt' };

/** Rows as a workbook to mend and take in again: bad cells coloured, each with a note, and all of it said in the last column. */
export const workbookFile = async (
  { name, headings, columns }: Kept,
  rows: readonly ImportRow[],
  language: 'en' | 'de',
  labelOf: (field: string) => string,
): Promise<FileOut> => {
  const book = new excel.Workbook();
  const sheet = book.addWorksheet('1', { views: [{ state: 'frozen', ySplit: 1 }] });
  // a heading that begins with a mark of comments is not taken in again
  sheet.addRow([...headings, `# ${HEADS[language]}`]).font = { bold: true };
  for (const { cells, faults } of rows) {
    const sentences = faults.map(({ field, problem, offers }) => {
      const label = field === null ? '' : `${labelOf(field)}: `;
      return `${label}${sentenceOf(problem, language)}${offers.length > 0 ? ` (${offers.join(', ')})` : ''}`;
    });
    const line = sheet.addRow([...cells.map(typedText), sentences.join(' · ')]);
    faults.forEach(({ field }, i) => {
      const at = columns.findIndex((matched) => field !== null && matched.field === field);
      if (at < 0) return;
      const cell = line.getCell(at + 1);
      // cells share their style: it is replaced, never changed
      cell.style = { ...cell.style, fill: BAD };
      cell.note = sentences[i] as string;
    });
  }
  headings.forEach((heading, i) => {
    sheet.getColumn(i + 1).width = Math.min(40, Math.max(12, heading.length + 2));
    sheet.getColumn(i + 1).numFmt = '@';
  });
  sheet.getColumn(headings.length + 1).width = 60;
  return new FileOut(name, 'xlsx', Buffer.from(await book.xlsx.writeBuffer()));
};
