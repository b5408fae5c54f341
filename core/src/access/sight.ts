// What a viewer may see, asked of the register in memory: the same as the queries' scope in SQL, inside a scan. Rights are
// those of now: a sight is made on what is now recorded, whatever moment is looked at, so things are named by their ids.
import type { Day, Kind, SectionName, Viewer } from '@gremium/contract';
import { type Covering, type May, ledgers, may } from '@gremium/contract';
import type { Facts } from '../measures/facts';
import { Part, type Parts } from './part';
import { type Period, dayNumber, uncovered } from '../time/calendar';
import { NONE } from '../time/table';
import { type Spot, spotInside } from './inside';
import { ownerOf } from './owner';

type Reach = { all: boolean; none: boolean; parts: readonly Part[] };

/** What one viewer may see, asked again and again in a scan: what it costs to know is kept. */
export class Sight {
  private readonly reaches = new Map<SectionName, Reach>();
  private readonly persons = new Map<SectionName, Map<number, boolean>>();
  private readonly todayNumber: number;
  private readonly mine: May;

  constructor(
    readonly facts: Facts,
    readonly viewer: Viewer,
    readonly today: Day,
  ) {
    this.todayNumber = dayNumber(today);
    this.mine = may(viewer);
  }

  /** Whether the viewer may see anything at all of a section. */
  has(section: SectionName): boolean {
    return !this.reach(section).none;
  }

  all(section: SectionName): boolean {
    return this.reach(section).all;
  }

  unit(id: number, day: number, section: SectionName = 'unit'): boolean {
    const reach = this.reach(section);
    if (reach.all || reach.none) return reach.all;
    const segment = this.facts.places.unitOn(this.facts.columns.thingsOf('unit').find(id), day);
    return segment >= 0 && reach.parts.some((part) => part.unit(segment));
  }

  position(id: number, day: number, section: SectionName = 'position'): boolean {
    const reach = this.reach(section);
    if (reach.all || reach.none) return reach.all;
    const spot = { position: this.facts.columns.thingsOf('position').find(id), employment: -1, person: -1 };
    return reach.parts.some((part) => part.holds(spot, day));
  }

  /** Whether a placement may be seen on a day, given where it is and whose it is. */
  placement(
    positionId: number,
    employmentId: number,
    day: number,
    section: SectionName = 'placement',
  ): boolean {
    const reach = this.reach(section);
    if (reach.all || reach.none) return reach.all;
    const { columns } = this.facts;
    const employment = columns.thingsOf('employment').find(employmentId);
    const person = this.personOf(employment);
    const position = columns.thingsOf('position').find(positionId);
    return reach.parts.some((part) =>
      part.follows ? this.isAnchored(part, person) : part.holds({ position, employment, person }, day),
    );
  }

  /** Whether an employment may be seen on a day: its primary placement of that day is inside, or it is one's own. */
  employment(id: number, day: number, section: SectionName = 'employment'): boolean {
    const reach = this.reach(section);
    if (reach.all || reach.none) return reach.all;
    const employment = this.facts.columns.thingsOf('employment').find(id);
    const person = this.personOf(employment);
    let position = -2;
    return reach.parts.some((part) => {
      if (part.follows) return this.isAnchored(part, person);
      if (!part.isPlaced) return part.holds({ position: -1, employment, person }, day);
      if (position === -2) position = this.positionOf(employment, day);
      return position >= 0 && part.holds({ position, employment, person }, day);
    });
  }

  /** Whether what is not dated of a person may be seen: the present, else next, else last placement is inside. */
  person(id: number, section: SectionName = 'person_name'): boolean {
    const reach = this.reach(section);
    if (reach.all || reach.none) return reach.all;
    const known = this.persons.get(section) ?? new Map<number, boolean>();
    this.persons.set(section, known);
    const person = this.facts.columns.thingsOf('person').find(id);
    const found = known.get(id) ?? reach.parts.some((part) => this.isAnchored(part, person));
    known.set(id, found);
    return found;
  }

  /** Whether what belongs to a thing may be seen on a day: by where the thing is, along its owners (see owner.ts). */
  owned(section: SectionName, { kind, id }: { kind: Kind; id: number }, day: number): boolean {
    const reach = this.reach(section);
    if (reach.all || reach.none) return reach.all;
    if (kind === 'unit') return this.unit(id, day, section);
    if (kind === 'position') return this.position(id, day, section);
    if (kind === 'employment') return this.employment(id, day, section);
    const { columns } = this.facts;
    if (kind === 'person')
      return columns.catalogue.scope(section) === 'owner_now'
        ? this.person(id, section)
        : this.personThen(id, day, section);
    const base = columns.table(kind as SectionName);
    const slot = base.slotOn(base.things.find(id), day);
    if (slot < 0) return false;
    const row = base.row(slot);
    if (kind === 'placement') {
      const { positionId, employmentId } = row.values as { positionId: number; employmentId: number };
      return this.placement(positionId, employmentId, day, section);
    }
    return this.owned(section, ownerOf(columns.catalogue, row), day);
  }

  private personThen(id: number, day: number, section: SectionName): boolean {
    const { columns } = this.facts;
    const person = columns.thingsOf('person').find(id);
    return (
      this.reach(section).parts.some(
        (part) => (part.isOneself || part.follows) && this.isAnchored(part, person),
      ) ||
      columns.referrers('employment', 'personId', id).some((row) => this.employment(row.thing, day, section))
    );
  }

