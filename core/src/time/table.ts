// The versions of one section as columns: what the register in memory is made of. Ids of things are replaced by dense
// indices, texts by codes, days by numbers, so that a scan over half a million rows takes milliseconds.
import type { Kind, Row, Section, SectionName, Values } from '@gremium/contract';
import { cellOf } from '@gremium/contract';
import { derivedTexts } from '../people/names';
import { dayNumber, boundOf } from './calendar';

/** An empty cell. */
export const NONE = -2147483648;

/** The array, or a larger one with the same beginning. */
export const grown = <A extends Int32Array | Float64Array>(array: A, size: number): A => {
  if (array.length >= size) return array;
  const Made = array.constructor as new (length: number) => A;
  const larger = new Made(Math.max(size, array.length * 2, 1024));
  larger.set(array as never);
  return larger;
};

const PAGE = 4096;

/**
 * Where each id stands among the things of its kind. Pages are made where ids are (a Map of numbers took three times as long to load a million rows).
 */
class Places {
  private readonly pages: Int32Array[] = [];

  get(id: number): number {
    const page = this.pages[Math.floor(id / PAGE)];
    return page === undefined ? -1 : (page[id % PAGE] as number) - 1;
  }

  set(id: number, place: number): void {
    (this.pages[Math.floor(id / PAGE)] ??= new Int32Array(PAGE))[id % PAGE] = place + 1;
  }
}

/** The things of one kind: ids and their dense indices, given once and never taken back. */
export class Things {
  readonly ids: number[] = [];
  private readonly places = new Places();

  /** The dense index of an id; -1 if the thing was never met. */
  find(id: number): number {
    return this.places.get(id);
  }

  /** The dense index of an id, given now if it is new. */
  index(id: number): number {
    const known = this.places.get(id);
    if (known >= 0) return known;
    this.places.set(id, this.ids.length);
    this.ids.push(id);
    return this.ids.length - 1;
  }
}

/** Different texts of a column, each with a code. */
export class Words {
  readonly texts: string[] = [];
  private readonly codes = new Map<string, number>();

  code(text: string): number {
    const known = this.codes.get(text);
    if (known !== undefined) return known;
    this.codes.set(text, this.texts.length);
    this.texts.push(text);
    return this.texts.length - 1;
  }

  /** The code of a text; -1 if no row ever had it. */
  find(text: string): number {
    return this.codes.get(text) ?? -1;
  }
}

/** Slots by owner: a linked list for each dense index. */
export class Chain {
  private heads = new Int32Array(0);
  private nexts = new Int32Array(0);

  first(owner: number): number {
    return owner >= 0 && owner < this.heads.length ? (this.heads[owner] as number) - 1 : -1;
  }

  next(slot: number): number {
    return (this.nexts[slot] as number) - 1;
  }

  push(owner: number, slot: number): void {
    this.heads = grown(this.heads, owner + 1);
    this.nexts = grown(this.nexts, slot + 1);
    this.nexts[slot] = this.heads[owner] as number;
    this.heads[owner] = slot + 1;
  }

  drop(owner: number, slot: number): void {
    if (this.first(owner) === slot) {
      this.heads[owner] = this.nexts[slot] as number;
      return;
    }
    for (let at = this.first(owner); at >= 0; at = this.next(at))
      if (this.next(at) === slot) this.nexts[at] = this.nexts[slot] as number;
  }

  *of(owner: number): Generator<number> {
    for (let at = this.first(owner); at >= 0; at = this.next(at)) yield at;
  }
}

type Cell = ReturnType<typeof cellOf>;

/** A column with what its cells mean. */
export type Field = {
  name: string;
  cell: Cell;
  data: Int32Array;
  words: Words;
  things: Things | null;
  chain: Chain | null;
};

/** A row on its way in: cells are dense indices, codes, numbers, 0 and 1, or `NONE`, in the order of the fields. */
export type Incoming = {
  id: number;
  lineage: number;
  /** Dense index of the thing. */
  thing: number;
  from: number;
  until: number;
  entry: number;
  cells: Int32Array;
  extras: string[];
};

/** One section's versions. A slot whose row is no longer believed has an empty period, so no scan meets it. */
export class Table {
  size = 0;
  thing = new Int32Array(0);
  from = new Int32Array(0);
  until = new Int32Array(0);
  readonly fields: Field[];
  readonly byThing = new Chain();
  /** Texts made of the values (what people are searched and sorted by). */
  readonly extras: string[][];
  private ids = new Float64Array(0);
  private lineages = new Float64Array(0);
  private entries = new Float64Array(0);
  private readonly free: number[] = [];
  private readonly places: Map<string, Field>;
  private readonly parsed = new Map<string, unknown>();

  readonly section: SectionName;
  readonly things: Things;

  constructor(
    readonly declared: Section,
    thingsOf: (kind: Kind) => Things,
  ) {
    this.section = declared.name as SectionName;
    this.things = thingsOf(declared.kind);
    const refs = new Map(declared.refs.map(({ field, kind, several }) => [field, several ? null : kind]));
    this.fields = [...declared.metas].map(([name, meta]) => {
      const kind = refs.get(name) ?? null;
      return {
        name,
        cell: cellOf(meta),
        data: new Int32Array(0),
        words: new Words(),
        things: kind === null ? null : thingsOf(kind),
        chain: meta.followed ? new Chain() : null,
      };
    });
    this.places = new Map(this.fields.map((field) => [field.name, field]));
    this.extras = Object.keys(derivedTexts[this.section]?.(null) ?? {}).map(() => []);
  }

