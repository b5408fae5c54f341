// Figures of every unit on a day by the definitions, over rows: the oracle of the roll-up over columns.
import type { Bound, Values } from '@gremium/contract';
import type { Register } from '../src/time/register';
import { isOn } from '../src/time/calendar';
import { countedEmployment, mainEmployment, primaryPlacement, spellsOf } from '../src/people/employments';
import { daysOf, yearly } from '../src/people/yearly';
import { type Fraction, ZERO, fraction, plus, times } from '../src/structure/fraction';
import { managerAbove, managerPosition } from '../src/structure/manager';
import type { Mark } from '../src/structure/mark';
import { contractedShare, positionState, shareAtWork } from '../src/structure/occupancy';
import { leavesFirst, unitTree } from '../src/structure/tree';

export type Figures = {
  people: number;
  notCounted: number;
  fte: Fraction;
  fteNotCounted: Fraction;
  fteAtWork: Fraction;
  marks: Record<Mark, number>;
  freePlaces: number;
  freeFte: Fraction;
  hireFte: Fraction;
  /** Managers and their unbridged direct reports: the mean span is reports ÷ managers. */
  managers: number;
  reports: number;
  /** Longest chain of positions, a top being 1. */
  depth: number;
  /** Yearly pay by currency. */
  cost: Map<string, Fraction>;
};

const noFigures = (): Figures => ({
  people: 0,
  notCounted: 0,
  fte: ZERO,
  fteNotCounted: ZERO,
  fteAtWork: ZERO,
  marks: { vacant: 0, part_filled: 0, filled: 0, over_held: 0, planned: 0, on_hold: 0, closed: 0 },
  freePlaces: 0,
  freeFte: ZERO,
  hireFte: ZERO,
  managers: 0,
  reports: 0,
  depth: 0,
  cost: new Map(),
});

const addTo = (sum: Figures, part: Figures): void => {
  for (const key of ['people', 'notCounted', 'freePlaces', 'managers', 'reports'] as const)
    sum[key] += part[key];
  for (const key of ['fte', 'fteNotCounted', 'fteAtWork', 'freeFte', 'hireFte'] as const)
    sum[key] = plus(sum[key], part[key]);
  for (const mark of Object.keys(sum.marks) as Mark[]) sum.marks[mark] += part.marks[mark];
  for (const [currency, amount] of part.cost) addCost(sum, currency, amount);
  sum.depth = Math.max(sum.depth, part.depth);
};

const addCost = ({ cost }: Figures, currency: string, amount: Fraction): void => {
  cost.set(currency, plus(cost.get(currency) ?? ZERO, amount));
};

export type RollUp = Map<number, { own: Figures; branch: Figures }>;

/** Figures of every unit on a day, its own and those of the whole branch, in one pass (docs/model.md, "Structure"). */
export const rollUp = (register: Register, on: Bound): RollUp => {
  const tree = unitTree(register, on);
  const units: RollUp = new Map(
    [...tree.values.keys()].map((id) => [id, { own: noFigures(), branch: noFigures() }]),
  );
  const unitOf = (positionId: number) => {
    const unitId = register.at('position', positionId, on)?.unitId;
    return unitId === undefined ? undefined : units.get(unitId)?.own;
  };
  countPositions(register, on, unitOf);
  countPlacements(register, on, unitOf);
  countPeople(register, on, unitOf);
  for (const id of leavesFirst(tree)) {
    const { own, branch } = units.get(id) as { own: Figures; branch: Figures };
    addTo(branch, own);
    const parent = tree.values.get(id)?.parentId;
    if (parent) addTo(units.get(parent)?.branch ?? noFigures(), branch);
  }
  return units;
};

type UnitOf = (positionId: number) => Figures | undefined;

