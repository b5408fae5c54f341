// A cross table as rows of a file: what it is, the two clocks, who it counts, then months as columns.
import {
  type CrossFileQuery,
  type CrossOut,
  type DimensionName,
  type MeasureName,
  measureWords,
} from '@gremium/contract';
import { FileOut } from '../files/file-out';
import { type Cell, writeCsv } from '../files/write-csv';
import { writeXlsx } from '../files/write-xlsx';

type Heads = {
  inEffect: string;
  recorded: string;
  entry: string;
  part: string;
  narrowed: string;
  all: string;
  none: string;
};

// Heads of the lines above the table; names of measures and dimensions are those of the page.
const heads: Record<'en' | 'de', Heads> = {
  en: {
    inEffect: 'In effect on',
    recorded: 'As recorded by',
    entry: 'after entry',
    part: 'People in',
    narrowed: 'Narrowed to',
    all: 'All',
    none: 'None',
  },
  de: {
    inEffect: 'In Kraft am',
    recorded: 'Bekannt bis',
    entry: 'nach Eintrag',
    part: 'Personen in',
    narrowed: 'Eingegrenzt auf',
    all: 'Alle',
    none: 'Ohne',
  },
};

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
  const said = heads[language];
  const { measures, dimensions } = measureWords[language];
  const isFte = measure === 'fte' || measure === 'fteAtWork';
  const cell = (value: number | null): Cell => (value !== null && isFte ? value / 100 : value);
  const top: Cell[][] = [
    [`${measures[measure]}, ${dimensions[by]}`],
    [said.inEffect, table.on],
    [said.recorded, `${moment}, ${said.entry} ${table.entry}`],
    [said.part, table.scope?.map((label) => label[language]).join(', ') ?? said.all],
    [said.narrowed, query.narrow === '' ? said.all : narrowedTo(table, query, said)],
    [],
  ];
  const rows: Cell[][] = [
    ...top,
    [dimensions[by], ...table.months.map(({ month, isCut }) => (isCut ? `${month} …` : month))],
    ...table.rows.map(({ label, values }) => [label[language] || said.none, ...values.map(cell)]),
    [said.all, ...table.total.values.map(cell)],
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

const narrowedTo = (table: CrossOut, { narrow, language }: CrossFileQuery, said: Heads): string =>
  narrow
    .split(';')
    .map((part) => {
      const [name = '', keys = ''] = part.split(':');
      const values = table.chips.find(({ dimension }) => dimension === name)?.values ?? [];
      const labels = keys.split(',').map((key) => {
        const found = values.find((value) => String(value.key ?? '-') === key);
        return found?.label[language] || (key === '-' ? said.none : key);
      });
      return `${measureWords[language].dimensions[name as DimensionName] ?? name}: ${labels.join(', ')}`;
    })
    .join('; ');
