// Whether somebody brings what their position asks for on a day: by certificates that are valid then, skills and education.
import type { Bound, Day } from '@gremium/contract';
import { type AskedOf, type Qualification, meets, requirementsOf } from '../structure/requirements';
import { addDays, isBefore, isOn } from '../time/calendar';
import type { Register } from '../time/register';

/** What somebody has on a day; a certificate until a day, or for good (null). */
export type HeldThen = Qualification & { until: Day | null };

/** What somebody can show on a day: what ran out before is not among it. */
export const qualificationsOf = (register: Register, personId: number, on: Bound): HeldThen[] => {
  const isHere = (row: { from: Bound; until: Bound }) => isOn(row, on);
  const certificates = register
    .referrers('held_certificate', 'personId', personId)
    .filter((row) => isHere(row) && !(row.values.expiresOn !== null && isBefore(row.values.expiresOn, on)))
    .map(({ values }): HeldThen => ({ id: values.certificateId, level: null, until: values.expiresOn }));
  const skills = register
    .referrers('held_skill', 'personId', personId)
    .filter(isHere)
    .map(({ values }): HeldThen => ({ id: values.skillId, level: values.level, until: null }));
  const education = register
    .referrers('held_education', 'personId', personId)
    .filter(isHere)
    .map(({ values }): HeldThen => ({ id: values.educationId, level: null, until: null }));
  return [...certificates, ...skills, ...education];
};

/** So many days before a certificate runs out it is said. */
export const RUNS_OUT_DAYS = 60;

/** What is asked, and whether it is met; `until`: the last day on which it is, null where it does not end. */
export type Qualified = AskedOf & { state: 'met' | 'runs_out' | 'missing'; until: Day | null };

/** What a position asks on a day, each with whether somebody meets it; the longest of what meets it counts. */
export const qualifiedFor = (
  register: Register,
  personId: number,
  positionId: number,
  on: Day,
): Qualified[] => {
  const held = qualificationsOf(register, personId, on);
  return requirementsOf(register, positionId, on).map((asked): Qualified => {
    const fitting = held.filter((one) => meets(register, [one], asked.row.values));
    if (fitting.length === 0) return { ...asked, state: 'missing', until: null };
    const ends = fitting.map(({ until }) => until);
    if (ends.includes(null)) return { ...asked, state: 'met', until: null };
    const until = (ends as Day[]).reduce((last, one) => (isBefore(last, one) ? one : last));
    const isSoon = isBefore(until, addDays(on, RUNS_OUT_DAYS));
    return { ...asked, state: isSoon ? 'runs_out' : 'met', until };
  });
};

/** Whether something that holds until a day is over on another one, or will be within weeks. */
export const expiryOn = (until: Day, on: Day): 'over' | 'due' | null => {
  if (isBefore(until, on)) return 'over';
  return isBefore(until, addDays(on, RUNS_OUT_DAYS)) ? 'due' : null;
};
