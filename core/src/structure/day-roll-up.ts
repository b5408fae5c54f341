// Figures of every unit on a day, own and of the whole branch, from the columns (docs/model.md, "Structure"). The same
// definitions as core/test/roll-up-by-rows.ts, which the tests compare it with.
import type { Day } from '@gremium/contract';
import type { Facts } from '../measures/facts';
import { mainEmployment, spellsOf } from '../people/employments';
import { boundOf, dayNumber } from '../time/calendar';
import { type Chain, NONE, type Table, type Words } from '../time/table';
import { ExactSums, MoneySums } from './exact-sums';
import { leaderOf } from './manager';
import { type Mark, marksInOrder } from './mark';
import { positionState } from './occupancy';
import { entryFlags } from './places';

/** Figures of a unit: FTE in hundredths, rounded for showing; cost as whole yearly amounts by currency. */
export type UnitFigures = {
  people: number;
  notCounted: number;
  fte: number;
  fteAtWork: number;
  marks: Record<Mark, number>;
  freePlaces: number;
  freeFte: number;
  /** Managers and their unbridged direct reports: the mean span is reports ÷ managers. */
  managers: number;
  reports: number;
  /** Longest chain of positions, a top being 1. */
  depth: number;
  cost: Record<string, number>;
};

export type DayRollUp = {
  /** Ids of the units of the day, parents before children. */
  units: number[];
  figures: (at: number) => { own: UnitFigures; branch: UnitFigures };
  /** The place of each unit's parent among them; -1 at the top. */
  parents: Int32Array;
  /** Who leads a position that day without bridging, if anybody. */
  leader: (positionId: number) => { personId: number; isActing: boolean } | null;
};

const COUNTS = ['people', 'notCounted', 'freePlaces', 'managers', 'reports'] as const;
type Counts = Record<(typeof COUNTS)[number], Int32Array> & { depth: Int32Array; marks: Int32Array[] };

const noCounts = (n: number): Counts => ({
  people: new Int32Array(n),
  notCounted: new Int32Array(n),
  freePlaces: new Int32Array(n),
  managers: new Int32Array(n),
  reports: new Int32Array(n),
  depth: new Int32Array(n),
  marks: marksInOrder.map(() => new Int32Array(n)),
});

const isThen = (table: Table, slot: number, day: number): boolean =>
  (table.from[slot] as number) <= day && day < (table.until[slot] as number);

/** Rolls up a day; `withPay` as reading pay takes as long as all the rest. */
export const dayRollUp = (facts: Facts, on: Day, { withPay }: { withPay: boolean }): DayRollUp => {
  const day = dayNumber(on);
  const units = unitsOn(facts, day);
  const positions = positionsOn(facts, day, units.index);
  const holdings = holdingsOn(facts, day);
  const counts = noCounts(units.ids.length);
  const fte = new ExactSums(units.ids.length);
  const atWork = new ExactSums(units.ids.length);
  const free = new ExactSums(units.ids.length);
  const cost = new MoneySums(units.ids.length);
  const managers = managersOn(facts, units, positions);
  countPositions(facts, on, { positions, holdings, counts, free, depths: managers.depths() });
  countPlacements(holdings, positions, fte, atWork);
  if (withPay) countPay(facts, day, { holdings, positions, cost });
  const leaders = leadersOn(facts, on, holdings);
  countPeople(facts, day, { positions, holdings, counts, managerOf: managers.of, leaderOf: leaders });
  const rolled = {
    counts: rolledCounts(counts, units.parents),
    fte: fte.rolledUp(units.parents),
    atWork: atWork.rolledUp(units.parents),
    free: free.rolledUp(units.parents),
    cost: cost.rolledUp(units.parents),
  };
  const persons = facts.columns.thingsOf('person').ids;
  return {
    units: units.ids,
    figures: (at) => ({
      own: figuresAt({ counts, fte, atWork, free, cost }, at),
      branch: figuresAt(rolled, at),
    }),
    parents: units.parents,
    leader: (positionId) => {
      const found = leaders(facts.columns.thingsOf('position').find(positionId), -1);
      return found && { personId: persons[found.person] as number, isActing: found.isActing };
    },
  };
};

