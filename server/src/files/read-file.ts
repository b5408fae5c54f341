// Rows of a file that somebody gives us: text with columns or a workbook, told by its content, row by row.
import { Readable } from 'node:stream';
import { problem } from '@gremium/core';
import { parse } from 'csv-parse';
import excel from 'exceljs';
import yauzl from 'yauzl';
import { Failure, fail } from '../database/failure';
import { limits } from './limits';

export type RawRow = { row: number; cells: string[] };

export type FileHead = {
  format: 'csv' | 'xlsx';
  sheet: string | null;
  sheets: number;
  headings: string[];
};

/** A file being read: its head once known, then its rows; comment lines and empty ones are left out and counted. */
export type FileRows = FileHead & { comments: () => number; rows: AsyncIterable<RawRow> };

/** What a file is, by its first bytes. */
export const formatOf = (content: Buffer): 'csv' | 'xlsx' =>
  content.subarray(0, 4).equals(Buffer.from([0x50, 0x4b, 3, 4])) ? 'xlsx' : 'csv';

/** Opens a file. Fails with `file_unreadable`, `file_empty`, `rows_too_many`, `columns_too_many`, `file_unpacked_too_large`. */
export const readFile = async (content: Buffer): Promise<FileRows> => {
  const format = formatOf(content);
  const source = format === 'xlsx' ? await workbookRows(content) : textRows(content);
  let comments = 0;
  const lines = counted(source.rows, () => comments++);
  const first = await lines.next();
  if (first.done) return fail('file_empty');
  const headings = trimmed(first.value.cells);
  for (const heading of headings) checkedCell(heading, first.value.row);
  if (headings.length > limits.columns) return fail('columns_too_many', { most: limits.columns });
  const width = headings.length;
  const rows = (async function* () {
    let count = 0;
    let letters = 0;
    const known = new Set<number>();
    for await (const { row, cells } of lines) {
      if (++count > limits.rows) fail('rows_too_many', { most: limits.rows });
      if (known.has(row)) fail('row_twice', { row });
      known.add(row);
      const own = Array.from({ length: width }, (_, i) => cells[i] ?? '');
      for (const cell of own) letters += checkedCell(cell, row);
      // one long text of a workbook may stand in each of its cells
      if (letters > limits.text) fail('file_unpacked_too_large');
      yield { row, cells: own };
    }
  })();
  return { format, sheet: source.sheet, sheets: source.sheets, headings, comments: () => comments, rows };
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

type Source = { sheet: string | null; sheets: number; rows: AsyncIterable<RawRow> };

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
  const rows = (async function* () {
    try {
      for await (const { info, record } of parser as AsyncIterable<{
        info: { lines: number };
        record: string[];
      }>)
        yield { row: info.lines, cells: record.map(plain) };
    } catch (error) {
      if (error instanceof Failure) throw error;
      throw new Failure([problem('file_unreadable')]);
    }
  })();
  return { sheet: null, sheets: 1, rows };
};

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

// What stands most often, outside quotes, in the first line that is no comment.
const delimiterOf = (text: string): string => {
  const line =
    text
      .slice(0, 100_000)
      .split(/\r\n|\n|\r/)
      .find((one) => one.trim() !== '' && !/^["']?#/.test(one.trim())) ?? '';
  const bare = line.replace(/"[^"]*"/g, '');
  const counts = DELIMITERS.map((mark) => bare.split(mark).length);
  return DELIMITERS[counts.indexOf(Math.max(...counts))] as string;
};

type Parts = { unpacked: number; sheets: number };

// What a workbook holds, counted by unpacking all of it once: what it says of itself is not believed.
const partsOf = (content: Buffer): Promise<Parts> =>
  new Promise((resolve, reject) => {
    const refuse = (code: 'file_unreadable' | 'file_unpacked_too_large') =>
      reject(new Failure([problem(code)]));
    yauzl.fromBuffer(content, { lazyEntries: true, validateEntrySizes: false }, (error, zip) => {
      if (error) return refuse('file_unreadable');
      const parts: Parts = { unpacked: 0, sheets: 0 };
      zip.on('entry', (entry: yauzl.Entry) => {
        if (/^xl\/worksheets\/[^/]+\.xml$/.test(entry.fileName)) parts.sheets += 1;
        zip.openReadStream(entry, (broken, stream) => {
          if (broken) return refuse('file_unreadable');
          stream.on('error', () => refuse('file_unreadable'));
          stream.on('end', () => zip.readEntry());
          stream.on('data', (chunk: Buffer) => {
            parts.unpacked += chunk.length;
            if (parts.unpacked <= limits.unpacked) return;
            stream.destroy();
            refuse('file_unpacked_too_large');
          });
        });
      });
      zip.on('end', () => resolve(parts));
      zip.on('error', () => refuse('file_unreadable'));
      zip.readEntry();
    });
  });

const workbookRows = async (content: Buffer): Promise<Source> => {
  const { sheets } = await partsOf(content);
  if (sheets === 0) throw new Failure([problem('file_unreadable')]);
  const reader = new excel.stream.xlsx.WorkbookReader(Readable.from(content), {
    worksheets: 'emit',
    sharedStrings: 'cache',
    styles: 'cache',
    hyperlinks: 'ignore',
    entries: 'ignore',
  });
  try {
    for await (const sheet of reader as unknown as AsyncIterable<SheetReader>)
      return { sheet: sheet.name, sheets, rows: sheetRows(sheet) };
  } catch {
    throw new Failure([problem('file_unreadable')]);
  }
  return fail('file_empty');
};

/** The rows that a sheet may have (ECMA-376 sets no limit; spreadsheets do). */
const MOST_ROWS = 1_048_576;

type SheetReader = AsyncIterable<excel.Row> & { name: string };

const sheetRows = async function* (sheet: SheetReader): AsyncGenerator<RawRow> {
  let last = 0;
  try {
    for await (const row of sheet) {
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
