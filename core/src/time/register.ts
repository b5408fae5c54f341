import type { Bound, Catalogue, Change, Row, SectionName, Values } from '@gremium/contract';
import { preset } from '@gremium/contract';
import { ALWAYS, type Period, overlaps } from './calendar';
import { type RegisterKey, type Knowledge, lookedText } from './knowledge';
import { asOf } from './timeline';

type AnyRow = Row<SectionName>;

/**
 * What is now believed, whole or a part of it: rows by section and thing, and who refers to whom.
 * `apply` folds a change into it and `revert` takes it out again; everything else only reads.
 */
export interface Register {
  /** The sections it is made of. */
  readonly catalogue: Catalogue;
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
  /** Rows of a section with a text in a field that is looked for by its text; capitals aside. */
  valued<S extends SectionName>(section: S, field: keyof Values<S> & string, text: string): Row<S>[];
  apply(change: Change): void;
  revert(change: Change): void;
}

/** What most of what is worked out asks of a register: things by their ids, and who names them. */
export type Reading = Pick<Register, 'catalogue' | 'rows' | 'at' | 'referrers'>;

// Rows that refer to one thing: mostly one alone, or two, for which a set takes four times the room of a list.
type Referring = AnyRow | AnyRow[] | Set<AnyRow>;
type Naming = { field: string; several: boolean; index: Map<number, Referring> };
const MOST_LISTED = 16;

const isSeveral = (found: Referring): found is AnyRow[] | Set<AnyRow> =>
  Array.isArray(found) || found instanceof Set;

const NO_ROWS: readonly AnyRow[] = [];

const rowsOf = (found: Referring | undefined): Iterable<AnyRow> =>
  found === undefined ? NO_ROWS : isSeveral(found) ? found : [found];

/** All rows of a register, section by section. */
export const everyRow = function* (register: Register): Generator<AnyRow> {
  for (const section of register.catalogue.names) yield* register.all(section);
};

const targetsOf = (values: Record<string, unknown>, { field, several }: Naming): readonly number[] => {
  const value = values[field];
  if (value === null || value === undefined) return NOBODY;
  return several ? (value as number[]) : [value as number];
};
const NOBODY: readonly number[] = [];

/** A register of rows as objects: for what a decision needs, a record page, a history in the making. Empty means none. */
export class RowRegister implements Register {
  private readonly bySection = new Map<SectionName, Map<number, AnyRow[]>>();
  // of each section, its fields that name things, each with thing → rows that name it
  private readonly referring = new Map<SectionName, Naming[]>();

  constructor(
    rows: Iterable<AnyRow> = [],
    readonly catalogue: Catalogue = preset,
  ) {
    for (const row of rows) this.add(row);
  }

  /** Told what is asked before it is answered: an open register says there what it does not know. */
  protected look: ((key: RegisterKey) => void) | null = null;

  rows<S extends SectionName>(section: S, thing: number): readonly Row<S>[] {
    this.look?.({ section, field: 'thing', of: thing });
    return this.of(section, thing);
  }

  at<S extends SectionName>(section: S, thing: number, on: Bound): Values<S> | undefined {
    this.look?.({ section, field: 'thing', of: thing, after: on });
    return asOf(this.of(section, thing), on)?.values;
  }

  things(section: SectionName): Iterable<number> {
    this.look?.({ section, field: '*', of: null });
    return this.bySection.get(section)?.keys() ?? [];
  }

  *all<S extends SectionName>(section: S): Generator<Row<S>> {
    this.look?.({ section, field: '*', of: null });
    yield* this.loaded(section);
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
    this.look?.({ section, field, of: thing, after: within.from });
    return this.here(section, field, thing).filter((row) => overlaps(row, within));
  }

  named<S extends SectionName>(section: S, field: keyof Values<S> & string): number[] {
    this.look?.({ section, field, of: null });
    return [...(this.naming(section, field)?.keys() ?? [])];
  }

  valued<S extends SectionName>(section: S, field: keyof Values<S> & string, text: string): Row<S>[] {
    const wanted = lookedText(text);
    this.look?.({ section, field, of: wanted });
    return [...this.loaded(section)].filter(
      ({ values }) => lookedText((values as Record<string, unknown>)[field]) === wanted,
    );
  }

