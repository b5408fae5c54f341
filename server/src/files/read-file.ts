// Rows of a file that somebody gives us: text with columns or a workbook, told by its content, row by row.
import { Readable } from 'node:stream';
import type { SheetPreview } from '@gremium/contract';
import { type DayBase, headingRowOf, isKnownHeading, problem, sheetOf } from '@gremium/core';
import { parse } from 'csv-parse';
import type excel from 'exceljs';
import { Failure, fail } from '../database/failure';
import { limits } from './limits';
import { type Sheet, sheetsOf } from './workbook-parts';

export type RawRow = { row: number; cells: string[] };

export type FileHead = {
  format: 'csv' | 'xlsx';
  sheet: string | null;
  sheets: number;
  headings: string[];
  /** The first rows of each sheet, which of them is read (from 0), and the row of its headings. */
  preview: { sheets: SheetPreview[]; at: number; headingRow: number; dayBase: DayBase | null };
};

/** Which sheet is to be read (from 0) and which of its rows holds the headings; null: what looks like it. */
export type ReadAsk = {
  sheet: number | null;
  headingRow: number | null;
  /** Headings that are known (keys), where it is not about people. */
  known?: readonly string[];
};

/** A file being read: its head once known, then its rows; comment lines and empty ones are left out and counted. */
export type FileRows = FileHead & { comments: () => number; rows: AsyncIterable<RawRow> };

const PACKED = Buffer.from([0x50, 0x4b, 3, 4]);
// the parts that a workbook may begin with (ECMA-376, part 2)
const OF_WORKBOOK = /^\/?(\[Content_Types\]\.xml|_rels\/|docProps\/|customXml\/|xl\/)/;

/** What a file is, by its first bytes: a package is a workbook where its first part is one's, else several files. */
export const formatOf = (content: Buffer): 'csv' | 'xlsx' | 'zip' => {
  if (!content.subarray(0, 4).equals(PACKED)) return 'csv';
  if (content.length < 30) return 'xlsx';
  // its name begins at byte 30, its length stands at 26 (APPNOTE of ZIP, 4.3.7)
  const first = content.subarray(30, 30 + content.readUInt16LE(26)).toString('utf8');
  return OF_WORKBOOK.test(first) ? 'xlsx' : 'zip';
};

// What is shown of each sheet to choose from, and among how many rows the headings are looked for.
const PREVIEW = { rows: 12, sheets: 20, columns: 16, letters: 60 };
const SEARCHED = 30;

const previewOf = (name: string, rows: readonly RawRow[]): SheetPreview => ({
  name,
  rows: rows.slice(0, PREVIEW.rows).map(({ row, cells }) => ({
    row,
    cells: cells.slice(0, PREVIEW.columns).map((cell) => shownCell(cell)),
  })),
});

// Headings that are known: of people, or those that are said.
const knownBy = ({ known }: ReadAsk): ((key: string) => boolean) => {
  if (!known) return isKnownHeading;
  const names = new Set(known);
  return (key) => names.has(key);
};

const shownCell = (cell: string): string =>
  cell.replaceAll('\u0000', '').toWellFormed().slice(0, PREVIEW.letters);

/** Opens a file. Fails with `file_unreadable`, `file_empty`, `rows_too_many`, `columns_too_many`, `file_unpacked_too_large`. */
export const readFile = async (
  content: Buffer,
  asked: ReadAsk = { sheet: null, headingRow: null },
): Promise<FileRows> => {
  const packed = formatOf(content);
  // several files are parted before any is read
  const format = packed === 'zip' ? 'xlsx' : packed;
  const source = format === 'xlsx' ? await workbookRows(content, asked) : textRows(content);
  let comments = 0;
  const lines = counted(source.rows, () => comments++);
  const first: RawRow[] = [];
  // as far as the headings are looked for; further where they are said to stand further down
  while (
    first.length < SEARCHED ||
    (asked.headingRow !== null && (first.at(-1)?.row ?? 0) < asked.headingRow)
  ) {
    const next = await lines.next();
    if (next.done) break;
    first.push(next.value);
  }
  if (first.length === 0) return fail('file_empty');
  const isKnown = knownBy(asked);
  const headingRow = asked.headingRow ?? (headingRowOf(first, isKnown) as number);
  const at = first.findIndex(({ row }) => row >= headingRow);
  const head = first[at];
  if (!head) return fail('file_empty');
  const headings = trimmed(head.cells);
  for (const heading of headings) checkedCell(heading, head.row);
  if (headings.length > limits.columns) return fail('columns_too_many', { most: limits.columns });
  const width = headings.length;
  const own = previewOf(source.sheet ?? '', first);
  const sheets = source.previews.map((one, i) => (i === source.at ? own : one));
  return {
    format,
    sheet: source.sheet,
    sheets: source.sheets,
    headings,
    preview: {
      sheets: sheets.length > 0 ? sheets : [own],
      at: source.at,
      headingRow: head.row,
      dayBase: source.dayBase,
    },
    comments: () => comments,
    rows: checkedRows(first.slice(at + 1), lines, width),
  };
};

