// Where a scan is: one row of a subject, with the rows of other sections that it leads to, each found once.
import type { SectionName } from '@gremium/contract';
import { ownerOf } from '../access/owner';
import type { Sight } from '../access/sight';
import type { Facts } from '../measures/facts';
import { type Standing, standings } from '../people/directory';
import { boundOf, dayNumber } from '../time/calendar';
import { type Chain, NONE, type Table } from '../time/table';

/** Kinds of things that rows lead to. */
export type Anchor =
  | 'person'
  | 'employment'
  | 'placement'
  | 'position'
  | 'unit'
  | 'job'
  | 'grade'
  | 'location'
  | 'legal_entity'
  | 'cost_centre';

const NOTHING = -1;

const ORDER = [
  'person',
  'employment',
  'placement',
  'position',
  'unit',
  'job',
  'grade',
  'location',
  'legal_entity',
  'cost_centre',
] as const satisfies readonly Anchor[];
const INDEX = Object.fromEntries(ORDER.map((kind, i) => [kind, i])) as Record<Anchor, number>;

const NONE_OF_SEVERAL: readonly number[] = [];

/** A walk over the rows of a section on a day, for one viewer. Things are dense indices, rows are slots; -1 is none. */
export class Cursor {
  /** The slot of the row it is at, in the table of the subject. */
  slot = NOTHING;
  readonly table: Table;
  /** The day looked at; where a period is, that on which the row it is at began. */
  day: number;
  /** The slot of the one of several rows that stands in a row of its own; -1 where there is none. */
  each = NOTHING;
  // What was found for the row it is at, each with the step at which it was: nothing is cleared from row to row.
  private step = 0;
  private readonly anchors = new Int32Array(ORDER.length);
  private readonly anchorSteps = new Int32Array(ORDER.length);
  private readonly places = new Map<SectionName, number>();
  private readonly slots: Int32Array;
  private readonly slotSteps: Int32Array;
  private standing: Standing | null | undefined;
  private standingOf: (person: number) => Standing | null;
  private readonly kindOf: {
    kind: Int32Array;
    primary: number;
    chain: Chain;
    from: Int32Array;
    until: Int32Array;
  };
  private readonly severalSteps: Int32Array;
  private readonly several: (readonly number[])[] = [];
  private readonly basePay = new Map<number, boolean>();

  constructor(
    readonly facts: Facts,
    readonly sight: Sight,
    readonly subject: SectionName,
    on: string,
    /** Each row is looked at as it was on the day it began. */
    private readonly isThen = false,
    /** The section of several rows of which each has a row of its own. */
    readonly eachOf: SectionName | null = null,
  ) {
    const { columns } = facts;
    this.table = columns.table(subject);
    this.day = dayNumber(on as never);
    this.standingOf = standings(columns, sight, this.day);
    const placements = columns.table('placement');
    const kinds = placements.field('kind');
    const { names } = columns.catalogue;
    names.forEach((name, i) => this.places.set(name, i));
    this.slots = new Int32Array(names.length);
    this.slotSteps = new Int32Array(names.length);
    this.severalSteps = new Int32Array(names.length);
    this.kindOf = {
      kind: kinds.data,
      primary: kinds.words.find('primary'),
      chain: placements.field('employmentId').chain as Chain,
      from: placements.from,
      until: placements.until,
    };
  }

  /** Which step of the walk this is: another one at each row. */
  get at(): number {
    return this.step;
  }

  /** Goes to a row, and to one of its several. */
  to(slot: number, each = NOTHING): this {
    this.slot = slot;
    this.each = each;
    this.step++;
    const began = this.isThen ? (this.table.from[slot] as number) : this.day;
    if (began !== this.day) {
      this.day = began;
      this.standingOf = standings(this.facts.columns, this.sight, began);
    }
    this.standing = undefined;
    return this;
  }

  /** The day on which what belongs to an employment is looked at: the day asked about, or its last one where it is over. */
  get then(): number {
    return this.own('employment') === NOTHING ? (this.stands()?.day ?? this.day) : this.day;
  }

