// Positions by occupancy, what is free of them, how deep they stand; and the FTE of who holds them.
import type { Day } from '@gremium/contract';
import type { Facts } from '../../measures/facts';
import { dayNumber } from '../../time/calendar';
import { NONE } from '../../time/table';
import type { ExactSums } from '../exact-sums';
import { type Mark, marksInOrder } from '../mark';
import { positionState } from '../occupancy';
import type { Counts } from './counts';
import type { Holdings, Positions } from './that-day';

type Counting = {
  positions: Positions;
  holdings: Holdings;
  counts: Counts;
  free: ExactSums;
  /** What of it somebody can be hired into. */
  hire: ExactSums;
  depths: (position: number) => number;
};

/** Counts positions of a day by unit and occupancy, and what is free. */
export const countPositions = (
  facts: Facts,
  on: Day,
  { positions, holdings, counts, free, hire, depths }: Counting,
): void => {
  const { unit, standing, codes, texts } = positions;
  const markOf = new Map(texts.map((text, code) => [code, marksInOrder.indexOf(text as Mark)]));
  const occupancy = occupancyOn(facts, on, holdings);
  for (let position = 0; position < unit.length; position++) {
    const [at, code] = [unit[position] as number, standing[position] as number];
    if (at < 0 || code < 0) continue;
    const state = code === codes.inForce ? occupancy(position) : null;
    const marks = counts.marks[state ? state.mark : (markOf.get(code) as number)] as Int32Array;
    marks[at] = (marks[at] as number) + 1;
    if (code === codes.closed) continue;
    counts.depth[at] = Math.max(counts.depth[at] as number, depths(position));
    if (!state) continue;
    counts.freePlaces[at] = (counts.freePlaces[at] as number) + state.freePlaces;
    if (state.free.num === 0) continue;
    free.add(at, state.free.num, state.free.den);
    if (state.hasRoom) hire.add(at, state.free.num, state.free.den);
  }
};

// `hasRoom`: somebody can be hired into what is free.
type State = { mark: number; freePlaces: number; free: { num: number; den: number }; hasRoom: boolean };

// Occupancy of a position in force. Several holders at a handover, or with many full-time weeks, are left to the general rule.
const occupancyOn = (
  facts: Facts,
  on: Day,
  { first, next, cells, kinds }: Holdings,
): ((position: number) => State) => {
  const { columns } = facts;
  const day = dayNumber(on);
  const limits = columns.table('position_limits');
  const { until } = columns.table('placement');
  const [placesOf, fteOf, handoverOf] = [
    limits.column('places'),
    limits.column('fte'),
    limits.column('handoverDays'),
  ];
  const { ids } = columns.thingsOf('position');
  return (position) => {
    const slot = limits.slotOn(position, day);
    const [places, fte] = slot < 0 ? [NONE, NONE] : [placesOf[slot] as number, fteOf[slot] as number];
    // only who leaves within the days of handover may count against no limit
    const leavesBy = slot < 0 || handoverOf[slot] === 0 ? -Infinity : day + (handoverOf[slot] as number) + 1;
    let isHandover = false;
    let [taken, num, den, holders] = [0, 0, 1, 0];
    for (let holder = (first[position] as number) - 1; holder >= 0; holder = (next[holder] as number) - 1) {
      const kind = cells.kind[holder] as number;
      holders += 1;
      isHandover ||= (until[holder] as number) <= leavesBy;
      if (kind === kinds.acting || kind === kinds.cover) continue;
      const [hours, week] = [cells.hours[holder] as number, cells.fullTime[holder] as number];
      const suspended = (cells.lentHours[holder] as number) + (cells.awayHours[holder] as number);
      const isBackfilled = cells.backfilled[holder] === 1;
      if (!(isBackfilled && suspended >= hours)) taken += 1;
      const held = isBackfilled ? hours - suspended : hours;
      if (num === 0) [num, den] = [held, week];
      else if (den === week) num += held;
      else [num, den] = [num * week + held * den, den * week];
    }
    if ((holders > 1 && isHandover) || den > 1e10) return general(facts, ids[position] as number, on);
    const free = fte === NONE ? NOTHING : { num: Math.max(0, fte * den - num * 100), den: 100 * den };
    const noFte = fte !== NONE && free.num === 0;
    const freePlaces = places === NONE || noFte ? 0 : Math.max(0, places - taken);
    const hasRoom = places === NONE || freePlaces > 0;
    const isOver = (places !== NONE && taken > places) || (fte !== NONE && num * 100 > fte * den);
    if (isOver) return { mark: MARK.over_held, freePlaces, free, hasRoom };
    if (taken === 0) return { mark: MARK.vacant, freePlaces, free, hasRoom };
    const isFull = (places === NONE && fte === NONE) || (places !== NONE && freePlaces === 0) || noFte;
    return { mark: isFull ? MARK.filled : MARK.part_filled, freePlaces, free, hasRoom };
  };
};

const MARK = Object.fromEntries(marksInOrder.map((mark, i) => [mark, i])) as Record<Mark, number>;
const NOTHING = { num: 0, den: 1 };

const general = ({ columns }: Facts, id: number, on: Day): State => {
  const { occupancy, freePlaces, freeFte } = positionState(columns, id, on);
  const free = freeFte === null ? { num: 0, den: 1 } : { num: Number(freeFte.num), den: Number(freeFte.den) };
  return { mark: MARK[occupancy], freePlaces: freePlaces ?? 0, free, hasRoom: freePlaces !== 0 };
};

/** FTE of those who count, contracted and at work, and contracted of the others. */
export type FteSums = { fte: ExactSums; atWork: ExactSums; notCounted: ExactSums };

/** Adds up what is held of each position on a day. */
export const countPlacements = (
  { presences }: Facts,
  { slots, cells }: Holdings,
  { unit }: Positions,
  { fte, atWork, notCounted }: FteSums,
): void => {
  for (const slot of slots) {
    const at = unit[cells.positionId[slot] as number] as number;
    if (at < 0) continue;
    const [contracted, week] = [
      (cells.hours[slot] as number) - (cells.lentHours[slot] as number),
      cells.fullTime[slot] as number,
    ];
    if (!presences.countsEmployment(cells.employmentId[slot] as number)) {
      notCounted.add(at, contracted, week);
      continue;
    }
    fte.add(at, contracted, week);
    atWork.add(at, contracted - (cells.awayHours[slot] as number), week);
  }
};
