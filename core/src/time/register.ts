import type { Bound, Change, Row, SectionName, Values } from '@gremium/contract';
import { sectionNames, sectionRefs } from '@gremium/contract';
import { ALWAYS, type Period, overlaps } from './calendar';
import { asOf } from './timeline';

type AnyRow = Row<SectionName>;

/**
 * What is now believed, whole or a part of it: rows by section and thing, and who refers to whom.
 * `apply` folds a change into it and `revert` takes it out again; everything else only reads.
 */
export interface Register {
  /** Versions of one section of one thing, in no order. */
  rows<S extends SectionName>(section: S, thing: number): readonly Row<S>[];
  /** The values in effect on a day. */
  at<S extends SectionName>(section: S, thing: number, on: Bound): Values<S> | undefined;
  /** Ids of all things that have a version of the section. */
  things(section: SectionName): Iterable<number>;
  /** All rows of a section. */
  all<S extends SectionName>(section: S): Generator<Row<S>>;
  /** Rows in effect on a day. */
  allOn<S extends SectionName>(section: S, on: Bound): Generator<Row<S>>;
  /** Rows of a section whose field names the thing, on some day of the period. */
  referrers<S extends SectionName>(
    section: S,
    field: keyof Values<S> & string,
    thing: number,
    within?: Period,
  ): Row<S>[];
  /** Things that a field of some row of the section names. */
  named<S extends SectionName>(section: S, field: keyof Values<S> & string): number[];
  apply(change: Change): void;
  revert(change: Change): void;
}

// Rows that refer to one thing: mostly one alone, or two, for which a set takes four times the room of a list.
type Referring = AnyRow | AnyRow[] | Set<AnyRow>;
type Naming = { field: string; index: Map<number, Referring> };
const MOST_LISTED = 16;

const isSeveral = (found: Referring): found is AnyRow[] | Set<AnyRow> =>
  Array.isArray(found) || found instanceof Set;

const NO_ROWS: readonly AnyRow[] = [];

const rowsOf = (found: Referring | undefined): Iterable<AnyRow> =>
  found === undefined ? NO_ROWS : isSeveral(found) ? found : [found];

/** All rows of a register, section by section. */
export const everyRow = function* (register: Register): Generator<AnyRow> {
  for (const section of sectionNames) yield* register.all(section);
};

/** A register of rows as objects: for what a decision needs, a record page, a history in the making. */
export class RowRegister implements Register {
  private readonly bySection = new Map<SectionName, Map<number, AnyRow[]>>(
    sectionNames.map((name) => [name, new Map()]),
  );
  // of each section, its fields that name things, each with thing → rows that name it
  private readonly referring = new Map<SectionName, Naming[]>(
    sectionNames.map((name) => [
      name,
      sectionRefs(name).map(({ field }) => ({ field, index: new Map<number, Referring>() })),
    ]),
  );

  constructor(rows: Iterable<AnyRow> = []) {
    for (const row of rows) this.add(row);
  }

  rows<S extends SectionName>(section: S, thing: number): readonly Row<S>[] {
    return (this.bySection.get(section)?.get(thing) ?? []) as unknown as readonly Row<S>[];
  }

  at<S extends SectionName>(section: S, thing: number, on: Bound): Values<S> | undefined {
    return asOf(this.rows(section, thing), on)?.values;
  }

  things(section: SectionName): Iterable<number> {
    return this.bySection.get(section)?.keys() ?? [];
  }

  *all<S extends SectionName>(section: S): Generator<Row<S>> {
    for (const rows of this.bySection.get(section)?.values() ?? []) yield* rows as unknown as Row<S>[];
  }

  *allOn<S extends SectionName>(section: S, on: Bound): Generator<Row<S>> {
    for (const row of this.all(section)) if (row.from <= on && on < row.until) yield row;
  }

  referrers<S extends SectionName>(
    section: S,
    field: keyof Values<S> & string,
    thing: number,
    within: Period = ALWAYS,
  ): Row<S>[] {
    const rows = this.naming(section, field)?.get(thing);
    const found: AnyRow[] = [];
    for (const row of rowsOf(rows)) if (overlaps(row, within)) found.push(row);
    return found as unknown as Row<S>[];
  }

  named<S extends SectionName>(section: S, field: keyof Values<S> & string): number[] {
    return [...(this.naming(section, field)?.keys() ?? [])];
  }

  apply({ recorded, superseded }: Change): void {
    for (const row of superseded) this.drop(row);
    for (const row of recorded) this.add(row);
  }

  revert({ recorded, superseded }: Change): void {
    this.apply({ recorded: superseded, superseded: recorded });
  }

  private add(row: AnyRow): void {
    const things = this.bySection.get(row.section) as Map<number, AnyRow[]>;
    const rows = things.get(row.thing);
    if (rows) rows.push(row);
    else things.set(row.thing, [row]);
    const values = row.values as Record<string, unknown>;
    for (const { field, index } of this.referring.get(row.section) as Naming[]) {
      const target = values[field] as number | null;
      if (target === null) continue;
      const found = index.get(target);
      if (!found) index.set(target, row);
      else if (!isSeveral(found)) index.set(target, [found, row]);
      else if (found instanceof Set) found.add(row);
      else if (found.push(row) > MOST_LISTED) index.set(target, new Set(found));
    }
  }

  private drop(row: AnyRow): void {
    const rows = this.bySection.get(row.section)?.get(row.thing) ?? [];
    const at = rows.findIndex(({ id }) => id === row.id);
    if (at < 0) throw new Error(`row ${row.id} of ${row.section} ${row.thing} is not believed`);
    const [gone] = rows.splice(at, 1) as [AnyRow];
    if (rows.length === 0) this.bySection.get(row.section)?.delete(row.thing);
    const values = gone.values as Record<string, unknown>;
    for (const { field, index } of this.referring.get(gone.section) as Naming[]) {
      const target = values[field] as number | null;
      const found = target === null ? undefined : index.get(target);
      if (!found) continue;
      if (!isSeveral(found)) index.delete(target as number);
      else if (found instanceof Set) found.delete(gone);
      else found.splice(found.indexOf(gone), 1);
      if (isSeveral(found) && (found instanceof Set ? found.size : found.length) === 0)
        index.delete(target as number);
    }
  }

  private naming(section: SectionName, field: string): Map<number, Referring> | undefined {
    return this.referring.get(section)?.find((naming) => naming.field === field)?.index;
  }
}
