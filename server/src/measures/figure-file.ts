// The people behind one figure as rows of a file, under the figure and how it was asked for.
import {
  type CrossOut,
  type WhyFileQuery,
  type WhyOut,
  figureHeads,
  measureWords,
  reportHeads,
} from '@gremium/contract';
import { FileOut } from '../files/file-out';
import { type Cell, writeCsv } from '../files/write-csv';
import { writeXlsx } from '../files/write-xlsx';
import { reportHead } from './report-head';

/** The file of one figure: `table` is that of its month, for what it was narrowed to and the scope. */
export const figureFile = async (
  why: WhyOut,
  table: CrossOut,
  { query, moment }: { query: WhyFileQuery; moment: string },
): Promise<FileOut> => {
  const { measure, by, month, key, format, language } = query;
  const { measures, dimensions } = measureWords[language];
  const { all, none } = reportHeads[language];
  const value = key === 'all' || by === 'whole' ? all : why.label?.[language] || none;
  const title = `${measures[measure]}, ${dimensions[by]}: ${value}, ${month}`;
  const [first, ...head] = reportHead(title, { ...table, entry: why.entry }, { query, moment });
  const top = [first as Cell[], ...figureLines(why, query), ...head];
  const columns = columnsOf(query);
  const rows = [
    ...top,
    columns.map((column) => column.head),
    ...why.people.map((person) => columns.map(({ cell }) => cell(person))),
  ];
  const name = `${measures[measure]} ${value} ${month}`;
  if (format === 'csv') return new FileOut(name, format, writeCsv(rows));
  const sheet = {
    name: figureHeads[language].people,
    rows,
    headings: top.length,
    widths: [20, 30, 34, 30, 14, 20],
  };
  return new FileOut(name, format, await writeXlsx([sheet]));
};

const isFte = ({ measure }: WhyFileQuery): boolean => measure === 'fte' || measure === 'fteAtWork';

// The figure and what it is made of.
const figureLines = ({ value, leavers, average, total }: WhyOut, query: WhyFileQuery): Cell[][] => {
  const { measure, language } = query;
  const said = figureHeads[language];
  const name = measureWords[language].measures[measure];
  const share = value !== null && isFte(query) ? value / 100 : value;
  if (measure !== 'turnover')
    return [
      [name, share],
      [said.people, total],
    ];
  const percent = new Intl.NumberFormat(language, { style: 'percent', minimumFractionDigits: 1 });
  return [
    [name, value === null ? null : percent.format(value), reportHeads[language].exactly, value],
    [said.leavers, leavers],
    [said.mean, average === null ? null : Number(average.toFixed(1)), reportHeads[language].exactly, average],
  ];
};

type Column = { head: string; cell: (person: WhyOut['people'][number]) => Cell };

const columnsOf = (query: WhyFileQuery): Column[] => {
  const { measure, language } = query;
  const said = figureHeads[language];
  const { measures, classes } = measureWords[language];
  const isLeaving = measure === 'turnover' || measure === 'leavers';
  const columns: (Column | false)[] = [
    { head: said.number, cell: ({ number }) => number },
    { head: said.name, cell: ({ name }) => name },
    { head: said.title, cell: ({ title }) => title },
    { head: said.unit, cell: ({ place }) => place },
    isLeaving && { head: said.lastDay, cell: ({ day }) => day },
    measure === 'joiners' && { head: said.firstDay, cell: ({ day }) => day },
    isLeaving && { head: said.class, cell: (person) => person.class && classes[person.class] },
    isFte(query) && { head: measures[measure], cell: ({ fte }) => (fte ?? 0) / 100 },
  ];
  return columns.filter((column) => column !== false);
};
