import type { Bound, Row, Values } from '@gremium/contract';
import { isOn } from '../time/calendar';
import type { Register } from '../time/register';

/** What somebody has of a skill, a certificate or a level of education; `level` of a skill only. */
export type Qualification = { id: number; level?: number | null };

/** What is asked: any one of what is named, of a skill at a level or above. */
export type Requirement = Pick<
  Values<'job_requirement'>,
  'skillIds' | 'certificateIds' | 'educationIds' | 'level' | 'needed'
>;

const flagsOf = (register: Register, id: number) => register.rows('list_entry', id).at(-1)?.values;

/** Whether an entry satisfies another one: it is the same, or a higher one of the same list and series. */
export const satisfies = (register: Register, held: number, wanted: number): boolean => {
  if (held === wanted) return true;
  const [a, b] = [flagsOf(register, held), flagsOf(register, wanted)];
  if (!a || !b || a.list !== b.list || a.flags.series !== b.flags.series) return false;
  // levels of education are one series; of the others only what names one
  if (a.list !== 'education' && a.flags.series === undefined) return false;
  return a.flags.rank !== undefined && b.flags.rank !== undefined && a.flags.rank >= b.flags.rank;
};

const namedIn = ({ skillIds, certificateIds, educationIds }: Requirement): readonly number[] =>
  skillIds ?? certificateIds ?? educationIds ?? [];

/** Whether any of what somebody has meets a requirement. */
export const meets = (register: Register, held: readonly Qualification[], wanted: Requirement): boolean =>
  namedIn(wanted).some((id) =>
    held.some(
      (one) =>
        satisfies(register, one.id, id) &&
        (wanted.skillIds === null || wanted.level === null || (one.level ?? 0) >= wanted.level),
    ),
  );

// Whoever meets the first meets the second: each of what it names satisfies it.
const implies = (register: Register, one: Requirement, other: Requirement): boolean =>
  (one.needed === 'required' || other.needed === 'wished') &&
  namedIn(one).length > 0 &&
  namedIn(one).every((id) => meets(register, [{ id, level: one.level }], other));

/** A requirement of a position, with whether the job asks it or the position. */
export type AskedOf = { row: Row<'job_requirement'> | Row<'position_requirement'>; by: 'job' | 'position' };

/** What a position asks on a day: what its job asks and its own, without what follows from another of them. */
export const requirementsOf = (register: Register, positionId: number, on: Bound): AskedOf[] => {
  const jobId = register.at('position', positionId, on)?.jobId;
  const ofJob =
    jobId === undefined
      ? []
      : register.referrers('job_requirement', 'jobId', jobId).filter((row) => isOn(row, on));
  const own = register
    .referrers('position_requirement', 'positionId', positionId)
    .filter((row) => isOn(row, on));
  const all: AskedOf[] = [
    ...ofJob.map((row): AskedOf => ({ row, by: 'job' })),
    ...own.map((row): AskedOf => ({ row, by: 'position' })),
  ];
  return all.filter(
    (one, i) =>
      !all.some((other, j) => {
        if (i === j || !implies(register, other.row.values, one.row.values)) return false;
        // of two that say the same the first stays
        return !implies(register, one.row.values, other.row.values) || j < i;
      }),
  );
};