const countPositions = (register: Register, on: Bound, unitOf: UnitOf): void => {
  const depths = new Map<number, number>();
  for (const { thing, values } of register.allOn('position', on)) {
    const unit = unitOf(thing);
    if (!unit) continue;
    const state = positionState(register, thing, on);
    unit.marks[values.standing === 'in_force' ? state.occupancy : values.standing] += 1;
    if (values.standing === 'closed') continue;
    unit.depth = Math.max(unit.depth, depthOf(register, thing, on, depths));
    if (values.standing !== 'in_force') continue;
    unit.freePlaces += state.freePlaces ?? 0;
    unit.freeFte = plus(unit.freeFte, state.freeFte ?? ZERO);
    if (state.freePlaces === null || state.freePlaces > 0)
      unit.hireFte = plus(unit.hireFte, state.freeFte ?? ZERO);
  }
};

const depthOf = (register: Register, positionId: number, on: Bound, known: Map<number, number>): number => {
  const path: number[] = [];
  let at: number | null = positionId;
  while (at !== null && !known.has(at) && !path.includes(at)) {
    path.push(at);
    at = managerPosition(register, at, on);
  }
  let depth = at === null ? 0 : (known.get(at) ?? 0);
  for (const id of path.reverse()) known.set(id, ++depth);
  return known.get(positionId) as number;
};

const countPlacements = (register: Register, on: Bound, unitOf: UnitOf): void => {
  for (const { values } of register.allOn('placement', on)) {
    const unit = unitOf(values.positionId);
    if (!unit) continue;
    if (isCounted(register, values)) {
      unit.fte = plus(unit.fte, contractedShare(values));
      unit.fteAtWork = plus(unit.fteAtWork, shareAtWork(values));
    } else unit.fteNotCounted = plus(unit.fteNotCounted, contractedShare(values));
    addPay(register, values, on, unit);
  }
};

/** Whether a placement is of an employment of a worker type that counts. */
export const isCounted = (register: Register, { employmentId }: Values<'placement'>): boolean => {
  const type = register.rows('employment', employmentId)[0]?.values.workerTypeId ?? 0;
  return register.rows('list_entry', type)[0]?.values.flags.counted !== false;
};

// Base pay and allowances of the employment fall on each placement by its share of the hours contracted in all.
const addPay = (register: Register, placement: Values<'placement'>, on: Bound, unit: Figures): void => {
  const rows = register
    .referrers('pay', 'employmentId', placement.employmentId)
    .filter((row) => isOn(row, on));
  const all = register
    .referrers('placement', 'employmentId', placement.employmentId)
    .filter((row) => isOn(row, on))
    .reduce((hours, { values }) => hours + values.hours - values.lentHours, 0);
  const part = placement.hours - placement.lentHours;
  for (const { values } of rows) {
    const amount = yearly(values, { fullTime: placement.fullTime, days: daysOf(register, values, on) });
    const due =
      values.rate === 'full_time'
        ? times(amount, contractedShare(placement))
        : times(amount, fraction(part, all || 1));
    addCost(unit, values.currency, due);
  }
};

// By the employment that counts, else by the main one.
const countedAt = (register: Register, personId: number, on: Bound) => {
  const spells = spellsOf(register, personId);
  const counted = countedEmployment(register, spells, on);
  const main = counted ?? mainEmployment(spells, on);
  return { counted, placement: main && primaryPlacement(register, main.id, on) };
};

const countPeople = (register: Register, on: Bound, unitOf: UnitOf): void => {
  const reports = new Map<number, number>();
  for (const personId of register.things('person')) {
    const { counted, placement } = countedAt(register, personId, on);
    const unit = placement && unitOf(placement.values.positionId);
    if (!placement || !unit) continue;
    if (counted) unit.people += 1;
    else unit.notCounted += 1;
    const manager = managerAbove(register, placement.values.positionId, on, personId);
    if (manager && !manager.bridged) reports.set(manager.personId, (reports.get(manager.personId) ?? 0) + 1);
  }
  for (const [personId, n] of reports) {
    const { placement } = countedAt(register, personId, on);
    const unit = placement && unitOf(placement.values.positionId);
    if (!unit) continue;
    unit.managers += 1;
    unit.reports += n;
  }
};
