// Rows written as a file, batch by batch: what is taken out is never in memory whole.
import { setImmediate } from 'node:timers/promises';
import { once } from 'node:events';
import type { Writable } from 'node:stream';
import { stringify } from 'csv-stringify/sync';
import excel from 'exceljs';
import { type Cell, safeText, typedText } from './write-csv';

/** A line of a file; a group's line, a total and a heading stand out. */
export type OutLine = { cells: readonly Cell[]; isBold?: boolean };

/** A sheet that is written: what stands above its headings, its columns, its lines one after the other. */
export type OutSheet = {
  name: string;
  top: readonly (readonly Cell[])[];
  heads: readonly string[];
  /** Of each column what it is: days and amounts are shown as such in a workbook; `text` stays as it is typed. */
  kinds: readonly string[];
  lines: Iterable<OutLine>;
};

const BATCH = 1000;

const write = async (out: Writable, text: string): Promise<void> => {
  if (!out.write(text)) await once(out, 'drain');
};

const texts = (cells: readonly Cell[]): (string | number | null)[] =>
  cells.map((cell) => (typeof cell === 'string' ? safeText(cell) : cell));

/** As CSV (RFC 4180), with a mark of its encoding; `onRow` hears how many lines are written. */
export const writeCsvOut = async (
  out: Writable,
  { top, heads, lines }: OutSheet,
  onRow: (done: number) => void,
): Promise<void> => {
  await write(out, `\ufeff${stringify([...top, [...heads]].map(texts))}`);
  let batch: (string | number | null)[][] = [];
  let done = 0;
  for (const { cells } of lines) {
    batch.push(texts(cells));
    done++;
    if (batch.length < BATCH) continue;
    await write(out, stringify(batch));
    batch = [];
    onRow(done);
    await setImmediate();
  }
  if (batch.length > 0) await write(out, stringify(batch));
  onRow(done);
};

const FORMATS: Record<string, string> = { day: 'yyyy-mm-dd', exact: '#,##0.00', text: '@' };

const typed = (cell: Cell): Cell => (typeof cell === 'string' ? typedText(cell) : cell);
const asDay = (cell: Cell, kind: string | undefined): Cell | Date =>
  kind === 'day' && typeof cell === 'string' ? new Date(`${cell}T00:00:00Z`) : typed(cell);

const sheetName = (name: string): string => name.replace(/[\\/*?:[\]]/g, ' ').slice(0, 31) || '1';

/** As a workbook: days as days, numbers as numbers, headings kept in sight with filters, groups and totals bold. */
export const writeXlsxOut = async (
  out: Writable,
  { name, top, heads, kinds, lines }: OutSheet,
  onRow: (done: number) => void,
): Promise<void> => {
  const book = new excel.stream.xlsx.WorkbookWriter({
    stream: out,
    useStyles: true,
    useSharedStrings: false,
  });
  const headRow = top.length + 1;
  const sheet = book.addWorksheet(sheetName(name), {
    views: [{ state: 'frozen', xSplit: top.length > 0 ? 1 : 0, ySplit: headRow }],
  });
  sheet.columns = kinds.map((kind, i) => ({
    width:
      kind === 'text' ? Math.min(40, Math.max(14, (heads[i] ?? '').length + 2)) : kind === 'thing' ? 28 : 15,
  }));
  for (const row of top) sheet.addRow(row.map(typed)).commit();
  const head = sheet.addRow(heads.map(typed));
  head.font = { bold: true };
  head.commit();
  const formats = kinds.map((kind) => FORMATS[kind]);
  let done = 0;
  for (const { cells, isBold } of lines) {
    const row = sheet.addRow(cells.map((cell, i) => (isBold ? typed(cell) : asDay(cell, kinds[i]))));
    if (isBold) row.font = { bold: true };
    else
      formats.forEach((numFmt, i) => {
        if (numFmt) row.getCell(i + 1).numFmt = numFmt;
      });
    row.commit();
    if (++done % BATCH !== 0) continue;
    onRow(done);
    // what was written goes on before more comes
    await setImmediate();
    if (out.writableNeedDrain) await once(out, 'drain');
  }
  if (heads.length > 0)
    sheet.autoFilter = { from: { row: headRow, column: 1 }, to: { row: headRow, column: heads.length } };
  sheet.commit();
  await book.commit();
  onRow(done);
};