  /** Dense index of what the row leads to of a kind; -1 where it leads to none. */
  anchor(kind: Anchor): number {
    const i = INDEX[kind];
    if (this.anchorSteps[i] === this.step) return this.anchors[i] as number;
    const own = this.own(kind);
    const found = own >= 0 ? own : this.led(kind);
    this.anchorSteps[i] = this.step;
    this.anchors[i] = found;
    return found;
  }

  /** The slot of a section that the row leads to, if the viewer may see it; -1 else. */
  of(section: SectionName): number {
    const i = this.places.get(section) ?? 0;
    if (this.slotSteps[i] === this.step) return this.slots[i] as number;
    const slot = section === this.subject ? this.slot : this.find(section);
    const seen = slot >= 0 && this.sees(section, slot) ? slot : NOTHING;
    this.slotSteps[i] = this.step;
    this.slots[i] = seen;
    return seen;
  }

  /** Slots of a section of several rows that belong to a thing the row leads to, on the day, as far as they may be seen. */
  severalOf(section: SectionName): readonly number[] {
    const i = this.places.get(section) ?? 0;
    const known = this.severalSteps[i] === this.step ? this.several[i] : undefined;
    if (known) return known;
    const found = this.findSeveral(section);
    this.severalSteps[i] = this.step;
    this.several[i] = found;
    return found;
  }

  private findSeveral(section: SectionName): readonly number[] {
    const { columns } = this.facts;
    const { owner } = columns.catalogue.section(section);
    if (!owner) return NONE_OF_SEVERAL;
    const table = columns.table(section);
    const thing = this.anchor(owner.kind as Anchor);
    const chain = table.field(owner.field).chain;
    let slot = chain && thing >= 0 ? chain.first(thing) : -1;
    if (!chain || slot < 0) return NONE_OF_SEVERAL;
    const day = this.then;
    const found: number[] = [];
    // by hand: a generator costs more than the walk
    for (; slot >= 0; slot = chain.next(slot))
      if (
        (table.from[slot] as number) <= day &&
        day < (table.until[slot] as number) &&
        this.sees(section, slot)
      )
        found.push(slot);
    return found.length > 1 ? found.reverse() : found;
  }

  /** Whether the viewer may see a row of a section. */
  sees(section: SectionName, slot: number): boolean {
    const { sight } = this;
    if (sight.all(section)) return true;
    if (!sight.has(section)) return false;
    const { columns } = this.facts;
    const table = columns.table(section);
    const [from, until] = [table.from[slot] as number, table.until[slot] as number];
    const day = Math.min(Math.max(this.then, from), until - 1);
    return sight.owned(section, ownerOf(columns.catalogue, table.row(slot)), day);
  }

  /** The text of a cell. */
  text(section: SectionName, field: string): string | null {
    const slot = this.of(section);
    if (slot < 0) return null;
    const { data, words } = this.facts.columns.table(section).field(field);
    const code = data[slot] as number;
    return code === NONE ? null : (words.texts[code] as string);
  }

  /** The number in a cell; 0 where there is none. */
  number(section: SectionName, field: string): number {
    const slot = this.of(section);
    const value = slot < 0 ? NONE : (this.facts.columns.table(section).column(field)[slot] as number);
    return value === NONE ? 0 : value;
  }

  /** The id of a dense index. */
  idOf(kind: Anchor, dense: number): number {
    return this.facts.columns.thingsOf(kind).ids[dense] as number;
  }

  /** The day looked at as text. */
  get on(): string {
    return boundOf(this.day);
  }

  private stands(): Standing | null {
    if (this.standing !== undefined) return this.standing;
    const person = this.own('person');
    this.standing = person >= 0 ? this.standingOf(person) : null;
    return this.standing;
  }

  // What the row itself is, or names.
  private own(kind: Anchor): number {
    const { declared } = this.table;
    if (declared.kind === kind) return this.table.thing[this.slot] as number;
    const { owner } = declared;
    const field = owner?.kind === kind ? owner.field : OWN_FIELDS[kind];
    const meta = field === undefined ? undefined : declared.metas.get(field);
    if (field === undefined || meta?.is !== 'ref' || meta.kind !== kind) return NOTHING;
    const cell = this.table.column(field)[this.slot] as number;
    return cell === NONE ? NOTHING : cell;
  }

