// One pass over all presences, cut where the position moves: every measure of a cross table is a sum over its pieces.
import type { DimensionName, ReasonClass } from '@gremium/contract';
import { type Key, coded, isOfPosition, sourceOf } from './dimensions';
import type { Spot } from '../access/inside';
import { type Part, type Parts, isOnDays } from '../access/part';
import type { Days } from '../access/reporting';
import type { Facts } from './facts';

/** Values of dimensions to which people are narrowed, and classes of reasons to which leavers are. */
export type Narrowing = {
  dimensions: Partial<Record<DimensionName, readonly Key[]>>;
  classes?: readonly ReasonClass[];
};

/** A further condition on where people are counted: what of an earlier moment may be seen with the rights of now. Ids. */
export type Seen = (place: Spot, from: number, until: number) => boolean;

/** Dimensions that chips are shown for, in the order of the bits of `misses`. */
export const narrowable: readonly DimensionName[] = [
  'division',
  'unit',
  'location',
  'country',
  'jobFamily',
  'job',
  'legalEntity',
  'workerType',
];

/** A stretch of days with one value in every dimension; the same object each time. Days are numbers, `until` exclusive. */
export type Stretch = {
  presence: number;
  person: number;
  from: number;
  until: number;
  /** First and last stretch of its presence. */
  isFirst: boolean;
  isLast: boolean;
  /** Code of the value in the dimension asked for. */
  code: number;
  /** Bits of the narrowed dimensions it fails; 0 passes all. */
  misses: number;
  /** Inside the viewer's part. */
  inside: boolean;
  segment: number;
};

const LEGAL_ENTITY = narrowable.indexOf('legalEntity');

type Filter = { bit: number; passes: Uint8Array; of: DimensionName };

/** What is walked: presences, or placements (for FTE). */
export type Walked = {
  size: number;
  from: Int32Array;
  until: Int32Array;
  position: Int32Array;
  entity: Int32Array;
  worker: Int32Array;
  person: Int32Array;
  employment: Int32Array;
};

/** What is told at each step of a walk over presences. */
export type Walk = {
  by: DimensionName;
  narrowing: Narrowing;
  /** What may be counted. */
  part: Parts;
  seen?: Seen | undefined;
  /** Only what touches these days. */
  from: number;
  until: number;
};

const filtersOf = (facts: Facts, { dimensions }: Narrowing): Filter[] =>
  narrowable.flatMap((of, i) => {
    const keys = dimensions[of];
    if (!keys || keys.length === 0) return [];
    const { size, codeOf } = coded(facts.columns, of);
    const passes = new Uint8Array(size);
    for (const key of keys) {
      const code = codeOf(key);
      if (code >= 0) passes[code] = 1;
    }
    return [{ bit: 1 << i, passes, of }];
  });

/** Bits of the filters that each segment of a position fails. */
const missesBySegment = (facts: Facts, filters: readonly Filter[]): Int32Array => {
  const misses = new Int32Array(facts.places.size);
  for (const { bit, passes, of } of filters) {
    if (!isOfPosition(of)) continue;
    const source = sourceOf(facts, of);
    for (let s = 0; s < misses.length; s++)
      if (passes[(source[s] as number) + 1] === 0) misses[s] = (misses[s] as number) | bit;
  }
  return misses;
};

// A part as a walk asks it: of who is walked, of segments of positions (flags), and by days.
type Counted = {
  passes: (at: number) => boolean;
  segments: Uint8Array | null;
  days: ((at: number) => (readonly Days[])[]) | null;
};

const countedIn = ({ places }: Facts, walked: Walked, part: Part): Counted => {
  const { holders, segments, days } = part;
  const { entity, worker, person, position } = walked;
  return {
    passes: (at) =>
      holders({
        entity: entity[at] as number,
        worker: worker[at] as number,
        person: person[at] as number,
      }),
    segments:
      segments && Uint8Array.from({ length: places.size }, (_, segment) => (segments(segment) ? 1 : 0)),
    days: days && ((at) => days({ position: position[at] as number, person: person[at] as number })),
  };
};

// The first day after `day` on which a stretch begins or ends.
const nextOf = (days: readonly (readonly Days[])[], day: number): number => {
  let next = Infinity;
  for (const own of days)
    for (const pair of own) for (const bound of pair) if (bound > day && bound < next) next = bound;
  return next;
};

/** Counts, by dimension and code, of stretches that pass all narrowings but at most that dimension's own. */
export class Chips {
  readonly counts: Float64Array[];
  private readonly sources: (Int32Array | null)[];

  constructor(
    facts: Facts,
    private readonly walked: Walked,
  ) {
    this.counts = narrowable.map((name) => new Float64Array(coded(facts.columns, name).size));
    this.sources = narrowable.map((name) => (isOfPosition(name) ? sourceOf(facts, name) : null));
  }

  add({ presence, segment, misses }: Stretch, weight: number): void {
    for (let i = 0; i < this.counts.length; i++) {
      if ((misses & ~(1 << i)) !== 0) continue;
      const counts = this.counts[i] as Float64Array;
      const code = this.codeAt(i, presence, segment);
      counts[code] = (counts[code] as number) + weight;
    }
  }

  private codeAt(i: number, at: number, segment: number): number {
    const source = this.sources[i] as Int32Array | null;
    if (source !== null) return segment < 0 ? 0 : (source[segment] as number) + 1;
    return ((i === LEGAL_ENTITY ? this.walked.entity[at] : this.walked.worker[at]) as number) + 1;
  }
}

