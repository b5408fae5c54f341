// One part of what a viewer may see, asked of the columns: the conditions of a scope, each as a test of a place on a day.
import type { Condition, ConditionOf, Covering } from '@gremium/contract';
import { hasNoUnits, isOneself, isPlaced } from '@gremium/contract';
import type { Facts } from '../measures/facts';
import { inherited } from '../structure/tree';
import { boundOf } from '../time/calendar';
import type { Days } from './reporting';

/** A place by dense indices; -1 is none: of a position that is looked at for itself, nobody holds it. */
export type Placed = { position: number; employment: number; person: number };

/** What may be seen or counted: everything, or what lies in one of the parts. */
export type Parts = 'all' | readonly Part[];

type Test = (place: Placed, day: number) => boolean;
type Making = { facts: Facts; viewer: number | null };

/** What is walked when people are counted, by dense indices; it is the same on all its days. */
export type Holder = { entity: number; worker: number; person: number };

/** A condition, made of the columns: asked of a place on a day, and asked in a walk over all places and days. */
type Compiled = {
  holds: Test;
  /** A walk asks it of each segment of a position, of who is walked, or by days. */
  counted:
    | { by: 'segment'; isIn: (segment: number) => boolean }
    | { by: 'holder'; isIn: (holder: Holder) => boolean }
    | { by: 'days'; days: (place: Pick<Placed, 'position' | 'person'>) => readonly Days[] };
  /** Segments of units that are its own; left out where it leaves all, or none (`conditionTraits`). */
  units?: Uint8Array;
};

// Of the segments of positions: asked of the one that a position has on a day.
const bySegment = ({ facts: { places } }: Making, isIn: (segment: number) => boolean): Compiled => ({
  holds: ({ position }, day) => {
    const segment = places.on(position, day);
    return segment >= 0 && isIn(segment);
  },
  counted: { by: 'segment', isIn },
});

// A value of an employment on a day.
const employed = (
  { facts: { columns } }: Making,
  field: 'legalEntityId' | 'workerTypeId',
  dense: number,
): Test => {
  const table = columns.table('employment');
  const values = table.column(field);
  return ({ employment }, day) => {
    const slot = table.slotOn(employment, day);
    return slot >= 0 && dense >= 0 && values[slot] === dense;
  };
};

const compiled: { [T in Condition['type']]: (making: Making, condition: ConditionOf<T>) => Compiled } = {
  branch: (making, { unitId }) => {
    const { places, columns } = making.facts;
    const units = places.inside(new Set([columns.thingsOf('unit').find(unitId)]));
    return { ...bySegment(making, (segment) => units[places.unitSegment[segment] as number] === 1), units };
  },
  reports: ({ facts, viewer }, { depth }) => {
    const { columns } = facts;
    const below = viewer === null ? null : facts.reporting.below(viewer, depth);
    const days = ({ position, person }: Pick<Placed, 'position' | 'person'>): readonly Days[] =>
      below?.days({
        positionId: columns.thingsOf('position').ids[position] ?? 0,
        personId: columns.thingsOf('person').ids[person] ?? null,
      }) ?? [];
    return {
      holds: (place, day) => isOnDays(days(place), day),
      counted: { by: 'days', days },
    };
  },
  entity: (making, { legalEntityId }) => {
    const { columns } = making.facts;
    const dense = columns.thingsOf('legal_entity').find(legalEntityId);
    const isEmployed = employed(making, 'legalEntityId', dense);
    return {
      holds: (place, day) => {
        if (place.employment >= 0) return isEmployed(place, day);
        const on = boundOf(day);
        const position = columns.at('position', columns.thingsOf('position').ids[place.position] ?? 0, on);
        return !!position && inherited(columns, position, 'legalEntityId', on).value === legalEntityId;
      },
      counted: { by: 'holder', isIn: ({ entity }) => dense >= 0 && entity === dense },
    };
  },
  country: (making, { country }) => {
    const { places, columns } = making.facts;
    const code = columns.table('location').field('country').words.find(country);
    return bySegment(making, (segment) => code >= 0 && places.country[segment] === code);
  },
  worker_type: (making, { workerTypeId }) => {
    const dense = making.facts.columns.thingsOf('list_entry').find(workerTypeId);
    const isEmployed = employed(making, 'workerTypeId', dense);
    return {
      holds: (place, day) => place.employment < 0 || isEmployed(place, day),
      counted: { by: 'holder', isIn: ({ worker }) => dense >= 0 && worker === dense },
    };
  },
  oneself: ({ facts, viewer }) => {
    const own = viewer === null ? -1 : facts.columns.thingsOf('person').find(viewer);
    const isIn = ({ person }: Pick<Holder, 'person'>) => person >= 0 && person === own;
    return { holds: isIn, counted: { by: 'holder', isIn } };
  },
};

/** Whether a day lies in one of the stretches. */
export const isOnDays = (days: readonly Days[], day: number): boolean =>
  days.some(([from, until]) => from <= day && day < until);

/** The conditions of one covering, asked of the columns as they are now. */
export class Part {
  readonly follows: boolean;
  /** Whether a place decides over people; without one an employment is inside whether it has a place or not. */
  readonly isPlaced: boolean;
  readonly isOneself: boolean;
  private readonly all: readonly Compiled[];
  private readonly hasNoUnits: boolean;

  constructor(
    facts: Facts,
    readonly covering: Covering,
    viewer: number | null,
  ) {
    const { conditions, follows } = covering;
    this.follows = follows;
    this.isPlaced = isPlaced(conditions);
    this.isOneself = isOneself(conditions);
    this.hasNoUnits = hasNoUnits(conditions);
    this.all = conditions.map((condition) => compile({ facts, viewer }, condition));
  }

  /** Whether a place meets all conditions on a day. */
  holds(place: Placed, day: number): boolean {
    return this.all.every((one) => one.holds(place, day));
  }

  /** Whether a unit is inside, by its segment. */
  unit(segment: number): boolean {
    return !this.hasNoUnits && this.all.every(({ units }) => !units || units[segment] === 1);
  }

  /** Whether a segment of a position lies inside, as far as segments say it; null where they say nothing. */
  get segments(): ((segment: number) => boolean) | null {
    const asked = this.all.flatMap(({ counted }) => (counted.by === 'segment' ? [counted] : []));
    return asked.length === 0 ? null : (segment) => asked.every(({ isIn }) => isIn(segment));
  }

  /** Whether somebody who is walked lies inside, as far as they themselves say it. */
  get holders(): (holder: Holder) => boolean {
    const asked = this.all.flatMap(({ counted }) => (counted.by === 'holder' ? [counted] : []));
    return (holder) => asked.every(({ isIn }) => isIn(holder));
  }

  /** Days on which a place lies inside, by each condition that says it so: it must lie in all of them. */
  get days(): ((place: Pick<Placed, 'position' | 'person'>) => (readonly Days[])[]) | null {
    const asked = this.all.flatMap(({ counted }) => (counted.by === 'days' ? [counted] : []));
    return asked.length === 0 ? null : (place) => asked.map(({ days }) => days(place));
  }
}

const compile = <C extends Condition>(making: Making, condition: C): Compiled =>
  (compiled[condition.type] as (making: Making, condition: C) => Compiled)(making, condition);
