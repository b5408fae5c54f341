// Where every position is on every day: unit, division, location, country, job and family, as segments in which none of them
// changes. Worked out of the columns once; a changed position is worked out anew, anything above positions all of it.
import type { Change, Flags } from '@gremium/contract';
import type { Columns } from '../time/columns';
import { NONE, type Table, grown } from '../time/table';

/** Segments of all units, parents before children; `-1` is none. */
export type UnitSegments = {
  from: number[];
  until: number[];
  unit: number[];
  /** The segment of the parent unit over the same days. */
  parent: number[];
  division: number[];
  location: number[];
  /** First segment of each unit and the next of the same unit, in order of days. */
  first: number[];
  next: number[];
};

type Cut = { from: number; until: number };

/** Sections above positions: a change in one of them moves many positions at once. */
const ABOVE = new Set(['unit', 'job', 'location', 'list_entry']);

const EMPTY_UNITS = (): UnitSegments => ({
  from: [],
  until: [],
  unit: [],
  parent: [],
  division: [],
  location: [],
  first: [],
  next: [],
});

// Segments of changed positions left behind; with more than these all are worked out anew.
const MOST_BEHIND = 20_000;

const COLUMNS = [
  'from',
  'until',
  'position',
  'unitSegment',
  'unit',
  'division',
  'location',
  'country',
  'job',
  'family',
  'next',
] as const;

/** Where every position is on every day, worked out of columns and following each change. */
export class Places {
  units: UnitSegments = EMPTY_UNITS();
  /** Columns of the segments of positions; dense indices, codes of countries, `-1` for none. */
  size = 0;
  from = new Int32Array(0);
  until = new Int32Array(0);
  position = new Int32Array(0);
  unitSegment = new Int32Array(0);
  unit = new Int32Array(0);
  division = new Int32Array(0);
  location = new Int32Array(0);
  country = new Int32Array(0);
  job = new Int32Array(0);
  family = new Int32Array(0);
  /** The next segment of the same position in order of days. */
  next = new Int32Array(0);
  /** First segment of each position. */
  first: number[] = [];
  private isStale = true;
  private behind = 0;
  private readonly changed = new Set<number>();

  constructor(private readonly columns: Columns) {
    columns.follow((change) => this.note(change));
  }

  /** Brings the segments up to date with the columns. */
  current(): this {
    if (this.isStale || this.behind > MOST_BEHIND) this.build();
    for (const position of this.changed) this.replace(position);
    this.changed.clear();
    return this;
  }

  /** The segment of a position on a day; -1 if it has none. */
  on(position: number, day: number): number {
    for (let s = this.first[position] ?? -1; s >= 0; s = this.next[s] as number)
      if ((this.from[s] as number) <= day && day < (this.until[s] as number)) return s;
    return -1;
  }

  /** The segment of a unit on a day; -1 if it has none. */
  unitOn(unit: number, day: number): number {
    const { first, next, from, until } = this.units;
    for (let s = first[unit] ?? -1; s >= 0; s = next[s] as number)
      if ((from[s] as number) <= day && day < (until[s] as number)) return s;
    return -1;
  }

  /** For each segment of a unit whether it lies in one of the branches, given by the dense indices of their roots. */
  inside(roots: ReadonlySet<number>): Uint8Array {
    const { unit, parent } = this.units;
    const flags = new Uint8Array(unit.length);
    for (let s = 0; s < unit.length; s++) {
      const up = parent[s] as number;
      flags[s] = roots.has(unit[s] as number) || (up >= 0 && flags[up] === 1) ? 1 : 0;
    }
    return flags;
  }

  private note({ recorded, superseded }: Change): void {
    for (const row of [...recorded, ...superseded]) {
      if (ABOVE.has(row.section)) this.isStale = true;
      if (row.section === 'position') this.changed.add(this.columns.thingsOf('position').find(row.thing));
    }
  }

  private build(): void {
    this.units = unitSegments(this.columns);
    this.size = 0;
    this.behind = 0;
    this.first.length = 0;
    const positions = this.columns.thingsOf('position').ids.length;
    for (let position = 0; position < positions; position++) this.replace(position);
    this.changed.clear();
    this.isStale = false;
  }

  // Old segments of the position stay behind unlinked; they go at the next building of all.
  private replace(position: number): void {
    for (let s = this.first[position] ?? -1; s >= 0; s = this.next[s] as number) this.behind += 1;
    this.first[position] = -1;
    const table = this.columns.table('position');
    let last = -1;
    for (const slot of inOrder(table, position)) {
      const unit = table.column('unitId')[slot] as number;
      const job = table.column('jobId')[slot] as number;
      const own = table.column('locationId')[slot] as number;
      const { units } = this;
      for (let s = units.first[unit] ?? -1; s >= 0; s = units.next[s] as number) {
        const location = own === NONE ? (units.location[s] as number) : own;
        for (const cut of this.cuts(
          { from: table.from[slot] as number, until: table.until[slot] as number },
          { from: units.from[s] as number, until: units.until[s] as number },
          { job, location },
        ))
          last = this.push(position, last, { ...cut, segment: s, unit, job, location });
      }
    }
  }