/** Calls `visit` for every stretch of days that touches the window, presence by presence, in order of days. */
export const walk = (facts: Facts, walked: Walked, asked: Walk, visit: (stretch: Stretch) => void): void => {
  const { places } = facts;
  const filters = filtersOf(facts, asked.narrowing);
  const segmentMisses = missesBySegment(facts, filters);
  const ownFilters = filters.filter(({ of }) => !isOfPosition(of));
  const parts = asked.part === 'all' ? null : asked.part.map((part) => countedIn(facts, walked, part));
  const isByDays = parts?.some(({ days }) => days !== null) ?? false;
  const { by } = asked;
  const source = isOfPosition(by) ? sourceOf(facts, by) : null;
  const ownColumn = by === 'legalEntity' ? walked.entity : by === 'workerType' ? walked.worker : null;
  const none = filters
    .filter(({ of, passes }) => isOfPosition(of) && passes[0] === 0)
    .reduce((bits, { bit }) => bits | bit, 0);
  const positions = facts.columns.thingsOf('position').ids;
  const employments = facts.columns.thingsOf('employment').ids;
  const persons = facts.columns.thingsOf('person').ids;
  const { seen } = asked;
  const stretch: Stretch = {
    presence: 0,
    person: 0,
    from: 0,
    until: 0,
    isFirst: false,
    isLast: false,
    code: 0,
    misses: 0,
    inside: true,
    segment: -1,
  };
  // all that the loop reads stands in locals: this is the inner loop of every report
  const { size, from: froms, until: untils, position: positionOf, person } = walked;
  const { from: starts, until: ends, next, first } = places;
  const { from: windowFrom, until: windowUntil } = asked;
  for (let at = 0; at < size; at++) {
    const from = froms[at] as number;
    const until = untils[at] as number;
    if (until <= from || until < windowFrom || from > windowUntil) continue;
    let own = 0;
    for (let i = 0; i < ownFilters.length; i++) own |= missOf(ownFilters[i] as Filter, walked, at);
    const ownCode = ownColumn === null ? 0 : (ownColumn[at] as number) + 1;
    const position = positionOf[at] as number;
    stretch.presence = at;
    stretch.person = person[at] as number;
    let day = from;
    const mine = parts?.filter((part) => part.passes(at));
    const days = isByDays ? (mine ?? []).map((part) => part.days?.(at) ?? NO_DAYS) : NO_PARTS;
    let segment = position < 0 ? -1 : (first[position] as number);
    while (segment >= 0 && (ends[segment] as number) <= day) segment = next[segment] as number;
    while (day < until) {
      const isHere = segment >= 0 && (starts[segment] as number) <= day;
      const edge = segment < 0 ? until : ((isHere ? ends[segment] : starts[segment]) as number);
      const whole = edge < until ? edge : until;
      const end = isByDays ? Math.min(whole, nextOf(days.flat(), day)) : whole;
      const here = isHere ? segment : -1;
      stretch.from = day;
      stretch.until = end;
      stretch.isFirst = day === from;
      stretch.isLast = end === until;
      stretch.segment = here;
      stretch.misses = own | (here < 0 ? none : (segmentMisses[here] as number));
      stretch.inside =
        (mine === undefined ||
          mine.some(
            ({ segments }, i) =>
              (segments === null || (here >= 0 && segments[here] === 1)) &&
              (days[i] ?? NO_DAYS).every((own) => isOnDays(own, day)),
          )) &&
        (seen === undefined ||
          seen(
            {
              positionId: positions[position] ?? 0,
              employmentId: employments[walked.employment[at] as number] ?? null,
              personId: persons[person[at] as number] ?? null,
            },
            day,
            end,
          ));
      stretch.code = source === null ? ownCode : here < 0 ? 0 : (source[here] as number) + 1;
      visit(stretch);
      day = end;
      if (isHere && end === (ends[segment] as number)) segment = next[segment] as number;
    }
  }
};

const NO_DAYS: readonly (readonly Days[])[] = [];
const NO_PARTS: readonly (readonly (readonly Days[])[])[] = [];

const missOf = ({ bit, passes, of }: Filter, { entity, worker }: Walked, at: number): number =>
  passes[((of === 'legalEntity' ? entity[at] : worker[at]) as number) + 1] === 0 ? bit : 0;

/** Presences as what is walked. */
export const presencesWalked = ({ presences }: Facts): Walked => presences;

/** Placements of all kinds as what is walked: FTE is where each placement is. */
export const placementsWalked = ({ columns }: Facts): Walked => {
  const table = columns.table('placement');
  const employments = table.column('employmentId');
  const employment = columns.table('employment');
  const ofEmployment = (field: string): Int32Array => {
    const values = employment.column(field);
    const own = new Int32Array(columns.thingsOf('employment').ids.length).fill(-1);
    for (let slot = 0; slot < employment.size; slot++)
      if (employment.isAlive(slot)) own[employment.thing[slot] as number] = values[slot] as number;
    return own;
  };
  const ofPlacement = (own: Int32Array): Int32Array => {
    const all = new Int32Array(table.size);
    for (let slot = 0; slot < all.length; slot++) all[slot] = own[employments[slot] as number] as number;
    return all;
  };
  return {
    size: table.size,
    from: table.from,
    until: table.until,
    position: table.column('positionId'),
    entity: ofPlacement(ofEmployment('legalEntityId')),
    worker: ofPlacement(ofEmployment('workerTypeId')),
    person: ofPlacement(ofEmployment('personId')),
    employment: employments,
  };
};
