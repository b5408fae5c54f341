import type { Bound, Day, Row, Values } from '@gremium/contract';
import type { Register } from '../time/register';
import {
  BEGINNING,
  type Period,
  addDays,
  byFrom,
  daysBetween,
  intersection,
  isBefore,
  isOn,
  lastDay,
  later,
} from '../time/calendar';
import { type Fraction, ZERO, exceeds, fraction, larger, minus, sum } from './fraction';

/** How much of a position is held. */
export type Occupancy = 'vacant' | 'part_filled' | 'filled' | 'over_held';

type Placement = Values<'placement'>;

/** The contracted share of a placement, exact: a long absence counts, what is lent to a temporary placement does not. */
export const contractedShare = ({ hours, lentHours, fullTime }: Placement): Fraction =>
  fraction(hours - lentHours, fullTime);

/** The share at work: contracted less what a long absence suspends. */
export const shareAtWork = ({ hours, lentHours, awayHours, fullTime }: Placement): Fraction =>
  fraction(hours - lentHours - awayHours, fullTime);

/**
 * What a placement takes up of its position: lent and away hours stay held unless backfilled. A cover takes nothing while
 * the one it covers keeps the place; acting holds the manager's duties, not the place (`takesNothing`).
 */
export const heldShare = (placement: Placement): Fraction =>
  placement.backfilled ? shareAtWork(placement) : fraction(placement.hours, placement.fullTime);

/** Whether a placement takes no place: acting and covering ones hold another’s. */
export const takesNothing = ({ kind }: Placement): boolean => kind === 'acting' || kind === 'cover';
const givesPlace = ({ backfilled, hours, lentHours, awayHours }: Placement): boolean =>
  backfilled && lentHours + awayHours >= hours;

type Holding = Row<'placement'>;

/**
 * Handover: a holder leaving within `days` after another begins counts against no limit from that day on. One newcomer
 * frees one leaver. Returns for each leaver's placement the first day on which it does not count.
 */
export const handovers = (holdings: readonly Holding[], days: number): Map<number, Bound> => {
  const exempt = new Map<number, Bound>();
  if (days === 0) return exempt;
  const spans = spansOf(holdings);
  const newcomers = [...spans].sort((a, b) => (isBefore(a[1].from, b[1].from) ? -1 : 1));
  for (const [newcomer, { from }] of newcomers) {
    const leaver = [...spans]
      .filter(([thing, span]) => thing !== newcomer && !exempt.has(thing) && isBefore(span.from, from))
      .filter(([, span]) => {
        const last = lastDay(span);
        return last !== null && from <= last && addDays(last, -days) <= from;
      })
      .sort(([, a], [, b]) => (isBefore(a.until, b.until) ? -1 : 1))[0];
    if (leaver) exempt.set(leaver[0], from);
  }
  return exempt;
};

// A placement may have several versions (share changes): its span is from the first day of all to the last.
const spansOf = (holdings: readonly Holding[]): Map<number, Period> => {
  const spans = new Map<number, Period>();
  for (const { thing, from, until } of holdings) {
    const span = spans.get(thing);
    spans.set(
      thing,
      span
        ? { from: from < span.from ? from : span.from, until: until > span.until ? until : span.until }
        : { from, until },
    );
  }
  return spans;
};

/** Who holds a position on a day, who of them counts against its limits, and how much. */
export type Held = { holders: Holding[]; counted: Holding[]; fte: Fraction; places: number };

/** Who holds a position on a day, and what of it counts against its limits. */
export const heldOn = (holdings: readonly Holding[], on: Bound, exempt: ReadonlyMap<number, Bound>): Held => {
  const holders = holdings.filter((row) => isOn(row, on));
  const counted = holders.filter(({ thing, values }) => {
    const since = exempt.get(thing);
    return !takesNothing(values) && (since === undefined || isBefore(on, since));
  });
  return {
    holders,
    counted,
    fte: sum(counted.map(({ values }) => heldShare(values))),
    places: counted.filter(({ values }) => !givesPlace(values)).length,
  };
};