type Sums = { counts: Counts; fte: ExactSums; atWork: ExactSums; free: ExactSums; cost: MoneySums };

const figuresAt = ({ counts, fte, atWork, free, cost }: Sums, at: number): UnitFigures => ({
  people: counts.people[at] as number,
  notCounted: counts.notCounted[at] as number,
  fte: fte.hundredths(at),
  fteAtWork: atWork.hundredths(at),
  marks: marksAt(counts.marks, at),
  freePlaces: counts.freePlaces[at] as number,
  freeFte: free.hundredths(at),
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

type Units = { ids: number[]; index: Int32Array; parents: Int32Array; heads: Int32Array };

// Units of the day, in the order of their segments: a parent always stands before its children.
const unitsOn = ({ columns, places }: Facts, day: number): Units => {
  const { from, until, unit, parent } = places.units;
  const table = columns.table('unit');
  const heads = table.column('headPositionId');
  const all = columns.thingsOf('unit').ids;
  const index = new Int32Array(all.length).fill(-1);
  const found: { ids: number[]; parents: number[]; heads: number[] } = { ids: [], parents: [], heads: [] };
  for (let s = 0; s < unit.length; s++) {
    if ((from[s] as number) > day || day >= (until[s] as number)) continue;
    const own = unit[s] as number;
    const up = parent[s] as number;
    index[own] = found.ids.length;
    found.ids.push(all[own] as number);
    found.parents.push(up < 0 ? -1 : (index[unit[up] as number] as number));
    const head = heads[table.slotOn(own, day)] as number;
    found.heads.push(head === NONE ? -1 : head);
  }
  return {
    ids: found.ids,
    index,
    parents: Int32Array.from(found.parents),
    heads: Int32Array.from(found.heads),
  };
};

type Positions = {
  /** Place of each position's unit, its standing (a code) and whom it names as above it; -1 where it does not exist. */
  unit: Int32Array;
  standing: Int32Array;
  above: Int32Array;
  codes: { inForce: number; onHold: number; closed: number };
  texts: string[];
};

const positionsOn = ({ columns }: Facts, day: number, units: Int32Array): Positions => {
  const table = columns.table('position');
  const n = columns.thingsOf('position').ids.length;
  const [unitIds, above] = [table.column('unitId'), table.column('reportsToId')];
  const { data: standings, words } = table.field('standing');
  const found: Positions = {
    unit: new Int32Array(n).fill(-1),
    standing: new Int32Array(n).fill(-1),
    above: new Int32Array(n).fill(-1),
    codes: { inForce: words.find('in_force'), onHold: words.find('on_hold'), closed: words.find('closed') },
    texts: words.texts,
  };
  for (let slot = 0; slot < table.size; slot++) {
    if (!isThen(table, slot, day)) continue;
    const position = table.thing[slot] as number;
    found.unit[position] = units[unitIds[slot] as number] as number;
    found.standing[position] = standings[slot] as number;
    found.above[position] = above[slot] as number;
  }
  return found;
};

type Holdings = {
  /** Slots of the day's placements, and by position: the first of them and the next (1 is slot 0). */
  slots: number[];
  first: Int32Array;
  next: Int32Array;
  /** Hours contracted in all, by employment. */
  hours: Float64Array;
  cells: Record<Cell, Int32Array>;
  kinds: { acting: number; cover: number; primary: number };
};
type Cell =
  'positionId' | 'employmentId' | 'kind' | 'hours' | 'lentHours' | 'awayHours' | 'fullTime' | 'backfilled';

const holdingsOn = ({ columns }: Facts, day: number): Holdings => {
  const table = columns.table('placement');
  const { data: positions } = table.field('positionId');
  const [employments, hours, lent] = [
    table.column('employmentId'),
    table.column('hours'),
    table.column('lentHours'),
  ];
  const { words } = table.field('kind');
  const found: Holdings = {
    slots: [],
    first: new Int32Array(columns.thingsOf('position').ids.length),
    next: new Int32Array(table.size),
    hours: new Float64Array(columns.thingsOf('employment').ids.length),
    cells: {
      positionId: positions,
      employmentId: employments,
      kind: table.column('kind'),
      hours,
      lentHours: lent,
      awayHours: table.column('awayHours'),
      fullTime: table.column('fullTime'),
      backfilled: table.column('backfilled'),
    },
    kinds: { acting: words.find('acting'), cover: words.find('cover'), primary: words.find('primary') },
  };
  for (let slot = 0; slot < table.size; slot++) {
    if (!isThen(table, slot, day)) continue;
    const [position, employment] = [positions[slot] as number, employments[slot] as number];
    found.slots.push(slot);
    found.next[slot] = found.first[position] as number;
    found.first[position] = slot + 1;
    found.hours[employment] =
      (found.hours[employment] as number) + (hours[slot] as number) - (lent[slot] as number);
  }
  return found;
};

const managersOn = ({ columns }: Facts, { heads, parents }: Units, positions: Positions) => {
  const { unit, standing, above, codes } = positions;
  const known = new Int32Array(unit.length).fill(-2);
  const isStanding = (position: number): boolean =>
    standing[position] === codes.inForce || standing[position] === codes.onHold;
  const found = (position: number): number => {
    const own = above[position] as number;
    if (own >= 0 && own !== position && isStanding(own)) return own;
    for (let at = unit[position] as number; at >= 0; at = parents[at] as number) {
      const head = heads[at] as number;
      if (head >= 0 && head !== position && isStanding(head)) return head;
    }
    return -1;
  };
  const of = (position: number): number => {
    if (known[position] === -2) known[position] = standing[position] === -1 ? -1 : found(position);
    return known[position] as number;
  };
  // steps from the top by position; a ring, refused by law, ends where it began
  const depths = (): ((position: number) => number) => {
    const depth = new Int32Array(columns.thingsOf('position').ids.length);
    return (position) => {
      const path: number[] = [];
      let at = position;
      while (at >= 0 && depth[at] === 0 && !path.includes(at)) {
        path.push(at);
        at = of(at);
      }
      let steps = at < 0 ? 0 : (depth[at] as number);
      for (const passed of path.reverse()) depth[passed] = ++steps;
      return depth[position] as number;
    };
  };
  return { of, depths };
};

type Counting = {
  positions: Positions;
  holdings: Holdings;
  counts: Counts;
  free: ExactSums;
  depths: (position: number) => number;
};

const countPositions = (
  facts: Facts,
  on: Day,
  { positions, holdings, counts, free, depths }: Counting,
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
    if (state.free.num > 0) free.add(at, state.free.num, state.free.den);
  }
};

type State = { mark: number; freePlaces: number; free: { num: number; den: number } };

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
    const isOver = (places !== NONE && taken > places) || (fte !== NONE && num * 100 > fte * den);
    if (isOver) return { mark: MARK.over_held, freePlaces, free };
    if (taken === 0) return { mark: MARK.vacant, freePlaces, free };
    const isFull = (places === NONE && fte === NONE) || (places !== NONE && freePlaces === 0) || noFte;
    return { mark: isFull ? MARK.filled : MARK.part_filled, freePlaces, free };
  };
};

