// Figures of every unit on a day, own and of the whole branch, from the columns (docs/model.md, "Structure"). The same
// definitions as core/test/roll-up-by-rows.ts, which the tests compare it with.
import type { Day } from '@gremium/contract';
import type { Placed } from '../access/part';
import type { Facts } from '../measures/facts';
import { dayNumber } from '../time/calendar';
import { ExactSums, MoneySums } from './exact-sums';
import { type Mark, marksInOrder } from './mark';
import { countPay } from './roll-up/count-pay';
import { countPeople } from './roll-up/count-people';
import { countPlacements, countPositions } from './roll-up/count-positions';
import { COUNTS, type Counts, noCounts } from './roll-up/counts';
import { leadersOn, managersOn } from './roll-up/leading';
import { type Holdings, holdingsOn, positionsOn, unitsOn } from './roll-up/that-day';

/** Figures of a unit: FTE in hundredths, rounded for showing; cost as whole yearly amounts by currency. */
export type UnitFigures = {
  people: number;
  notCounted: number;
  /** Of those who count in headcount. */
  fte: number;
  /** Of the others. */
  fteNotCounted: number;
  fteAtWork: number;
  marks: Record<Mark, number>;
  freePlaces: number;
  freeFte: number;
  /** What of it somebody can be hired into. */
  hireFte: number;
  /** Managers and their unbridged direct reports: the mean span is reports ÷ managers. */
  managers: number;
  reports: number;
  /** Longest chain of positions, a top being 1. */
  depth: number;
  cost: Record<string, number>;
};

/** Figures of each unit, its own and of its branch, on a day. */
export type DayRollUp = {
  /** Ids of the units of the day, parents before children. */
  units: number[];
  figures: (at: number) => { own: UnitFigures; branch: UnitFigures };
  /** The place of each unit's parent among them; -1 at the top. */
  parents: Int32Array;
  /** Who leads a position that day without bridging, if anybody. */
  leader: (positionId: number) => { personId: number; isActing: boolean } | null;
};
/** What is counted where not everything may be: people and their pay by the places they have, positions by themselves. */
export type Countable = {
  people: (place: Placed) => boolean;
  pay: (place: Placed) => boolean;
  positions: (position: number) => boolean;
};

const EVERYTHING: Countable = { people: () => true, pay: () => true, positions: () => true };

/** Rolls up a day; `withPay` as reading pay takes as long as all the rest. `only`: what may be counted; left out, everything. */
export const dayRollUp = (
  facts: Facts,
  on: Day,
  { withPay, only = EVERYTHING }: { withPay: boolean; only?: Countable | undefined },
): DayRollUp => {
  const day = dayNumber(on);
  const units = unitsOn(facts, day);
  const positions = positionsOn(facts, day, units.index);
  const holdings = holdingsOn(facts, day);
  const counts = noCounts(units.ids.length);
  const fte = new ExactSums(units.ids.length);
  const atWork = new ExactSums(units.ids.length);
  const notCounted = new ExactSums(units.ids.length);
  const free = new ExactSums(units.ids.length);
  const hire = new ExactSums(units.ids.length);
  const cost = new MoneySums(units.ids.length);
  const managers = managersOn(facts, units, positions);
  const unit = positions.unit.map((at, position) => (at >= 0 && only.positions(position) ? at : -1));
  countPositions(facts, on, {
    ...{ positions: { ...positions, unit }, holdings, counts, free, hire },
    depths: managers.depths(),
  });
  const counted = within(facts, holdings, only.people);
  countPlacements(facts, counted, positions, { fte, atWork, notCounted });
  if (withPay) countPay(facts, day, { holdings: within(facts, counted, only.pay), positions, cost });
  const leaders = leadersOn(facts, on, holdings);
  const leading = { managerOf: managers.of, leaderOf: leaders };
  countPeople(facts, day, { positions, holdings: counted, counts, ...leading, may: only.people });
  const rolled = {
    counts: rolledCounts(counts, units.parents),
    fte: fte.rolledUp(units.parents),
    atWork: atWork.rolledUp(units.parents),
    notCounted: notCounted.rolledUp(units.parents),
    free: free.rolledUp(units.parents),
    hire: hire.rolledUp(units.parents),
    cost: cost.rolledUp(units.parents),
  };
  const persons = facts.columns.thingsOf('person').ids;
  return {
    units: units.ids,
    figures: (at) => ({
      own: figuresAt({ counts, fte, atWork, notCounted, free, hire, cost }, at),
      branch: figuresAt(rolled, at),
    }),
    parents: units.parents,
    leader: (positionId) => {
      const found = leaders(facts.columns.thingsOf('position').find(positionId), -1);
      return found && { personId: persons[found.person] as number, isActing: found.isActing };
    },
  };
};

// The holdings of a day, only those that may be counted.
const within = ({ columns }: Facts, holdings: Holdings, may: Countable['people']): Holdings => {
  const table = columns.table('employment');
  const persons = table.column('personId');
  const { cells } = holdings;
  return {
    ...holdings,
    slots: holdings.slots.filter((slot) => {
      const employment = cells.employmentId[slot] as number;
      const person = persons[table.byThing.first(employment)] as number;
      return may({ position: cells.positionId[slot] as number, employment, person });
    }),
  };
};

type Sums = {
  counts: Counts;
  fte: ExactSums;
  atWork: ExactSums;
  notCounted: ExactSums;
  free: ExactSums;
  hire: ExactSums;
  cost: MoneySums;
};

const figuresAt = ({ counts, fte, atWork, notCounted, free, hire, cost }: Sums, at: number): UnitFigures => ({
  people: counts.people[at] as number,
  notCounted: counts.notCounted[at] as number,
  fte: fte.hundredths(at),
  fteNotCounted: notCounted.hundredths(at),
  fteAtWork: atWork.hundredths(at),
  marks: marksAt(counts.marks, at),
  freePlaces: counts.freePlaces[at] as number,
  freeFte: free.hundredths(at),
  hireFte: hire.hundredths(at),
  managers: counts.managers[at] as number,
  reports: counts.reports[at] as number,
  depth: counts.depth[at] as number,
  cost: cost.of(at),
});

const marksAt = (marks: readonly Int32Array[], at: number): Record<Mark, number> => {
  const found = { ...NO_MARKS };
  for (let i = 0; i < marksInOrder.length; i++) found[marksInOrder[i] as Mark] = marks[i]?.[at] as number;
  return found;
};

const NO_MARKS = Object.fromEntries(marksInOrder.map((mark) => [mark, 0])) as Record<Mark, number>;

const rolledCounts = (counts: Counts, parents: Int32Array): Counts => {
  const sum = (own: Int32Array) => {
    const all = Int32Array.from(own);
    for (let at = all.length - 1; at >= 0; at--) {
      const up = parents[at] as number;
      if (up >= 0) all[up] = (all[up] as number) + (all[at] as number);
    }
    return all;
  };
  const depth = Int32Array.from(counts.depth);
  for (let at = depth.length - 1; at >= 0; at--) {
    const up = parents[at] as number;
    if (up >= 0) depth[up] = Math.max(depth[up] as number, depth[at] as number);
  }
  const rolled = Object.fromEntries(COUNTS.map((name) => [name, sum(counts[name])]));
  return { ...(rolled as Record<(typeof COUNTS)[number], Int32Array>), depth, marks: counts.marks.map(sum) };
};