  private led(kind: Anchor): number {
    const { columns, places } = this.facts;
    const cell = (section: SectionName, field: string): number => {
      // where what lies between may not be seen, nothing is told of what it leads to
      const slot = this.of(section);
      const value = slot < 0 ? NONE : (columns.table(section).column(field)[slot] as number);
      return value === NONE ? NOTHING : value;
    };
    if (kind === 'person')
      return this.own('employment') >= 0 || this.own('placement') >= 0
        ? cell('employment', 'personId')
        : NOTHING;
    if (kind === 'employment') {
      if (this.own('placement') >= 0) return cell('placement', 'employmentId');
      return this.own('person') >= 0 ? (this.stands()?.employment ?? NOTHING) : NOTHING;
    }
    if (kind === 'placement') return this.placementThing();
    if (kind === 'position') return cell('placement', 'positionId');
    if (kind === 'job') return cell('position', 'jobId');
    if (kind === 'grade')
      return this.anchor('position') >= 0 ? cell('position', 'gradeId') : cell('job', 'gradeId');
    if (kind === 'legal_entity' && this.anchor('employment') >= 0) return cell('employment', 'legalEntityId');
    const segment = this.of('position') < 0 ? -1 : places.on(this.anchor('position'), this.then);
    if (kind === 'unit') return segment < 0 ? NOTHING : (places.unit[segment] as number);
    if (kind === 'location') return segment < 0 ? NOTHING : (places.location[segment] as number);
    return NOTHING;
  }

  private placementThing(): number {
    const slot = this.of('placement');
    return slot < 0 ? NOTHING : (this.facts.columns.table('placement').thing[slot] as number);
  }

  private primary(): number {
    const employment = this.anchor('employment');
    if (employment < 0) return NOTHING;
    const day = this.then;
    const { kind, primary, chain, from, until } = this.kindOf;
    // by hand: a generator costs more than the walk
    for (let slot = chain.first(employment); slot >= 0; slot = chain.next(slot))
      if (kind[slot] === primary && (from[slot] as number) <= day && day < (until[slot] as number))
        return slot;
    return NOTHING;
  }

  private find(section: SectionName): number {
    const { columns } = this.facts;
    const table = columns.table(section);
    if (section === 'placement' && this.subject !== 'placement') {
      return this.own('placement') >= 0 ? table.slotOn(this.own('placement'), this.day) : this.primary();
    }
    if (section === 'contract' || section === 'pay') return this.termOf(section, table);
    const { kind } = table.declared;
    const thing = this.anchor(kind as Anchor);
    if (thing < 0) return NOTHING;
    return table.slotOn(thing, kind === 'person' ? this.day : this.then);
  }

  // The contract, or the base pay, of the employment on the day.
  private termOf(section: 'contract' | 'pay', table: Table): number {
    const employment = this.anchor('employment');
    const day = this.then;
    if (employment < 0) return NOTHING;
    const chain = table.field('employmentId').chain as Chain;
    for (let slot = chain.first(employment); slot >= 0; slot = chain.next(slot)) {
      if ((table.from[slot] as number) > day || day >= (table.until[slot] as number)) continue;
      if (section === 'contract' || this.isBase(table.column('kindId')[slot] as number)) return slot;
    }
    return NOTHING;
  }

  private isBase(entry: number): boolean {
    const known = this.basePay.get(entry);
    if (known !== undefined) return known;
    const { columns } = this.facts;
    const id = columns.thingsOf('list_entry').ids[entry] as number;
    const is = columns.rows('list_entry', id)[0]?.values.flags.base === true;
    this.basePay.set(entry, is);
    return is;
  }
}

const OWN_FIELDS: { [K in Anchor]?: string } = {
  person: 'personId',
  employment: 'employmentId',
  placement: 'placementId',
  position: 'positionId',
  unit: 'unitId',
  job: 'jobId',
  grade: 'gradeId',
  location: 'locationId',
  legal_entity: 'legalEntityId',
  cost_centre: 'costCentreId',
};