  /** What may be counted: everything, or the parts in which all of the sections are given. */
  part(needed: readonly SectionName[]): Parts {
    const coverings = this.mine.coverings(needed);
    if (coverings.some(({ conditions }) => conditions.length === 0)) return 'all';
    // whoever sees but themselves counts nobody
    return coverings
      .filter(({ conditions }) => !conditions.some(({ type }) => type === 'oneself'))
      .map((covering) => this.partOf(covering));
  }

  /** Whether a place lies inside on all days of a period by what is recorded now: for what was recorded otherwise at an earlier moment. */
  throughout(spot: Spot, period: Period, needed: readonly SectionName[]): boolean {
    const looker = { viewer: this.viewer.personId, today: this.today };
    const inside = this.mine
      .coverings(needed)
      .flatMap(({ conditions }) =>
        spotInside({ register: this.facts.columns, within: period, looker }, conditions, spot),
      );
    return inside.length > 0 && uncovered(period, inside).length === 0;
  }

  /** The position of an employment's primary placement on a day, in the columns of now, dense; -1 if there is none. */
  private positionOf(employment: number, day: number): number {
    const table = this.facts.columns.table('placement');
    const { data, words } = table.field('kind');
    const primary = words.find('primary');
    for (const slot of table.field('employmentId').chain?.of(employment) ?? [])
      if (
        data[slot] === primary &&
        (table.from[slot] as number) <= day &&
        day < (table.until[slot] as number)
      )
        return table.column('positionId')[slot] as number;
    return -1;
  }

  // Whether a person is inside by where they are now.
  private isAnchored(part: Part, person: number): boolean {
    if (part.isOneself) return part.holds({ position: -1, employment: -1, person }, this.todayNumber);
    const anchor = this.anchorOf(person);
    return anchor !== null && part.holds({ ...anchor, person }, anchor.day);
  }

  /** What `anchorOf` (owner.ts) gives of a person, with dense indices and the day's number. */
  anchor(id: number): { position: number; employment: number; day: number } | null {
    return this.anchorOf(this.facts.columns.thingsOf('person').find(id));
  }

  private anchorOf(person: number): { position: number; employment: number; day: number } | null {
    const { columns } = this.facts;
    const [employments, placements] = [columns.table('employment'), columns.table('placement')];
    const today = this.todayNumber;
    const { data, words } = placements.field('kind');
    const primary = words.find('primary');
    let best: { position: number; employment: number; day: number; rank: number[] } | null = null;
    for (const own of employments.field('personId').chain?.of(person) ?? [])
      for (const slot of placements.field('employmentId').chain?.of(employments.thing[own] as number) ?? []) {
        const [from, until] = [placements.from[slot] as number, placements.until[slot] as number];
        const when = from > today ? 1 : until <= today ? 2 : 0;
        const day = when === 1 ? from : when === 2 ? until - 1 : today;
        const isThen = (employments.from[own] as number) <= day && day < (employments.until[own] as number);
        if (data[slot] !== primary || !isThen) continue;
        const marked = when === 0 && employments.column('markedMain')[own] !== 1 ? 1 : 0;
        const near = when === 1 ? from : when === 2 ? -until : 0;
        const thing = employments.thing[own] as number;
        let first = employments.from[own] as number;
        for (const version of employments.byThing.of(thing))
          first = Math.min(first, employments.from[version] as number);
        const rank = [when, marked, near, first, columns.thingsOf('employment').ids[thing] as number];
        if (best && !isLess(rank, best.rank)) continue;
        const position = placements.column('positionId')[slot] as number;
        best = { position, employment: thing, day, rank };
      }
    return best;
  }

  private personOf(employment: number): number {
    const table = this.facts.columns.table('employment');
    const slot = employment < 0 ? -1 : table.byThing.first(employment);
    const person = slot < 0 ? NONE : (table.column('personId')[slot] as number);
    return person === NONE ? -1 : person;
  }

  private partOf(covering: Covering): Part {
    return new Part(this.facts, covering, this.viewer.personId);
  }

  private reach(section: SectionName): Reach {
    const known = this.reaches.get(section);
    if (known) return known;
    if (ledgers.has(section)) return this.reachOfLedger(section);
    const coverings = this.mine.coverings([section]);
    const isReference = this.facts.columns.catalogue.isReference(section);
    const made: Reach = {
      none: coverings.length === 0,
      all: coverings.length > 0 && (isReference || this.mine.everywhere(section)),
      parts: isReference ? [] : coverings.map((covering) => this.partOf(covering)),
    };
    this.reaches.set(section, made);
    return made;
  }

  // An entry touches anything: it is told whole to whoever may read the journal and sees everything, else in the journal only.
  private reachOfLedger(name: SectionName): Reach {
    const { catalogue } = this.facts.columns;
    const all =
      this.mine.doEverywhere('journal') &&
      catalogue.names.every((section) => catalogue.section(section).byOneself || this.all(section));
    const made: Reach = { all, none: !all, parts: [] };
    this.reaches.set(name, made);
    return made;
  }
}

const isLess = (a: readonly number[], b: readonly number[]): boolean => {
  const i = a.findIndex((value, at) => value !== b[at]);
  return i >= 0 && (a[i] as number) < (b[i] as number);
};
