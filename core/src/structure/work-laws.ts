import type { Change, Row } from '@gremium/contract';
import type { Offence } from '../time/offence';
import { problem } from '../time/problem';

const isRequirement = (row: Row): row is Row<'job_requirement'> =>
  row.section === 'job_requirement' || row.section === 'position_requirement';

/** A requirement names skills, certificates or education: one of the three (`requirement_one`). */
export const requirementOne = (row: Row): Offence[] => {
  if (!isRequirement(row)) return [];
  const { skillIds, certificateIds, educationIds } = row.values;
  const named = [skillIds, certificateIds, educationIds].filter((ids) => ids !== null);
  return named.length === 1
    ? []
    : [{ problem: problem('requirement_one', {}, 'skillIds'), rows: [row], on: row }];
};

/** Whoever is above a limit by right is so for a reason and until a day (`review_needed`). */
export const reviewNeeded = (row: Row): Offence[] => {
  if (row.section !== 'placement') return [];
  const { aboveReason, reviewOn } = (row as Row<'placement'>).values;
  return (aboveReason === null) === (reviewOn === null)
    ? []
    : [{ problem: problem('review_needed', {}, 'reviewOn'), rows: [row], on: row }];
};

/** Whether a change says anew that somebody is above a limit by right. */
export const isAboveByRight = ({ recorded, superseded }: Change): boolean => {
  const reviewOf = (row: Row) =>
    row.section === 'placement' ? (row as Row<'placement'>).values.reviewOn : null;
  const said = new Set((superseded as Row[]).map((row) => `${row.thing} ${reviewOf(row)}`));
  return (recorded as Row[]).some(
    (row) => reviewOf(row) !== null && !said.has(`${row.thing} ${reviewOf(row)}`),
  );
};
