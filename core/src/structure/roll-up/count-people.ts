// People by unit, counted and not, and how many report to whom.
import type { Placed } from '../../access/part';
import type { Facts } from '../../measures/facts';
import { mainEmployment, spellsOf } from '../../people/employments';
import { boundOf } from '../../time/calendar';
import type { Chain } from '../../time/table';
import { entryFlags } from '../places';
import type { Counts } from './counts';
import type { Leader } from './leading';
import { type Holdings, type Positions, isThen } from './that-day';

type People = {
  positions: Positions;
  holdings: Holdings;
  counts: Counts;
  managerOf: (position: number) => number;
  leaderOf: (position: number, not: number) => Leader | null;
  /** Who may be counted. */
  may: (place: Placed) => boolean;
};

/** Counts people and FTE of a day by unit. */
export const countPeople = (
  facts: Facts,
  day: number,
  { positions: { unit }, holdings, counts, managerOf, leaderOf: leads, may }: People,
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
    const person = presences.person[at] as number;
    const position = presences.position[at] as number;
    present[person] = 1;
    if (position >= 0 && may({ position, employment: presences.employment[at] as number, person }))
      count(counts.people, person, position);
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
