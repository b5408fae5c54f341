// A cross table as rows of a file: months as columns.
import {
  type CrossFileQuery,
  type CrossOut,
  type MeasureName,
  measureWords,
  reportHeads,
} from '@gremium/contract';
import { FileOut } from '../files/file-out';
import { type Cell, writeCsv } from '../files/write-csv';
import { writeXlsx } from '../files/write-xlsx';
import { reportHead } from './report-head';

const formats: Record<MeasureName, string> = {
  headcount: '0',
  fte: '0.00',
  fteAtWork: '0.00',
  joiners: '0',
  leavers: '0',
  turnover: '0.0%',
};

// As the page shows a rate: one decimal of a percent.
const percent = (value: number | null): Cell => (value === null ? null : Number((value * 100).toFixed(1)));

/** The file of a table, as asked. */
export const crossTableFile = async (
  table: CrossOut,
  query: CrossFileQuery,
  moment: string,
): Promise<FileOut> => {
  const { measure, by, format, language } = query;
  const { measures, dimensions } = measureWords[language];
  const { all, none, exactly } = reportHeads[language];
  const isFte = measure === 'fte' || measure === 'fteAtWork';
  const cell = (value: number | null): Cell => (value !== null && isFte ? value / 100 : value);
  const top = reportHead(`${measures[measure]}, ${dimensions[by]}`, table, { query, moment });
  const months = table.months.map(({ month, isCut }) => (isCut ? `${month} …` : month));
  // a workbook shows what the page shows by the format of its cells; a text file says it, and the exact rates after it
  const saysBoth = measure === 'turnover' && format === 'csv';
  const lineOf = (label: string, values: readonly (number | null)[]): Cell[] => [
    label,
    ...(saysBoth ? values.map(percent) : []),
    ...values.map(cell),
  ];
  const heads = saysBoth
    ? [...months.map((month) => `${month} %`), ...months.map((month) => `${month} ${exactly}`)]
    : months;
  const rows: Cell[][] = [
    ...top,
    [dimensions[by], ...heads],
    ...table.rows.map(({ label, values }) => lineOf(label[language] || none, values)),
    lineOf(all, table.total.values),
  ];
  const name = `${measures[measure]} ${dimensions[by]} ${table.on}`;
  if (format === 'csv') return new FileOut(name, format, writeCsv(rows));
  const sheet = {
    name: dimensions[by],
    rows,
    headings: top.length,
    widths: [34],
    formats: [undefined, ...table.months.map(() => formats[measure])],
  };
  return new FileOut(name, format, await writeXlsx([sheet]));
};