// The rows below the headings, each as wide as they are, within the limits of a file.
const checkedRows = async function* (
  begun: readonly RawRow[],
  lines: AsyncGenerator<RawRow>,
  width: number,
): AsyncGenerator<RawRow> {
  let count = 0;
  let letters = 0;
  const known = new Set<number>();
  const checked = ({ row, cells }: RawRow): RawRow => {
    if (++count > limits.rows) fail('rows_too_many', { most: limits.rows });
    if (known.has(row)) fail('row_twice', { row });
    known.add(row);
    const own = Array.from({ length: width }, (_, i) => cells[i] ?? '');
    for (const cell of own) letters += checkedCell(cell, row);
    // one long text of a workbook may stand in each of its cells
    if (letters > limits.text) fail('file_unpacked_too_large');
    return { row, cells: own };
  };
  for (const line of begun) yield checked(line);
  for await (const line of lines) yield checked(line);
};

// Answers with its length. What is long or cannot be shown is no value of any field.
const checkedCell = (cell: string, row: number): number => {
  if (cell.length > limits.cell) fail('cell_too_long', { row, most: limits.cell });
  if (cell.includes('\u0000') || !cell.isWellFormed()) fail('text_invalid', { row });
  return cell.length;
};

const trimmed = (cells: string[]): string[] => {
  const last = cells.findLastIndex((cell) => cell !== '');
  return cells.slice(0, last + 1);
};

const counted = async function* (rows: AsyncIterable<RawRow>, onComment: () => void): AsyncGenerator<RawRow> {
  for await (const line of rows) {
    if (line.cells.every((cell) => cell === '')) continue;
    if ((line.cells.find((cell) => cell !== '') as string).startsWith('#')) onComment();
    else yield line;
  }
};

type Source = {
  sheet: string | null;
  sheets: number;
  /** The first rows of each sheet, where there are several; which of them is read. */
  previews: SheetPreview[];
  at: number;
  /** From which year its numbers count days; text has none. */
  dayBase: DayBase | null;
  rows: AsyncIterable<RawRow>;
};

// The apostrophe that keeps a spreadsheet from taking a text for a formula is taken off again.
// One of several is taken off: a text that begins so itself was given another.
const plain = (cell: string): string => cell.trim().replace(/^'(?='*[=+\-@\t\r])/, '');

const textRows = (content: Buffer): Source => {
  const text = decoded(content);
  if (text.includes('\u0000')) throw new Failure([problem('file_unreadable')]);
  const parser = Readable.from([text]).pipe(
    parse({
      delimiter: delimiterOf(text),
      relax_column_count: true,
      relax_quotes: true,
      skip_empty_lines: true,
      info: true,
      max_record_size: 1_000_000,
    }),
  );
  let breaks = 0;
  const rows = (async function* () {
    try {
      for await (const { info, record } of parser as AsyncIterable<{
        info: { lines: number };
        record: string[];
      }>) {
        // counted as a spreadsheet counts: a record is one row, whatever breaks of lines are quoted in it
        for (const cell of record) breaks += cell.match(BREAK)?.length ?? 0;
        yield { row: info.lines - breaks, cells: record.map(plain) };
      }
    } catch (error) {
      if (error instanceof Failure) throw error;
      throw new Failure([problem('file_unreadable')]);
    }
  })();
  return { sheet: null, sheets: 1, previews: [], at: 0, dayBase: null, rows };
};

