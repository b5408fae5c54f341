import type { Bound, DimensionName, Row } from '@gremium/contract';
import type { Register } from '../src/time/register';
import { type Period, byFrom, intersection, isOn, segments } from '../src/time/calendar';
import { type Spell, countedEmployment, spellsOf } from '../src/people/employments';
import { inherited, unitChain } from '../src/structure/tree';

/** Dimensions a headcount can be broken down by; values are ids, null is "none". */
export type Dimension = Exclude<DimensionName, 'country' | 'job'>;

export type Keys = Record<Dimension, number | null>;

/** Days on which a person counts in headcount, with nothing that enters figures changing in them. */
export type Presence = Period & {
  personId: number;
  employment: Spell;
  placement: Row<'placement'> | undefined;
  keys: Keys;
};

/** All presences of a person, in order: the main employment of those whose worker types count (docs/model.md, "Measures"). */
export const presencesOf = (register: Register, personId: number): Presence[] => {
  const spells = spellsOf(register, personId);
  const marks = spells.flatMap(({ rows }) => [...rows]);
  return spells
    .flatMap((spell) =>
      segments(marks, spell)
        .filter((segment) => countedEmployment(register, spells, segment.from)?.id === spell.id)
        .flatMap((segment) => placed(register, personId, spell, segment)),
    )
    .sort(byFrom);
};

const placed = (register: Register, personId: number, spell: Spell, within: Period): Presence[] => {
  const placements = register
    .referrers('placement', 'employmentId', spell.id, within)
    .filter(({ values }) => values.kind === 'primary');
  return segments(placements, within).flatMap((part) => {
    const placement = placements.find((row) => isOn(row, part.from));
    const changes = placement ? structureChanges(register, placement, part) : [];
    return segments(changes, part).map((segment) => ({
      ...segment,
      personId,
      employment: spell,
      placement,
      keys: keysOn(register, spell, placement, segment.from),
    }));
  });
};

// Every day in the period on which the position, a unit above it or its job may have changed.
const structureChanges = (register: Register, { values }: Row<'placement'>, within: Period): Period[] => {
  const changes: Period[] = [];
  for (const row of register.rows('position', values.positionId)) {
    const common = intersection(row, within);
    if (!common) continue;
    changes.push(common, ...register.rows('job', row.values.jobId));
    changes.push(...chainChanges(register, row.values.unitId, common));
  }
  return changes;
};

const chainChanges = (register: Register, unitId: number, within: Period): Period[] => {
  const changes: Period[] = [];
  const visit: [number, Period][] = [[unitId, within]];
  for (let next = visit.pop(); next && changes.length < 10_000; next = visit.pop()) {
    for (const row of register.rows('unit', next[0])) {
      const common = intersection(row, next[1]);
      if (!common) continue;
      changes.push(common);
      if (row.values.parentId !== null) visit.push([row.values.parentId, common]);
    }
  }
  return changes;
};

const keysOn = (
  register: Register,
  { rows }: Spell,
  placement: Row<'placement'> | undefined,
  on: Bound,
): Keys => {
  const employment = rows.find((row) => isOn(row, on))?.values;
  const position = placement && register.at('position', placement.values.positionId, on);
  const job = position && register.at('job', position.jobId, on);
  return {
    whole: 0,
    unit: position?.unitId ?? null,
    division: position ? divisionOf(register, position.unitId, on) : null,
    location: position ? inherited(register, position, 'locationId', on).value : null,
    legalEntity: employment?.legalEntityId ?? null,
    workerType: employment?.workerTypeId ?? null,
    jobFamily: job?.familyId ?? null,
  };
};

/** The highest unit of kind division at or above a unit on a day, or null. */
export const divisionOf = (register: Register, unitId: number, on: Bound): number | null =>
  unitChain(register, unitId, on).findLast((id) => {
    const kind = register.at('unit', id, on)?.kindId;
    return kind !== undefined && register.rows('list_entry', kind)[0]?.values.flags.division === true;
  }) ?? null;

/** Presences of everybody on the register. */
export const allPresences = (register: Register): Presence[] =>
  [...register.things('person')].flatMap((personId) => presencesOf(register, personId));
