// Which position is above which on a day, and who leads it.
import type { Day } from '@gremium/contract';
import type { Facts } from '../../measures/facts';
import { leaderOf } from '../manager';
import type { Holdings, Positions, Units } from './that-day';

/** The position that each position reports to on a day, by dense index; -1 for none. */
export const managersOn = ({ columns }: Facts, { heads, parents }: Units, positions: Positions) => {
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

/** Who leads a position. */
export type Leader = { person: number; isActing: boolean };

// Who leads a position, but not this person. Where two might, the general rule decides.
/** Who leads each position on a day. */
export const leadersOn = (facts: Facts, on: Day, { first, next, cells, kinds }: Holdings) => {
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