const MARK = Object.fromEntries(marksInOrder.map((mark, i) => [mark, i])) as Record<Mark, number>;
const NOTHING = { num: 0, den: 1 };

const general = ({ columns }: Facts, id: number, on: Day): State => {
  const { occupancy, freePlaces, freeFte } = positionState(columns, id, on);
  const free = freeFte === null ? { num: 0, den: 1 } : { num: Number(freeFte.num), den: Number(freeFte.den) };
  return { mark: MARK[occupancy], freePlaces: freePlaces ?? 0, free };
};

const countPlacements = (
  { slots, cells }: Holdings,
  { unit }: Positions,
  fte: ExactSums,
  atWork: ExactSums,
): void => {
  for (const slot of slots) {
    const at = unit[cells.positionId[slot] as number] as number;
    if (at < 0) continue;
    const [contracted, week] = [
      (cells.hours[slot] as number) - (cells.lentHours[slot] as number),
      cells.fullTime[slot] as number,
    ];
    fte.add(at, contracted, week);
    atWork.add(at, contracted - (cells.awayHours[slot] as number), week);
  }
};

type Paying = { holdings: Holdings; positions: Positions; cost: MoneySums };

// Base pay and allowances of the employment fall on each placement by its share of the hours contracted in all.
const countPay = (
  { columns }: Facts,
  day: number,
  { holdings: { slots, cells, hours }, positions: { unit }, cost }: Paying,
): void => {
  const pay = columns.table('pay');
  const employments = pay.column('employmentId');
  const { data: amounts, words } = pay.field('amount');
  const texts = (name: 'currency' | 'basis' | 'rate') => {
    const { data, words } = pay.field(name);
    return (slot: number) => words.texts[data[slot] as number] as string;
  };
  const [currency, basis, rate] = [texts('currency'), texts('basis'), texts('rate')];
  const exactly = amountsOf(words);
  // the day's placements by employment: the first of them and the next (1 is slot 0)
  const first = new Int32Array(hours.length);
  const next = new Int32Array(columns.table('placement').size);
  for (const slot of slots) {
    const employment = cells.employmentId[slot] as number;
    next[slot] = first[employment] as number;
    first[employment] = slot + 1;
  }
  for (let row = 0; row < pay.size; row++) {
    if (!isThen(pay, row, day)) continue;
    const employment = employments[row] as number;
    const per = basis(row);
    for (let slot = (first[employment] as number) - 1; slot >= 0; slot = (next[slot] as number) - 1) {
      const at = unit[cells.positionId[slot] as number] as number;
      if (at < 0) continue;
      const part = (cells.hours[slot] as number) - (cells.lentHours[slot] as number);
      const week = cells.fullTime[slot] as number;
      const factor = per === 'hour' ? 52 * week : per === 'month' ? 12 : per === 'day' ? 260 : 1;
      const whole = rate(row) === 'full_time' ? week : hours[employment] || 1;
      const [share, of] = part === whole ? [1, 1] : [part, whole];
      const amount = exactly[amounts[row] as number] as number;
      const num = amount * factor * share;
      const exact = Number.isSafeInteger(num)
        ? num
        : BigInt(tenThousandths(words.texts[amounts[row] as number] as string)) * BigInt(factor * share);
      cost.add(at, currency(row), exact, 10_000 * (per === 'hour' ? 100 : 1) * of);
    }
  }
};