const BREAK = /\r\n|\n|\r/g;

// UTF-8 with or without a mark, UTF-16 with one; else the usual encoding of Western spreadsheets.
const decoded = (content: Buffer): string => {
  const [a, b] = content;
  if (a === 0xff && b === 0xfe) return new TextDecoder('utf-16le').decode(content);
  if (a === 0xfe && b === 0xff) return new TextDecoder('utf-16be').decode(content);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(content);
  } catch {
    return new TextDecoder('windows-1252').decode(content);
  }
};

const DELIMITERS = [',', ';', '\t', '|'];

const LINES_LOOKED_AT = 30;

// What parts most of the first lines that are no comments, outside quotes; of several the one that parts them into more.
const delimiterOf = (text: string): string => {
  const lines = text
    .slice(0, 100_000)
    .replace(/"(?:[^"]|"")*"/g, '')
    .split(/\r\n|\n|\r/)
    .filter((one) => one.trim() !== '' && !/^["']?#/.test(one.trim()))
    .slice(0, LINES_LOOKED_AT);
  const weights = DELIMITERS.map((mark) => {
    const parts = lines.map((line) => line.split(mark).length - 1);
    return parts.filter((count) => count > 0).length * 1000 + parts.reduce((sum, count) => sum + count, 0);
  });
  return DELIMITERS[weights.indexOf(Math.max(...weights))] as string;
};

const workbookRows = async (content: Buffer, ask: ReadAsk): Promise<Source> => {
  const { sheets, dayBase } = await sheetsOf(content);
  if (sheets.length === 0) throw new Failure([problem('file_unreadable')]);
  const found = await Promise.all(sheets.slice(0, PREVIEW.sheets).map(firstRows));
  const previews = found.map((rows, i) => previewOf(sheets[i]?.name ?? '', rows));
  const at = ask.sheet ?? sheetOf(found, knownBy(ask)) ?? 0;
  const sheet = sheets[at];
  if (!sheet) return fail('file_empty');
  return { sheet: sheet.name, sheets: sheets.length, previews, at, dayBase, rows: sheetRows(sheet) };
};

// The first rows of a sheet, comments and empty ones aside.
const firstRows = async (sheet: Sheet): Promise<RawRow[]> => {
  const rows: RawRow[] = [];
  for await (const row of counted(sheetRows(sheet), () => undefined)) {
    rows.push(row);
    if (rows.length === SEARCHED) break;
  }
  return rows;
};

/** The rows that a sheet may have (ECMA-376 sets no limit; spreadsheets do). */
const MOST_ROWS = 1_048_576;

const sheetRows = async function* (sheet: Sheet): AsyncGenerator<RawRow> {
  let last = 0;
  try {
    for await (const row of sheet.rows()) {
      const values = row.values as excel.CellValue[];
      if (values.length > limits.columns + 1) fail('columns_too_many', { most: limits.columns });
      // a row without a number, or with one that no sheet has, comes after the last
      last = row.number > 0 && row.number <= MOST_ROWS ? Math.trunc(row.number) : last + 1;
      yield {
        row: last,
        cells: Array.from({ length: values.length - 1 }, (_, i) => cellText(values[i + 1])),
      };
    }
  } catch (error) {
    if (error instanceof Failure) throw error;
    throw new Failure([problem('file_unreadable')]);
  }
};

/** A cell of a workbook as somebody would have typed it: days as `2027-03-01`, numbers without groups. */
const cellText = (value: excel.CellValue | undefined): string => {
  if (value === null || value === undefined) return '';
  if (typeof value === 'string') return plain(value);
  if (value instanceof Date) return Number.isNaN(value.getTime()) ? '' : value.toISOString().slice(0, 10);
  // with four places a number is not taken for one whose point may group
  if (typeof value === 'number')
    return String(Number(value.toPrecision(15))).replace(/^(-?[1-9]\d{0,2}\.\d{3})$/, '$10');
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if ('richText' in value) return plain(value.richText.map(({ text }) => text).join(''));
  if ('text' in value) return cellText(value.text as excel.CellValue);
  if ('result' in value) return cellText(value.result as excel.CellValue);
  return 'error' in value ? String(value.error) : '';
};
