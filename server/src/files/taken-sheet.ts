// What was packed for a file as sheets with lines: what it is, both clocks, its filter, by whom; then columns, groups with subtotals,
// totals.
import type { ReportRun, ViewDefinition } from '@gremium/contract';
import type { PackedColumn, Taken } from '../reports/take-out.questions';
import type { Cell } from './write-csv';
import type { OutLine, OutSheet } from './write-out';

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

const NUMERIC = new Set(['number', 'hundredths', 'exact']);

type Shown = (value: Cell | boolean, column: number) => Cell;

// Exact numbers travel as text; in a file they are numbers where nothing is lost.
const shownIn =
  ({ columns }: Taken['run'], language: Language): Shown =>
  (value, i) => {
    if (typeof value === 'boolean') return value ? words[language].yes : words[language].no;
    if (typeof value === 'string' && NUMERIC.has(columns[i]?.kind ?? '')) return Number(value);
    return value;
  };

const at = ({ codes, values }: PackedColumn, row: number) => values[codes[row] as number] ?? null;

// A line of totals: its name and count stand in the first column, beside that column's own total.
const totalLine = (
  { label, count, totals }: { label: string; count: number; totals: ReportRun['totals'] },
  width: number,
  shown: Shown,
): OutLine => ({
  isBold: true,
  cells: Array.from({ length: width }, (_, i) => {
    const total = totals[i];
    const value = total ? shown(total.value, i) : null;
    if (i > 0) return value;
    return `${label} (${count})${value === null ? '' : ` · ${String(value)}`}`;
  }),
});

const linesOf = function* ({ run, columns, count }: Taken, language: Language): Generator<OutLine> {
  const shown = shownIn(run, language);
  const { groups } = run;
  const width = run.columns.length;
  const depths = groups.length > 0 ? Math.max(...groups.map(({ depth }) => depth)) + 1 : 0;
  const starts = new Map<number, typeof groups>();
  const ends = new Map<string, (typeof groups)[number]>();
  for (const group of groups) {
    starts.set(group.first, [...(starts.get(group.first) ?? []), group]);
    ends.set(`${group.depth} ${group.first + group.rows}`, group);
  }
  for (let row = 0; row < count; row++) {
    for (const group of starts.get(row) ?? [])
      yield { cells: [`${'  '.repeat(group.depth)}${group.label || '–'}`], isBold: true };
    yield { cells: columns.map((column, i) => shown(at(column, row), i)) };
    for (let depth = depths - 1; depth >= 0; depth--) {
      const group = ends.get(`${depth} ${row + 1}`);
      if (group) yield totalLine({ ...group, label: group.label || '–', count: group.things }, width, shown);
    }
  }
  yield totalLine({ label: words[language].total, count: run.things, totals: run.totals }, width, shown);
};

export type SheetAsk = {
  title: string;
  view: ViewDefinition;
  language: Language;
  by: string;
  moment: string;
};

/** A view as it is shown: with what it is above, and totals below. */
export const viewSheet = (taken: Taken, { title, view, language, by, moment }: SheetAsk): OutSheet => {
  const said = words[language];
  const { run } = taken;
  return {
    name: title || 'Report',
    top: [
      [title],
      [said.inEffect, run.on],
      [said.recorded, `${moment}, ${said.entry} ${run.entry}`],
      [said.by, by],
      [said.filter, view.condition || said.all],
      [said.rows, run.matched],
      [],
    ],
    heads: run.columns.map(({ label, section }, i) => {
      const total = view.columns[i]?.total;
      const name = total ? `${label} (${said.totals[total]})` : label;
      return section ? `${label} – ${said.notYours(section)}` : name;
    }),
    // text of a view is no text cell: whoever goes on with it may sort and count
    kinds: run.columns.map(({ kind }) => (kind === 'text' ? 'thing' : kind)),
    lines: linesOf(taken, language),
  };
};

/** Rows in a layout that is taken in again: headings at the top, nothing but text. */
export const layoutSheet = (name: string, heads: readonly string[], { columns, count }: Taken): OutSheet => ({
  name,
  top: [],
  heads,
  kinds: heads.map(() => 'text'),
  lines: (function* () {
    for (let row = 0; row < count; row++) yield { cells: columns.map((column) => at(column, row) as Cell) };
  })(),
});
