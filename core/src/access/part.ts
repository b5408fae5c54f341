// One part of what a viewer may see, asked of the columns: the conditions of a scope, each as a test of a place on a day.
import type { Condition, ConditionOf, Covering } from '@gremium/contract';
import type { Facts } from '../measures/facts';
import { inherited } from '../structure/tree';
import { boundOf } from '../time/calendar';
import { NONE } from '../time/table';
import { isPlaced } from './inside';
import type { Below, Days } from './reporting';

/** A place by dense indices; -1 is none: of a position that is looked at for itself, nobody holds it. */
export type Placed = { position: number; employment: number; person: number };

/** What may be seen or counted: everything, or what lies in one of the parts. */
export type Parts = 'all' | readonly Part[];

type Test = (place: Placed, day: number) => boolean;
type Making = { facts: Facts; viewer: number | null };

// A value of an employment on a day.
const employed = (
  { facts: { columns } }: Making,
  field: 'legalEntityId' | 'workerTypeId',
  wanted: number,
): Test => {
  const table = columns.table('employment');
  const values = table.column(field);
  const dense = columns.thingsOf(field === 'legalEntityId' ? 'legal_entity' : 'list_entry').find(wanted);
  return ({ employment }, day) => {
    const slot = table.slotOn(employment, day);
    return slot >= 0 && dense >= 0 && values[slot] === dense;
  };
};

// Each condition as a test of a place on a day.
const tests: { [T in Condition['type']]: (making: Making, condition: ConditionOf<T>) => Test } = {
  branch: ({ facts }, { unitId }) => {
    const units = facts.places.inside(new Set([facts.columns.thingsOf('unit').find(unitId)]));
    return ({ position }, day) => {
      const segment = facts.places.on(position, day);
      return segment >= 0 && units[facts.places.unitSegment[segment] as number] === 1;
    };
  },
  reports: ({ facts, viewer }, { depth }) => {
    const below = viewer === null ? null : facts.reporting.below(viewer, depth);
    return (place, day) =>
      below !== null && daysBelow(facts, below, place).some(([from, until]) => from <= day && day < until);
  },
  entity: (making, { legalEntityId }) => {
    const { columns } = making.facts;
    const isEmployed = employed(making, 'legalEntityId', legalEntityId);
    return (place, day) => {
      if (place.employment >= 0) return isEmployed(place, day);
      const on = boundOf(day);
      const position = columns.at('position', columns.thingsOf('position').ids[place.position] ?? 0, on);
      return !!position && inherited(columns, position, 'legalEntityId', on).value === legalEntityId;
    };
  },
  country: ({ facts }, { country }) => {
    const { words } = facts.columns.table('location').field('country');
    const code = words.find(country);
    return ({ position }, day) => {
      const segment = facts.places.on(position, day);
      return segment >= 0 && code >= 0 && facts.places.country[segment] === code;
    };
  },
  worker_type: (making, { workerTypeId }) => {
    const isEmployed = employed(making, 'workerTypeId', workerTypeId);
    return (place, day) => place.employment < 0 || isEmployed(place, day);
  },
  oneself: ({ facts, viewer }) => {
    const own = viewer === null ? NONE : facts.columns.thingsOf('person').find(viewer);
    return ({ person }) => person >= 0 && person === own;
  },
};

const daysBelow = (
  { columns }: Facts,
  below: Below,
  { position, person }: Pick<Placed, 'position' | 'person'>,
): readonly Days[] =>
  below.days({
    positionId: columns.thingsOf('position').ids[position] ?? 0,
    personId: person < 0 ? null : (columns.thingsOf('person').ids[person] ?? null),
  });

/** The conditions of one covering, asked of the columns as they are now. */
export class Part {
  readonly follows: boolean;
  /** Whether a place decides over people; without one an employment is inside whether it has a place or not. */
  readonly isPlaced: boolean;
  readonly isOneself: boolean;
  private readonly all: readonly Test[];
  private readonly units: readonly Uint8Array[];

  constructor(
    private readonly facts: Facts,
    readonly covering: Covering,
    private readonly viewer: number | null,
  ) {
    const { conditions, follows } = covering;
    this.follows = follows;
    this.isPlaced = isPlaced(conditions);
    this.isOneself = conditions.every(({ type }) => type === 'oneself');
    const making = { facts, viewer };
    this.all = conditions.map((condition) => testOf(making, condition));
    this.units = conditions.flatMap((condition) =>
      condition.type === 'branch'
        ? [facts.places.inside(new Set([facts.columns.thingsOf('unit').find(condition.unitId)]))]
        : [],
    );
  }

  /** Whether a place meets all conditions on a day. */
  holds(place: Placed, day: number): boolean {
    return this.all.every((test) => test(place, day));
  }

  /** Whether a unit is inside, by its segment: of the conditions, branches look at units; what is one's own is none. */
  unit(segment: number): boolean {
    return (
      !this.covering.conditions.some(({ type }) => type === 'oneself') &&
      this.units.every((flags) => flags[segment] === 1)
    );
  }

  isViewer(person: number): boolean {
    return (
      this.viewer !== null && person >= 0 && this.facts.columns.thingsOf('person').ids[person] === this.viewer
    );
  }

  /** For each segment of a position whether branches and countries let it in; null where nothing of these is asked. */
  segments(): Uint8Array | null {
    const { places, columns } = this.facts;
    const countries = this.covering.conditions.flatMap((condition) =>
      condition.type === 'country'
        ? [columns.table('location').field('country').words.find(condition.country)]
        : [],
    );
    if (this.units.length + countries.length === 0) return null;
    const flags = new Uint8Array(places.size);
    for (let s = 0; s < flags.length; s++) {
      const unit = places.unitSegment[s] as number;
      const isIn = this.units.every((inside) => inside[unit] === 1);
      flags[s] = isIn && countries.every((code) => code >= 0 && places.country[s] === code) ? 1 : 0;
    }
    return flags;
  }

  /** Days on which a place reports to the viewer, where that is asked; null where it is not. */
  reporting(place: Pick<Placed, 'position' | 'person'>): readonly Days[] | null {
    const asked = this.covering.conditions.filter(({ type }) => type === 'reports');
    if (asked.length === 0) return null;
    if (this.viewer === null) return [];
    const depth = asked.some((one) => one.type === 'reports' && one.depth === 'direct') ? 'direct' : 'all';
    return daysBelow(this.facts, this.facts.reporting.below(this.viewer, depth), place);
  }
}

const testOf = <C extends Condition>(making: Making, condition: C): Test =>
  (tests[condition.type] as (making: Making, condition: C) => Test)(making, condition);
