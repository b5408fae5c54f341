// What a viewer may see, asked of the register in memory: the same as the queries' scope in SQL, inside a scan. Rights are
// those of now: a sight is made on what is now recorded, whatever moment is looked at, so things are named by their ids.
import type { Day, Kind, SectionName, Viewer } from '@gremium/contract';
import { gives, ledgers } from '@gremium/contract';
import type { Facts } from '../measures/facts';
import type { Part } from '../measures/walk';
import { dayNumber } from '../time/calendar';
import { NONE } from '../time/table';
import { ownerOf } from './owner';

type Reach = { all: boolean; none: boolean; roots: Uint8Array | null; own: boolean };

/** What one viewer may see, asked again and again in a scan: what it costs to know is kept. */
export class Sight {
  private readonly reaches = new Map<SectionName, Reach>();
  private readonly persons = new Map<SectionName, Map<number, boolean>>();
  private readonly todayNumber: number;

  constructor(
    readonly facts: Facts,
    readonly viewer: Viewer,
    today: Day,
  ) {
    this.todayNumber = dayNumber(today);
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
    return segment >= 0 && reach.roots !== null && reach.roots[segment] === 1;
  }

  position(id: number, day: number, section: SectionName = 'position'): boolean {
    const reach = this.reach(section);
    if (reach.all || reach.none) return reach.all;
    const { places } = this.facts;
    const segment = places.on(this.facts.columns.thingsOf('position').find(id), day);
    return segment >= 0 && reach.roots !== null && reach.roots[places.unitSegment[segment] as number] === 1;
  }

  /** Whether a placement may be seen on a day, given where it is and whose it is. */
  placement(positionId: number, employmentId: number, day: number): boolean {
    return this.position(positionId, day, 'placement') || this.isOwn(employmentId, 'placement');
  }

  /** Whether an employment may be seen on a day: its primary placement of that day is inside, or it is one's own. */
  employment(id: number, day: number, section: SectionName = 'employment'): boolean {
    const reach = this.reach(section);
    if (reach.all || reach.none) return reach.all;
    if (this.isOwn(id, section)) return true;
    const slot = this.primary(this.facts.columns.thingsOf('employment').find(id), day);
    if (slot < 0) return false;
    const positions = this.facts.columns.thingsOf('position').ids;
    const placed = this.facts.columns.table('placement').column('positionId')[slot] as number;
    return this.position(positions[placed] as number, day, section);
  }

  /** Whether what is not dated of a person may be seen: the present, else next, else last placement is inside. */
  person(id: number, section: SectionName = 'person_name'): boolean {
    const reach = this.reach(section);
    if (reach.all || reach.none) return reach.all;
    const known = this.persons.get(section) ?? new Map<number, boolean>();
    this.persons.set(section, known);
    const found = known.get(id) ?? this.isPersonInside(id, section);
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
    if (kind === 'person' && columns.catalogue.scope(section) === 'owner_now')
      return this.person(id, section);
    if (kind === 'person')
      return (
        (reach.own && id === this.viewer.personId) ||
        columns
          .referrers('employment', 'personId', id)
          .some((row) => this.employment(row.thing, day, section))
      );
    const base = columns.table(kind as SectionName);
    const slot = base.slotOn(base.things.find(id), day);
    if (slot < 0) return false;
    const row = base.row(slot);
    if (kind === 'placement') {
      const { positionId, employmentId } = row.values as { positionId: number; employmentId: number };
      return this.position(positionId, day, section) || this.isOwn(employmentId, section);
    }
    return this.owned(section, ownerOf(columns.catalogue, row), day);
  }

  /** The part of the organisation whose people the viewer may count: where all of the sections are given. */
  part(needed: readonly SectionName[]): Part {
    const grants = this.viewer.grants.filter((grant) =>
      needed.every((section) => gives(grant, section, 'view')),
    );
    if (grants.some(({ scope }) => scope.type === 'all')) return 'all';
    return grants.flatMap(({ scope }) => (scope.type === 'branch' ? [scope.unitId] : []));
  }