  field(name: string): Field {
    return this.places.get(name) as Field;
  }

  /** The cells of a field. Ask anew after every change: a growing column moves. */
  column(name: string): Int32Array {
    return this.field(name).data;
  }

  isAlive(slot: number): boolean {
    return (this.from[slot] as number) < (this.until[slot] as number);
  }

  idAt(slot: number): number {
    return this.ids[slot] as number;
  }

  add(row: Incoming): number {
    const slot = this.free.pop() ?? this.size++;
    if (slot >= this.thing.length) this.grow(slot + 1);
    this.ids[slot] = row.id;
    this.lineages[slot] = row.lineage;
    this.entries[slot] = row.entry;
    this.thing[slot] = row.thing;
    this.from[slot] = row.from;
    this.until[slot] = row.until;
    this.byThing.push(row.thing, slot);
    for (let i = 0; i < this.fields.length; i++) {
      const field = this.fields[i] as Field;
      const cell = row.cells[i] as number;
      field.data[slot] = cell;
      if (field.chain && cell !== NONE) field.chain.push(cell, slot);
    }
    for (let i = 0; i < this.extras.length; i++) (this.extras[i] as string[])[slot] = row.extras[i] as string;
    return slot;
  }

  drop(slot: number): void {
    this.byThing.drop(this.thing[slot] as number, slot);
    for (const { chain, data } of this.fields)
      if (chain && data[slot] !== NONE) chain.drop(data[slot] as number, slot);
    this.from[slot] = 0;
    this.until[slot] = 0;
    this.free.push(slot);
  }

  /** The row of an id among those of its thing; -1 if it is not believed. */
  slotOf({ id, thing }: Row): number {
    for (const slot of this.byThing.of(this.things.find(thing))) if (this.ids[slot] === id) return slot;
    return -1;
  }

  /** A row as cells. */
  encoded(row: Row): Incoming {
    const values = row.values as Record<string, unknown>;
    return {
      id: row.id,
      lineage: row.lineage,
      thing: this.things.index(row.thing),
      from: dayNumber(row.from),
      until: dayNumber(row.until),
      entry: row.entry,
      cells: Int32Array.from(this.fields, (field) => encode(field, values[field.name])),
      extras: Object.values(derivedTexts[this.section]?.(row.values as never) ?? {}),
    };
  }

  row(slot: number): Row {
    return {
      id: this.ids[slot] as number,
      lineage: this.lineages[slot] as number,
      section: this.section,
      thing: this.things.ids[this.thing[slot] as number] as number,
      from: boundOf(this.from[slot] as number),
      until: boundOf(this.until[slot] as number),
      values: this.values(slot),
      entry: this.entries[slot] as number,
    };
  }

  values(slot: number): Values {
    const values: Record<string, unknown> = {};
    for (const field of this.fields) values[field.name] = this.decoded(field, field.data[slot] as number);
    return values as Values;
  }

  /** The slot of a thing's version on a day; -1 if there is none. */
  slotOn(thing: number, on: number): number {
    for (let slot = this.byThing.first(thing); slot >= 0; slot = this.byThing.next(slot))
      if ((this.from[slot] as number) <= on && on < (this.until[slot] as number)) return slot;
    return -1;
  }

  private decoded({ cell, words, things }: Field, value: number): unknown {
    if (value === NONE) return null;
    if (cell === 'number') return value;
    if (cell === 'boolean') return value === 1;
    if (cell === 'reference') return things?.ids[value];
    const text = words.texts[value] as string;
    if (cell === 'text') return text;
    if (!this.parsed.has(text)) this.parsed.set(text, JSON.parse(text));
    return this.parsed.get(text);
  }

  private grow(size: number): void {
    this.ids = grown(this.ids, size);
    this.lineages = grown(this.lineages, size);
    this.entries = grown(this.entries, size);
    this.thing = grown(this.thing, size);
    this.from = grown(this.from, size);
    this.until = grown(this.until, size);
    for (const field of this.fields) field.data = grown(field.data, size);
  }
}

const encode = ({ cell, words, things }: Field, value: unknown): number => {
  if (value === null || value === undefined) return NONE;
  if (cell === 'number') return value as number;
  if (cell === 'boolean') return value ? 1 : 0;
  if (cell === 'reference') return (things as Things).index(value as number);
  return words.code(cell === 'json' ? canonicalJson(value) : String(value));
};

/** An object as text with its keys as PostgreSQL keeps them in jsonb, so that both ways in give one code. */
export const canonicalJson = (value: unknown): string => {
  if (Array.isArray(value)) return `[${value.map(canonicalJson).join(', ')}]`;
  if (value === null || typeof value !== 'object') return JSON.stringify(value);
  const pairs = Object.entries(value)
    .filter(([, inner]) => inner !== undefined)
    .sort(([a], [b]) => a.length - b.length || (a < b ? -1 : 1));
  return `{${pairs.map(([key, inner]) => `${JSON.stringify(key)}: ${canonicalJson(inner)}`).join(', ')}}`;
};