  // Days common to the version and the unit's segment, cut where the job or the location changes.
  private cuts(a: Cut, b: Cut, { job, location }: { job: number; location: number }): Cut[] {
    const whole = { from: Math.max(a.from, b.from), until: Math.min(a.until, b.until) };
    if (whole.from >= whole.until) return [];
    const marks = new Set<number>();
    for (const [section, thing] of [
      ['job', job],
      ['location', location],
    ] as const)
      if (thing >= 0) boundsInside(this.columns.table(section), thing, whole, marks);
    if (marks.size === 0) return [whole];
    const days = [whole.from, ...[...marks].sort((x, y) => x - y), whole.until];
    return days.slice(1).map((until, i) => ({ from: days[i] as number, until }));
  }

  private push(
    position: number,
    last: number,
    at: Cut & { segment: number; unit: number; job: number; location: number },
  ): number {
    const s = this.size++;
    if (s >= this.from.length) for (const name of COLUMNS) this[name] = grown(this[name], s + 1);
    if (last < 0) this.first[position] = s;
    else this.next[last] = s;
    const job = this.columns.table('job');
    const location = this.columns.table('location');
    const jobSlot = job.slotOn(at.job, at.from);
    const locationSlot = at.location < 0 ? -1 : location.slotOn(at.location, at.from);
    const family = jobSlot < 0 ? NONE : (job.column('familyId')[jobSlot] as number);
    this.from[s] = at.from;
    this.until[s] = at.until;
    this.next[s] = -1;
    this.position[s] = position;
    this.unitSegment[s] = at.segment;
    this.unit[s] = at.unit;
    this.division[s] = this.units.division[at.segment] as number;
    this.location[s] = at.location;
    this.country[s] = locationSlot < 0 ? -1 : (location.column('country')[locationSlot] as number);
    this.job[s] = at.job;
    this.family[s] = family === NONE ? -1 : family;
    return s;
  }
}

const boundsInside = (table: Table, thing: number, { from, until }: Cut, marks: Set<number>): void => {
  for (const slot of table.byThing.of(thing))
    for (const day of [table.from[slot] as number, table.until[slot] as number])
      if (from < day && day < until) marks.add(day);
};

/** Slots of a thing's versions in the order of their days. */
export const inOrder = (table: Table, thing: number): number[] => {
  const slots: number[] = [];
  for (let s = table.byThing.first(thing); s >= 0; s = table.byThing.next(s)) slots.push(s);
  if (slots.length > 1) slots.sort((a, b) => (table.from[a] as number) - (table.from[b] as number));
  return slots;
};

/** Flags of each list entry (dense index), those of its first version. */
export const entryFlags = (columns: Columns): (Flags | undefined)[] => {
  const table = columns.table('list_entry');
  return columns.thingsOf('list_entry').ids.map((_, thing) => {
    const [slot] = inOrder(table, thing);
    return slot === undefined ? undefined : (table.values(slot) as { flags: Flags }).flags;
  });
};

const unitSegments = (columns: Columns): UnitSegments => {
  const table = columns.table('unit');
  const made = EMPTY_UNITS();
  const flags = entryFlags(columns);
  const [parents, kinds, locations] = [
    table.column('parentId'),
    table.column('kindId'),
    table.column('locationId'),
  ];
  const done = new Set<number>();
  const push = (slot: number, cut: Cut, parent: number, last: number): number => {
    const unit = table.thing[slot] as number;
    const own = locations[slot] as number;
    const above = parent < 0 ? -1 : (made.division[parent] as number);
    const s = made.from.length;
    if (last < 0) made.first[unit] = s;
    else made.next[last] = s;
    made.from.push(cut.from);
    made.until.push(cut.until);
    made.unit.push(unit);
    made.parent.push(parent);
    made.next.push(-1);
    made.division.push(above >= 0 ? above : flags[kinds[slot] as number]?.division ? unit : -1);
    made.location.push(own !== NONE ? own : parent < 0 ? -1 : (made.location[parent] as number));
    return s;
  };
  const build = (unit: number): void => {
    if (done.has(unit)) return;
    done.add(unit); // a ring, refused by law, ends here
    made.first[unit] = -1;
    let last = -1;
    for (const slot of inOrder(table, unit)) {
      const [from, until] = [table.from[slot] as number, table.until[slot] as number];
      const parent = parents[slot] as number;
      if (parent !== NONE) build(parent);
      let at = from;
      for (let p = parent === NONE ? -1 : (made.first[parent] ?? -1); p >= 0; p = made.next[p] as number) {
        const [start, end] = [Math.max(at, made.from[p] as number), Math.min(until, made.until[p] as number)];
        if (start >= end) continue;
        if (start > at) last = push(slot, { from: at, until: start }, -1, last);
        last = push(slot, { from: start, until: end }, p, last);
        at = end;
      }
      if (at < until) last = push(slot, { from: at, until }, -1, last);
    }
  };
  for (let unit = 0; unit < columns.thingsOf('unit').ids.length; unit++) build(unit);
  return made;
};
