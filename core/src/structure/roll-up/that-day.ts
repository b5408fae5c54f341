// What holds on a day, read from the columns once: units, positions, who holds them.
import type { Facts } from '../../measures/facts';
import { NONE, type Table } from '../../time/table';

/** Whether the version in a slot is in effect on a day. */
export const isThen = (table: Table, slot: number, day: number): boolean =>
  (table.from[slot] as number) <= day && day < (table.until[slot] as number);

/** Units of a day: ids, their index, parents and heads by dense index. */
export type Units = { ids: number[]; index: Int32Array; parents: Int32Array; heads: Int32Array };

// Units of the day, in the order of their segments: a parent always stands before its children.
/** The units of a day, parents before children. */
export const unitsOn = ({ columns, places }: Facts, day: number): Units => {
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

/** Positions of a day by dense index. */
export type Positions = {
  /** Place of each position's unit, its standing (a code) and whom it names as above it; -1 where it does not exist. */
  unit: Int32Array;
  standing: Int32Array;
  above: Int32Array;
  codes: { inForce: number; onHold: number; closed: number };
  texts: string[];
};

/** The positions of a day. */
export const positionsOn = ({ columns }: Facts, day: number, units: Int32Array): Positions => {
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

/** Holdings of a day as a linked list by position. */
export type Holdings = {
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

/** The holdings of a day. */
export const holdingsOn = ({ columns }: Facts, day: number): Holdings => {
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