// Decimal text, at most four places, as the digits of a whole number of ten-thousandths.
const tenThousandths = (text: string): string => {
  const [whole = '0', part = ''] = text.split('.');
  return whole + part.padEnd(4, '0');
};

// All amounts there are, in ten-thousandths: read from their texts once, as texts are only ever added.
const known = new WeakMap<Words, number[]>();
const amountsOf = (words: Words): readonly number[] => {
  const found = known.get(words) ?? [];
  known.set(words, found);
  for (let i = found.length; i < words.texts.length; i++)
    found.push(Number(tenThousandths(words.texts[i] as string)));
  return found;
};

type Leader = { person: number; isActing: boolean };

// Who leads a position, but not this person. Where two might, the general rule decides.
const leadersOn = (facts: Facts, on: Day, { first, next, cells, kinds }: Holdings) => {
  const { columns } = facts;
  const employments = columns.table('employment');
  const persons = employments.column('personId');
  const personOf = (slot: number): number =>
    persons[employments.byThing.first(cells.employmentId[slot] as number)] as number;
  return (position: number, not: number): Leader | null => {
    let found: Leader | null = null;
    for (let slot = (first[position] ?? 0) - 1; slot >= 0; slot = (next[slot] as number) - 1) {
      const isActing = (cells.kind[slot] as number) === kinds.acting;
      const isAtWork =
        (cells.hours[slot] as number) !==
        (cells.lentHours[slot] as number) + (cells.awayHours[slot] as number);
      const person = personOf(slot);
      if (person === not || !(isActing || isAtWork)) continue;
      if (found) return generalLeader(facts, on, { position, not });
      found = { person, isActing };
    }
    return found;
  };
};