/** How many may hold a position, up to which FTE in hundredths; null is no limit. */
export type Limits = Pick<Values<'position_limits'>, 'places' | 'fte'>;

/** Which limit is exceeded, places first; null if none. */
export const isOver = (held: Held, { places, fte }: Limits): 'places' | 'fte' | null => {
  if (places !== null && held.places > places) return 'places';
  return fte !== null && exceeds(held.fte, fraction(fte, 100)) ? 'fte' : null;
};

/** What is held and free of a position on a day. */
export type PositionState = {
  occupancy: Occupancy;
  holders: Holding[];
  held: Fraction;
  /** Null where the position has no such limit. */
  freePlaces: number | null;
  freeFte: Fraction | null;
  /** What of the free FTE somebody can still be hired into: none where every place is taken. */
  hireFte: Fraction | null;
};

/** Occupancy, free places and free FTE of a position on a day (docs/model.md, "Positions"). */
export const positionState = (register: Register, positionId: number, on: Bound): PositionState => {
  const limits = register.at('position_limits', positionId, on) ?? {
    places: null,
    fte: null,
    handoverDays: 0,
  };
  const holdings = register.referrers('placement', 'positionId', positionId);
  const held = heldOn(holdings, on, handovers(holdings, limits.handoverDays));
  return { ...freeOf(held, limits), holders: held.holders, held: held.fte };
};

const freeOf = (held: Held, limits: Limits): Omit<PositionState, 'holders' | 'held'> => {
  const freeFte = limits.fte === null ? null : larger(ZERO, minus(fraction(limits.fte, 100), held.fte));
  const noFte = freeFte !== null && freeFte.num === 0n;
  const places = limits.places === null ? null : Math.max(0, limits.places - held.places);
  const freePlaces = places !== null && noFte ? 0 : places;
  const occupancy = ((): Occupancy => {
    if (isOver(held, limits)) return 'over_held';
    const holding = held.counted.some(({ values }) => !givesPlace(values));
    if (!holding) return 'vacant';
    const unlimited = limits.places === null && limits.fte === null;
    return unlimited || freePlaces === 0 || noFte ? 'filled' : 'part_filled';
  })();
  const hireFte = freeFte !== null && freePlaces === 0 ? ZERO : freeFte;
  return { occupancy, freePlaces, freeFte, hireFte };
};

/** Since when a position is vacant, and for how many days in force. */
export type Vacancy = {
  /** The first day in force without a holder. */
  since: Bound;
  /** Days in force since then, that day and the day looked at included; null where that is since the unknown beginning. */
  days: number | null;
};

/**
 * How long a position has been vacant on a day: its days in force since the day after the last holder; null unless it is vacant
 * and in force on the day (docs/model.md). Left 30 November, on hold 1 January to 30 June: 41 on 10 July.
 */
export const vacancyOn = (register: Register, positionId: number, on: Day): Vacancy | null => {
  if (positionState(register, positionId, on).occupancy !== 'vacant') return null;
  if (register.at('position', positionId, on)?.standing !== 'in_force') return null;
  const lastHeld = register
    .referrers('placement', 'positionId', positionId)
    .filter(({ values, until }) => !takesNothing(values) && until <= on)
    .map(({ until }) => until)
    .reduce(later, BEGINNING);
  const inForce = register
    .rows('position', positionId)
    .filter(({ values }) => values.standing === 'in_force')
    .flatMap((row) => intersection(row, { from: lastHeld, until: addDays(on, 1) }) ?? [])
    .sort(byFrom);
  const since = inForce[0]?.from ?? on;
  if (since === BEGINNING) return { since, days: null };
  const days = inForce.reduce((sum, { from, until }) => sum + daysBetween(from as Day, until as Day), 0);
  return { since, days };
};