  apply({ recorded, superseded }: Change): void {
    for (const row of superseded) this.drop(row);
    for (const row of recorded) this.add(row);
  }

  revert({ recorded, superseded }: Change): void {
    this.apply({ recorded: superseded, superseded: recorded });
  }

  /** All rows of a section that are here. */
  *loaded<S extends SectionName>(section: S): Generator<Row<S>> {
    for (const rows of this.bySection.get(section)?.values() ?? []) yield* rows as unknown as Row<S>[];
  }

  /** Rows that are here of which a field names the thing. */
  here<S extends SectionName>(section: S, field: keyof Values<S> & string, thing: number): Row<S>[] {
    return [...rowsOf(this.naming(section, field)?.get(thing))] as unknown as Row<S>[];
  }

  /** All rows that are here. */
  *everything(): Generator<AnyRow> {
    for (const section of this.bySection.keys()) yield* this.loaded(section);
  }

  private of<S extends SectionName>(section: S, thing: number): readonly Row<S>[] {
    return (this.bySection.get(section)?.get(thing) ?? NO_ROWS) as unknown as readonly Row<S>[];
  }

  private add(row: AnyRow): void {
    const things = this.thingsOf(row.section);
    const rows = things.get(row.thing);
    if (rows) rows.push(row);
    else things.set(row.thing, [row]);
    const values = row.values as Record<string, unknown>;
    for (const naming of this.namings(row.section))
      for (const target of targetsOf(values, naming)) {
        const { index } = naming;
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
    for (const naming of this.namings(gone.section))
      for (const target of targetsOf(values, naming)) forget(naming.index, target, gone);
  }

  private thingsOf(section: SectionName): Map<number, AnyRow[]> {
    const known = this.bySection.get(section);
    if (known) return known;
    const made = new Map<number, AnyRow[]>();
    this.bySection.set(section, made);
    return made;
  }

  private namings(section: SectionName): Naming[] {
    const known = this.referring.get(section);
    if (known) return known;
    const made = this.catalogue
      .refs(section)
      .map(({ field, several }) => ({ field, several, index: new Map<number, Referring>() }));
    this.referring.set(section, made);
    return made;
  }

  private naming(section: SectionName, field: string): Map<number, Referring> | undefined {
    return this.referring.get(section)?.find((naming) => naming.field === field)?.index;
  }
}

const forget = (index: Map<number, Referring>, target: number, row: AnyRow): void => {
  const found = index.get(target);
  if (!found) return;
  if (!isSeveral(found)) index.delete(target);
  else if (found instanceof Set) found.delete(row);
  else found.splice(found.indexOf(row), 1);
  if (isSeveral(found) && (found instanceof Set ? found.size : found.length) === 0) index.delete(target);
};

/**
 * A part of the register that says what it was not told: asked for what was not loaded it throws `Miss`. What was applied
 * to it can be taken back at once, so that whoever was interrupted leaves nothing behind.
 */
export class OpenRegister extends RowRegister {
  private log: Change[] = [];

  constructor(
    catalogue: Catalogue,
    readonly knowledge: Knowledge,
    rows: Iterable<AnyRow> = [],
  ) {
    super(rows, catalogue);
    if (knowledge.isOpen) this.look = (key) => knowledge.look(key);
  }

  /** The same rows and the same knowledge, beside it. */
  copy(): OpenRegister {
    return new OpenRegister(this.catalogue, this.knowledge, this.everything());
  }

  override apply(change: Change): void {
    super.apply(change);
    // where nothing can be missed, nothing is taken back at once
    if (this.look) this.log.push(change);
  }

  /** Rows that were loaded. */
  take(rows: Row[]): void {
    super.apply({ recorded: rows, superseded: [] });
  }

  /** Takes back all that was applied. */
  rollBack(): void {
    for (const { recorded, superseded } of this.log.reverse())
      super.apply({ recorded: superseded, superseded: recorded });
    this.log = [];
  }
}
