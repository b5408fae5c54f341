// Who reports to whom on a day, as a tree that is unfolded step by step: from the columns, in the order of names.
import type { Day, PersonLine } from '@gremium/contract';
import type { Sight } from '../access/sight';
import type { Facts } from '../measures/facts';
import { managerAbove, managerOf } from '../structure/manager';
import { dayNumber } from '../time/calendar';
import { type Directory, lineMaker, standings } from './directory';

/** Somebody in the tree, with how many people report to them directly, as far as the viewer sees these. */
export type ReportingLine = PersonLine & { reports: number };

/** Whom each person here reports to on a day: ids of people by the id of the person; null at a top. */
export const managersOn = (facts: Facts, on: Day): ReadonlyMap<number, number | null> => {
  const { columns } = facts;
  const day = dayNumber(on);
  const placements = columns.table('placement');
  const { data: kinds, words } = placements.field('kind');
  const primary = words.find('primary');
  const employments = columns.table('employment');
  const positions = columns.thingsOf('position').ids;
  const people = columns.thingsOf('person').ids;
  const above = new Map<number, number | null>();
  // most of a position's holders have one manager
  const ofPosition = new Map<number, number | null>();
  for (let slot = 0; slot < placements.size; slot++) {
    if (kinds[slot] !== primary) continue;
    if ((placements.from[slot] as number) > day || day >= (placements.until[slot] as number)) continue;
    const employment = placements.column('employmentId')[slot] as number;
    const held = employments.slotOn(employment, day);
    if (held < 0) continue;
    const person = people[employments.column('personId')[held] as number] as number;
    // of several employments at a time the main one says it
    if (above.has(person)) {
      above.set(person, managerOf(columns, person, on)?.personId ?? null);
      continue;
    }
    const position = positions[placements.column('positionId')[slot] as number] as number;
    let manager = ofPosition.get(position);
    if (manager === undefined) {
      manager = managerAbove(columns, position, on, 0)?.personId ?? null;
      ofPosition.set(position, manager);
    }
    above.set(
      person,
      manager === person ? (managerAbove(columns, position, on, person)?.personId ?? null) : manager,
    );
  }
  return above;
};

type Asked = { sight: Sight; on: Day; under: number | null; managers: ReadonlyMap<number, number | null> };

/**
 * People who report directly to somebody on a day (`under`), or to nobody whom the viewer sees (null): those here whose name,
 * employment and placement the viewer may see.
 */
export const reporting = (
  facts: Facts,
  texts: Directory,
  { sight, on, under, managers }: Asked,
): ReportingLine[] => {
  const { columns } = facts;
  const day = dayNumber(on);
  const names = columns.table('person_name');
  const persons = columns.thingsOf('person').ids;
  const standingOf = standings(columns, sight, day);
  const line = lineMaker(facts, sight, day);
  const seen = new Map<number, () => PersonLine>();
  for (const slot of texts.sorted()) {
    if ((names.from[slot] as number) > day || day >= (names.until[slot] as number)) continue;
    const person = names.thing[slot] as number;
    const id = persons[person] as number;
    if (!managers.has(id) || !sight.person(id)) continue;
    const standing = standingOf(person);
    const place = standing?.rank === 0 ? line.place(standing) : null;
    if (!standing || !place || place.placement < 0) continue;
    seen.set(id, () => line.make(slot, standing, place));
  }
  const aboveOf = (id: number): number | null => {
    const manager = managers.get(id) ?? null;
    return manager !== null && seen.has(manager) ? manager : null;
  };
  const reports = new Map<number, number>();
  const found: number[] = [];
  for (const id of seen.keys()) {
    const above = aboveOf(id);
    if (above !== null) reports.set(above, (reports.get(above) ?? 0) + 1);
    if (above === under) found.push(id);
  }
  return found.map((id) => ({ ...(seen.get(id) as () => PersonLine)(), reports: reports.get(id) ?? 0 }));
};
