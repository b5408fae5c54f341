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

/** The file of a table, as asked. */
export const crossTableFile = async (
  table: CrossOut,
  query: CrossFileQuery,
  moment: string,
): Promise<FileOut> => {
  const { measure, by, format, language } = query;
  const { measures, dimensions } = measureWords[language];
  const { all, none } = reportHeads[language];
  const isFte = measure === 'fte' || measure === 'fteAtWork';
  const cell = (value: number | null): Cell => (value !== null && isFte ? value / 100 : value);
  const top = reportHead(`${measures[measure]}, ${dimensions[by]}`, table, { query, moment });
  const rows: Cell[][] = [
    ...top,
    [dimensions[by], ...table.months.map(({ month, isCut }) => (isCut ? `${month} …` : month))],
    ...table.rows.map(({ label, values }) => [label[language] || none, ...values.map(cell)]),
    [all, ...table.total.values.map(cell)],
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
