// All rows of a view for a file, packed: each column as numbers into its different values, so that many rows are few bytes between
// threads. Everything is of one entry.
import type { ReportRun, SectionName, TakeOutLayout, ViewDefinition } from '@gremium/contract';
import { plainColumns, seenSection } from '@gremium/contract';
import { type Labelling, type ReportField, problem, writtenValue } from '@gremium/core';
import { Failure } from '../database/failure';
import type { Asking } from '../time/questions';
import { labelling, namesIn } from './labels';
import { peopleColumns, peopleLines } from './people-layout';
import { type Wire, cellOf, evaluation, mustSeeSubject, orRefused, run } from './reports.questions';

type Language = 'en' | 'de';
type Cell = Wire;

/** A column of rows: which of its values each has. */
export type PackedColumn = { codes: Int32Array; values: Cell[] };

/** Rows of a view, packed, with what stands above and below them; `fields` names columns of a layout. */
export type Taken = {
  run: Omit<ReportRun, 'rows'>;
  columns: PackedColumn[];
  count: number;
  /** The sections that stand in it. */
  sections: SectionName[];
};

type TakeOutRowsAsk = { view: ViewDefinition; layout: TakeOutLayout; language: Language };

/** Takes cells row by row and packs them. */
class Packing {
  private readonly known: Map<Cell, number>[];
  private readonly values: Cell[][];
  private readonly codes: Int32Array[];
  private row = 0;

  constructor(width: number, count: number) {
    this.known = Array.from({ length: width }, () => new Map());
    this.values = Array.from({ length: width }, () => []);
    this.codes = Array.from({ length: width }, () => new Int32Array(count));
  }

  add(cells: readonly Cell[]): void {
    for (let i = 0; i < this.codes.length; i++) {
      const cell = cells[i] ?? null;
      const known = this.known[i] as Map<Cell, number>;
      let code = known.get(cell);
      if (code === undefined) {
        const values = this.values[i] as Cell[];
        code = values.push(cell) - 1;
        known.set(cell, code);
      }
      (this.codes[i] as Int32Array)[this.row] = code;
    }
    this.row++;
  }

  columns(): PackedColumn[] {
    return this.codes.map((codes, i) => ({ codes, values: this.values[i] as Cell[] }));
  }
}

const packedView = (asking: Asking, view: ViewDefinition, language: Language): Taken => {
  const { rows: _, ...found } = run(asking, { view, language, limit: 0, offset: 0 });
  const evaluated = evaluation(asking, view, language);
  const { option } = namesIn(asking, language);
  const { slots, columns } = evaluated;
  const packing = new Packing(columns.length, slots.length);
  for (let i = 0; i < slots.length; i++) {
    evaluated.goTo(i);
    packing.add(
      columns.map(({ field, asked }) => (field ? cellOf(field, asked.several, evaluated, option) : null)),
    );
  }
  const sections = columns.flatMap(({ field }) => field?.section ?? []);
  return {
    run: found,
    columns: packing.columns(),
    count: slots.length,
    sections: [...new Set([view.subject, ...sections])],
  };
};

// How things go in files: by code or number, employments by the number of the person.
const codesFor = (asking: Asking, labels: Labelling) => {
  const { facts } = asking;
  const fieldFor = (kind: string) =>
    ({ id: `plain.${kind}`, meta: { is: 'ref', kind } }) as unknown as ReportField;
  return (kind: string, id: number): string | null => {
    if (kind !== 'employment') return labels.codeOf(fieldFor(kind), id);
    const person = facts.columns.rows('employment', id)[0]?.values.personId;
    return person === undefined ? null : labels.codeOf(fieldFor('person'), person);
  };
};

type Laid = { width: number; line: (row: number) => (string | null)[] };

// Rows of a view with the columns of a file about its subject that is taken in again.
const layoutOf = (asking: Asking, view: ViewDefinition, isAnew: boolean, language: Language): Laid => {
  const found = evaluation(asking, view, language);
  const codeOf = codesFor(asking, labelling(asking, language));
  const { table } = found.cursor;
  const own = plainColumns(
    seenSection(asking.facts.columns.catalogue.section(table.declared.name), asking.sight.viewer.grants),
  ).filter(({ is }) => !isAnew || is !== 'id');
  const from = isAnew ? '(beginning)' : (asking.looking.on as string);
  const line = (i: number) => {
    const slot = found.slots[i] as number;
    const values = table.values(slot) as Record<string, unknown>;
    const thing = table.things.ids[table.thing[slot] as number] as number;
    return own.map((column) => {
      if (column.is === 'id') return String(thing);
      if (column.is === 'from') return from;
      if (column.is === 'of') return codeOf(column.kind as string, thing);
      return writtenValue(column, values[column.field as string], codeOf);
    });
  };
  return { width: own.length, line };
};

const packedLayout = (asking: Asking, { view, layout, language }: TakeOutRowsAsk): Taken => {
  const { period: _, ...shown } = view;
  const asked = { ...shown, groups: [] };
  const evaluated = evaluation(asking, asked, language);
  const { things, looked, matched, boundary, noValue } = evaluated;
  const counts = { things, looked, matched, boundary, noValue };
  const found = {
    columns: [],
    groups: [],
    totals: [],
    ...counts,
    on: asking.looking.on,
    entry: asking.number,
  };
  const count = evaluated.slots.length;
  if (layout === 'people') {
    const { lines, sections } = peopleLines(asking, evaluated, language);
    const packing = new Packing(peopleColumns.length, count);
    for (let i = 0; i < count; i++) packing.add(lines(i));
    return { run: found, columns: packing.columns(), count, sections };
  }
  const { width, line } = layoutOf(asking, asked, layout === 'anew', language);
  const packing = new Packing(width, count);
  for (let i = 0; i < count; i++) packing.add(line(i));
  return { run: found, columns: packing.columns(), count, sections: [view.subject] };
};

// A layout is of any section that files can be about, also of those that lists are not.
const mustSee = (asking: Asking, { view, layout }: TakeOutRowsAsk): void => {
  if (layout === 'view') mustSeeSubject(asking, view.subject);
  else if (!asking.sight.has(view.subject))
    throw new Failure([problem('subject_hidden', {}, 'view.subject')], 403);
};

/** Questions for what is taken out. */
export const takeOutQuestions = {
  takeOutRows: (asking: Asking, ask: TakeOutRowsAsk): Taken =>
    orRefused(asking, ask.language, () => {
      mustSee(asking, ask);
      return ask.layout === 'view' ? packedView(asking, ask.view, ask.language) : packedLayout(asking, ask);
    }),
  /** Refused as `takeOutRows` would be, without its rows. */
  takeOutCheck: (asking: Asking, ask: TakeOutRowsAsk): { matched: number } =>
    orRefused(asking, ask.language, () => {
      mustSee(asking, ask);
      return { matched: evaluation(asking, ask.view, ask.language).matched };
    }),
};
