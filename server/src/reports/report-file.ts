// A list report as a file: what it is, both clocks, its filter, by whom; then its columns, groups with subtotals, totals.
import type { ReportRun, ViewDefinition } from '@gremium/contract';
import excel from 'exceljs';
import { FileOut } from '../files/file-out';
import { type Cell, typedText, writeCsv } from '../files/write-csv';

type Language = 'en' | 'de';

const words = {
  en: {
    inEffect: 'In effect on',
    recorded: 'As recorded by',
    entry: 'entry',
    by: 'Taken out by',
    filter: 'Filter',
    all: 'none',
    rows: 'Rows',
    total: 'Total',
    yes: 'yes',
    no: 'no',
    notYours: (section: string) => `not yours to see: ${section}`,
    totals: { count: 'count', sum: 'sum', mean: 'mean', median: 'median', least: 'least', most: 'most' },
  },
  de: {
    inEffect: 'Gültig am',
    recorded: 'Eingetragen bis',
    entry: 'Eintrag',
    by: 'Exportiert von',
    filter: 'Filter',
    all: 'keiner',
    rows: 'Zeilen',
    total: 'Insgesamt',
    yes: 'ja',
    no: 'nein',
    notYours: (section: string) => `dürfen Sie nicht sehen: ${section}`,
    totals: {
      count: 'Anzahl',
      sum: 'Summe',
      mean: 'Mittel',
      median: 'Median',
      least: 'kleinster',
      most: 'größter',
    },
  },
} as const;

type Asked = {
  title: string;
  view: ViewDefinition;
  language: Language;
  format: 'csv' | 'xlsx';
  by: string;
  moment: string;
};

type Line = { cells: Cell[]; isGroup?: true };

const NUMERIC = new Set(['number', 'hundredths', 'exact']);

const linesOf = (found: ReportRun, language: Language): Line[] => {
  const said = words[language];
  const { columns, rows, groups } = found;
  const cell = (value: ReportRun['rows'][number]['cells'][number], i: number): Cell => {
    if (typeof value === 'boolean') return value ? said.yes : said.no;
    // exact numbers travel as text; in a file they are numbers where nothing is lost
    if (typeof value === 'string' && NUMERIC.has(columns[i]?.kind ?? '')) return Number(value);
    return value;
  };
  const totalCells = (label: string, count: number, totals: ReportRun['totals']): Cell[] =>
    columns.map((_, i) => {
      const total = totals[i];
      const value = total ? cell(total.value, i) : null;
      if (i > 0) return value;
      const first = value === null ? '' : ` · ${String(value)}`;
      return `${label} (${count})${first}`;
    });
  const lines: Line[] = [];
  const depths = groups.length > 0 ? Math.max(...groups.map(({ depth }) => depth)) + 1 : 0;
  const starts = new Map<number, typeof groups>();
  for (const group of groups) starts.set(group.first, [...(starts.get(group.first) ?? []), group]);
  rows.forEach(({ cells }, i) => {
    for (const group of starts.get(i) ?? [])
      lines.push({ cells: [`${'  '.repeat(group.depth)}${group.label || '–'}`], isGroup: true });
    lines.push({ cells: cells.map(cell) });
    for (let depth = depths - 1; depth >= 0; depth--)
      for (const group of groups)
        if (group.depth === depth && group.first + group.rows === i + 1)
          lines.push({ cells: totalCells(group.label || '–', group.things, group.totals), isGroup: true });
  });
  lines.push({ cells: totalCells(said.total, found.things, found.totals), isGroup: true });
  return lines;
};

/** The file of a report that was worked out whole. */
export const reportFile = async (found: ReportRun, asked: Asked): Promise<FileOut> => {
  const { title, view, language, format, by, moment } = asked;
  const said = words[language];
  const top: Cell[][] = [
    [title],
    [said.inEffect, found.on],
    [said.recorded, `${moment}, ${said.entry} ${found.entry}`],
    [said.by, by],
    [said.filter, view.condition || said.all],
    [said.rows, found.matched],
    [],
  ];
  const heads = found.columns.map(({ label, section }, i) => {
    const total = view.columns[i]?.total;
    const name = total ? `${label} (${said.totals[total]})` : label;
    return section ? `${label} – ${said.notYours(section)}` : name;
  });
  const lines = linesOf(found, language);
  const name = `${title || 'report'} ${found.on}`;
  if (format === 'csv')
    return new FileOut(name, format, writeCsv([...top, heads, ...lines.map(({ cells }) => cells)]));
  return new FileOut(name, format, await workbook(found, { top, heads, lines, title }));
};

type Sheet = { top: Cell[][]; heads: string[]; lines: Line[]; title: string };

// Days as days, numbers as numbers, headings kept in sight with filters, totals bold.
const workbook = async ({ columns }: ReportRun, { top, heads, lines, title }: Sheet): Promise<Buffer> => {
  const book = new excel.Workbook();
  const headRow = top.length + 1;
  const name = (title || 'Report').replace(/[\\/*?:[\]]/g, ' ').slice(0, 31);
  const sheet = book.addWorksheet(name, { views: [{ state: 'frozen', xSplit: 1, ySplit: headRow }] });
  for (const row of top) sheet.addRow(row.map(typed));
  // what came from the worker is of another realm: the package knows its own arrays only
  sheet.addRow([...heads].map(typed)).font = { bold: true };
  for (const { cells, isGroup } of lines) {
    const row = sheet.addRow(
      [...cells].map((cell, i) => (isGroup ? typed(cell) : asDay(cell, columns[i]?.kind))),
    );
    if (isGroup) row.font = { bold: true };
    columns.forEach(({ kind }, i) => {
      const numFmt = FORMATS[kind];
      // cells share the object of their style: each gets one of its own
      const cell = row.getCell(i + 1);
      if (numFmt) cell.style = { ...cell.style, numFmt };
    });
  }
  columns.forEach(({ kind }, i) => {
    const column = sheet.getColumn(i + 1);
    column.width = kind === 'text' || kind === 'thing' ? 28 : 15;
  });
  sheet.autoFilter = { from: { row: headRow, column: 1 }, to: { row: headRow, column: heads.length } };
  return Buffer.from(await book.xlsx.writeBuffer());
};

const FORMATS: Partial<Record<ReportRun['columns'][number]['kind'], string>> = {
  day: 'yyyy-mm-dd',
  exact: '#,##0.00',
};

const typed = (cell: Cell): Cell => (typeof cell === 'string' ? typedText(cell) : cell);
const asDay = (cell: Cell, kind: string | undefined): Cell | Date =>
  kind === 'day' && typeof cell === 'string' ? new Date(`${cell}T00:00:00Z`) : typed(cell);
