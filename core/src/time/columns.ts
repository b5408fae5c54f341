// The whole register as columns: the same questions as of rows (`Register`), and scans for figures and lists.
import type { Bound, Catalogue, Change, Kind, Row, Section, SectionName, Values } from '@gremium/contract';
import { ledgers, preset } from '@gremium/contract';
import { ALWAYS, type Period, dayNumber } from './calendar';
import { lookedText } from './knowledge';
import type { Register } from './register';
import { NONE, Table, Things } from './table';

/** A rare section was asked for that is not loaded: whoever asks loads it, and asks again. */
export class NotLoaded extends Error {
  constructor(readonly section: SectionName) {
    super(`${section} is not loaded`);
  }
}

/** Told after each change that was folded in, so that what is worked out of the columns can follow. */
export type Follower = (change: Change) => void;

/**
 * What is now believed of the whole register, as columns. A change is folded in whole (`apply`); rows are made only when
 * asked for, anew each time: compare them by id. Versions of a thing come in the order of their days. Throws where a change does not fit what is believed.
 */
export class Columns implements Register {
  private readonly kinds = new Map<Kind, Things>();
  private readonly tables = new Map<SectionName, Table>();
  private readonly followers: Follower[] = [];

  /** `catalogue`: the sections it is made of; rare ones are there once they are loaded (`keep`). */
  constructor(private known: Catalogue = preset) {
    for (const section of known.sections) if (!section.rare) this.begin(section);
  }

  get catalogue(): Catalogue {
    return this.known;
  }

  thingsOf(kind: Kind): Things {
    const things = this.kinds.get(kind) ?? new Things();
    this.kinds.set(kind, things);
    return things;
  }

  /** The versions of a section. Throws `NotLoaded` for a rare one that is not here. */
  table(section: SectionName): Table {
    const table = this.tables.get(section);
    if (!table) throw new NotLoaded(section);
    return table;
  }

  has(section: SectionName): boolean {
    return this.tables.has(section);
  }

  /** Takes over the versions of a section, in place of those there were. */
  keep(section: SectionName, table: Table): void {
    this.tables.set(section, table);
  }

  /** Lets go of a rare section until somebody asks again. */
  close(section: SectionName): void {
    if (this.known.section(section).rare) this.tables.delete(section);
  }

  /** Goes on with another catalogue: rare sections are let go of, as their fields may be others now. */
  renew(catalogue: Catalogue): void {
    for (const { name, rare } of this.known.sections) if (rare) this.tables.delete(name as SectionName);
    this.known = catalogue;
    for (const section of catalogue.sections)
      if (!section.rare && !this.has(section.name as SectionName)) this.begin(section);
  }

  private begin(section: Section): void {
    this.keep(section.name as SectionName, new Table(section, (kind) => this.thingsOf(kind)));
  }

  follow(follower: Follower): void {
    this.followers.push(follower);
  }

  rows<S extends SectionName>(section: S, thing: number): readonly Row<S>[] {
    const table = this.table(section);
    const slots = [...table.byThing.of(table.things.find(thing))];
    return slots
      .sort((a, b) => (table.from[a] as number) - (table.from[b] as number))
      .map((slot) => table.row(slot) as Row<S>);
  }

  at<S extends SectionName>(section: S, thing: number, on: Bound): Values<S> | undefined {
    const table = this.table(section);
    const slot = table.slotOn(table.things.find(thing), dayNumber(on));
    return slot < 0 ? undefined : (table.values(slot) as Values<S>);
  }

  *things(section: SectionName): Generator<number> {
    const { things, byThing } = this.table(section);
    for (let i = 0; i < things.ids.length; i++) if (byThing.first(i) >= 0) yield things.ids[i] as number;
  }

  *all<S extends SectionName>(section: S): Generator<Row<S>> {
    const table = this.table(section);
    for (let slot = 0; slot < table.size; slot++) if (table.isAlive(slot)) yield table.row(slot) as Row<S>;
  }

  *allOn<S extends SectionName>(section: S, on: Bound): Generator<Row<S>> {
    const table = this.table(section);
    const number = dayNumber(on);
    for (let slot = 0; slot < table.size; slot++)
      if ((table.from[slot] as number) <= number && number < (table.until[slot] as number))
        yield table.row(slot) as Row<S>;
  }

  referrers<S extends SectionName>(
    section: S,
    field: keyof Values<S> & string,
    thing: number,
    within: Period = ALWAYS,
  ): Row<S>[] {
    const table = this.table(section);
    const [from, until] = [dayNumber(within.from), dayNumber(within.until)];
    return this.slotsNaming(table, field, thing)
      .filter((slot) => (table.from[slot] as number) < until && from < (table.until[slot] as number))
      .map((slot) => table.row(slot) as Row<S>);
  }

  named<S extends SectionName>(section: S, field: keyof Values<S> & string): number[] {
    const table = this.table(section);
    const { data, things } = table.field(field);
    const found = new Set<number>();
    for (let slot = 0; slot < table.size; slot++)
      if (table.isAlive(slot) && data[slot] !== NONE) found.add(data[slot] as number);
    return [...found].map((dense) => (things as Things).ids[dense] as number);
  }

  valued<S extends SectionName>(section: S, field: keyof Values<S> & string, text: string): Row<S>[] {
    const wanted = lookedText(text);
    return [...this.all(section)].filter(
      ({ values }) => lookedText((values as Record<string, unknown>)[field]) === wanted,
    );
  }

  /** Whether all that a change supersedes is believed here. */
  fits({ superseded }: Change): boolean {
    return superseded.every((row) => !this.has(row.section) || this.table(row.section).slotOf(row) >= 0);
  }

  apply(change: Change): void {
    // what is read from the journal is read anew after each entry
    for (const name of ledgers.keys()) this.tables.delete(name as SectionName);
    // rare sections are loaded whole when they are asked for
    for (const row of change.superseded) {
      const table = this.tables.get(row.section);
      if (!table) continue;
      const slot = table.slotOf(row);
      if (slot < 0) throw new Error(`row ${row.id} of ${row.section} ${row.thing} is not believed`);
      table.drop(slot);
    }
    for (const row of change.recorded) {
      const table = this.tables.get(row.section);
      table?.add(table.encoded(row));
    }
    for (const follow of this.followers) follow(change);
  }

  revert({ recorded, superseded }: Change): void {
    this.apply({ recorded: superseded, superseded: recorded });
  }

  private slotsNaming(table: Table, field: string, thing: number): number[] {
    const { chain, data, things } = table.field(field);
    const dense = (things as Things).find(thing);
    if (dense < 0) return [];
    if (chain) return [...chain.of(dense)].reverse();
    const slots: number[] = [];
    for (let slot = 0; slot < table.size; slot++)
      if (data[slot] === dense && table.isAlive(slot)) slots.push(slot);
    return slots;
  }
}