  /** Whether a position lies inside on all days of a period: for what was recorded otherwise at an earlier moment. */
  positionThroughout(
    id: number,
    { from, until }: { from: number; until: number },
    section: SectionName,
  ): boolean {
    const reach = this.reach(section);
    if (reach.all || reach.none) return reach.all;
    const { places } = this.facts;
    let day = from;
    for (
      let s = places.first[this.facts.columns.thingsOf('position').find(id)] ?? -1;
      s >= 0;
      s = places.next[s] as number
    ) {
      const isHere = (places.from[s] as number) <= day && day < (places.until[s] as number);
      if (!isHere || reach.roots?.[places.unitSegment[s] as number] !== 1) continue;
      day = places.until[s] as number;
    }
    return day >= until;
  }

  /** The slot of an employment's primary placement on a day, in the columns of now; -1 if there is none. */
  private primary(employment: number, day: number): number {
    const table = this.facts.columns.table('placement');
    const { data, words } = table.field('kind');
    const primary = words.find('primary');
    for (const slot of table.field('employmentId').chain?.of(employment) ?? [])
      if (
        data[slot] === primary &&
        (table.from[slot] as number) <= day &&
        day < (table.until[slot] as number)
      )
        return slot;
    return -1;
  }

  private isPersonInside(id: number, section: SectionName): boolean {
    if (this.reach(section).own && id === this.viewer.personId) return true;
    const anchor = this.anchor(id);
    if (!anchor) return false;
    const { ids } = this.facts.columns.thingsOf('position');
    return this.position(ids[anchor.position] as number, anchor.day, section);
  }

  /** What `anchorOf` gives, with the position's dense index and the day's number. */
  anchor(id: number): { position: number; day: number } | null {
    const { columns } = this.facts;
    const [employments, placements] = [columns.table('employment'), columns.table('placement')];
    const today = this.todayNumber;
    const { data, words } = placements.field('kind');
    const primary = words.find('primary');
    let best: { position: number; day: number; rank: number[] } | null = null;
    for (const own of employments.field('personId').chain?.of(columns.thingsOf('person').find(id)) ?? [])
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
        best = { position, day, rank };
      }
    return best;
  }

  private isOwn(employmentId: number, section: SectionName): boolean {
    const { personId } = this.viewer;
    if (!this.reach(section).own || personId === null) return false;
    const { columns } = this.facts;
    const table = columns.table('employment');
    const slot = table.byThing.first(columns.thingsOf('employment').find(employmentId));
    if (slot < 0) return false;
    const person = table.column('personId')[slot] as number;
    return person !== NONE && columns.thingsOf('person').ids[person] === personId;
  }

  private reach(section: SectionName): Reach {
    const known = this.reaches.get(section);
    if (known) return known;
    if (ledgers.has(section)) return this.reachOfLedger(section);
    const grants = this.viewer.grants.filter((grant) => gives(grant, section, 'view'));
    const isReference = this.facts.columns.catalogue.isReference(section);
    const roots = grants.flatMap(({ scope }) => (scope.type === 'branch' ? [scope.unitId] : []));
    const units = this.facts.columns.thingsOf('unit');
    const made: Reach = {
      none: grants.length === 0,
      all: grants.length > 0 && (isReference || grants.some(({ scope }) => scope.type === 'all')),
      roots: roots.length > 0 ? this.facts.places.inside(new Set(roots.map((id) => units.find(id)))) : null,
      own: grants.some(({ scope }) => scope.type === 'oneself'),
    };
    this.reaches.set(section, made);
    return made;
  }

  // An entry touches anything: it is told whole to whoever may read the journal and sees everything, else in the journal only.
  private reachOfLedger(name: SectionName): Reach {
    const mayRead = this.viewer.grants.some(
      ({ acts, scope }) => scope.type === 'all' && acts.includes('journal'),
    );
    const { catalogue } = this.facts.columns;
    const all =
      mayRead &&
      catalogue.names.every((section) => catalogue.section(section).byOneself || this.all(section));
    const made: Reach = { all, none: !all, roots: null, own: false };
    this.reaches.set(name, made);
    return made;
  }
}

const isLess = (a: readonly number[], b: readonly number[]): boolean => {
  const i = a.findIndex((value, at) => value !== b[at]);
  return i >= 0 && (a[i] as number) < (b[i] as number);
};