const generalLeader = (
  { columns }: Facts,
  on: Day,
  { position, not }: { position: number; not: number },
): Leader | null => {
  const persons = columns.thingsOf('person');
  const id = columns.thingsOf('position').ids[position] as number;
  const leader = leaderOf(columns, id, on, not < 0 ? 0 : (persons.ids[not] as number));
  return (
    leader && { person: persons.find(leader.personId), isActing: leader.placement.values.kind === 'acting' }
  );
};

type People = {
  positions: Positions;
  holdings: Holdings;
  counts: Counts;
  managerOf: (position: number) => number;
  leaderOf: (position: number, not: number) => Leader | null;
};

const countPeople = (
  facts: Facts,
  day: number,
  { positions: { unit }, holdings, counts, managerOf, leaderOf: leads }: People,
): void => {
  const { presences, columns } = facts;
  const placed = new Int32Array(columns.thingsOf('person').ids.length).fill(-1);
  const count = (cells: Int32Array, person: number, position: number): void => {
    const at = unit[position] as number;
    if (at < 0) return;
    cells[at] = (cells[at] as number) + 1;
    placed[person] = position;
  };
  const present = new Uint8Array(placed.length);
  for (let at = 0; at < presences.size; at++) {
    if ((presences.from[at] as number) > day || day >= (presences.until[at] as number)) continue;
    present[presences.person[at] as number] = 1;
    const position = presences.position[at] as number;
    if (position >= 0) count(counts.people, presences.person[at] as number, position);
  }
  uncounted(facts, day, { holdings, present }, (person, position) =>
    count(counts.notCounted, person, position),
  );
  const reports = new Int32Array(placed.length);
  for (let person = 0; person < placed.length; person++) {
    const above = (placed[person] as number) < 0 ? -1 : managerOf(placed[person] as number);
    const leader = above < 0 ? null : leads(above, person);
    if (leader) reports[leader.person] = (reports[leader.person] as number) + 1;
  }
  for (let person = 0; person < placed.length; person++) {
    const n = reports[person] as number;
    const at = n === 0 || (placed[person] as number) < 0 ? -1 : (unit[placed[person] as number] as number);
    if (at < 0) continue;
    counts.managers[at] = (counts.managers[at] as number) + 1;
    counts.reports[at] = (counts.reports[at] as number) + n;
  }
};

// People whose main employment is of a worker type that does not count, at their primary placement.
const uncounted = (
  { columns }: Facts,
  day: number,
  { holdings: { slots, cells, kinds }, present }: { holdings: Holdings; present: Uint8Array },
  visit: (person: number, position: number) => void,
): void => {
  const table = columns.table('employment');
  const [workers, persons] = [table.column('workerTypeId'), table.column('personId')];
  const flags = entryFlags(columns);
  const chain = table.field('personId').chain as Chain;
  // most people have one employment on a day, which then is the main one
  const isOnly = (person: number): boolean => {
    let running = 0;
    for (let slot = chain.first(person); slot >= 0; slot = chain.next(slot))
      if (isThen(table, slot, day)) running++;
    return running === 1;
  };
  const isMain = (person: number, employment: number): boolean => {
    const id = columns.thingsOf('person').ids[person] as number;
    return (
      mainEmployment(spellsOf(columns, id), boundOf(day))?.id ===
      columns.thingsOf('employment').ids[employment]
    );
  };
  for (const slot of slots) {
    if ((cells.kind[slot] as number) !== kinds.primary) continue;
    const employment = cells.employmentId[slot] as number;
    const version = table.slotOn(employment, day);
    if (version < 0 || flags[workers[version] as number]?.counted !== false) continue;
    const person = persons[version] as number;
    if (present[person] === 1) continue;
    if (isOnly(person) || isMain(person, employment)) visit(person, cells.positionId[slot] as number);
  }
};
