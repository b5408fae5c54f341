import type { Change, Problem, Row } from '@gremium/contract';
import { OPEN, isOn, overlaps } from '../time/calendar';
import { problem, thing } from '../time/problem';
import type { Register } from '../time/register';
import { unitChain } from './tree';

/**
 * What a new or changed position says of its job: that of a pattern there are none, that it is retired, used in another branch
 * only, or has as many positions as it may have. Asked only where the job, or for the branch the unit, is another one.
 */
export const jobSense = (register: Register, row: Row<'position'>, { superseded }: Change): Problem[] => {
  const { jobId, unitId, standing } = row.values;
  if (standing === 'closed') return [];
  const was = (superseded as Row[]).find(
    (old) => old.section === 'position' && old.thing === row.thing && overlaps(old, row),
  )?.values as Row<'position'>['values'] | undefined;
  const isNew = was?.jobId !== jobId;
  if (!isNew && was?.unitId === unitId) return [];
  const job = register.at('job', jobId, row.from);
  if (!job) return [];
  const named = thing('job', jobId);
  const found: Problem[] = [];
  if (isNew && job.pattern) return [problem('job_is_pattern', { job: named }, 'jobId')];
  if (isNew && !job.active) found.push(problem('job_retired', { job: named, day: row.from }, 'jobId'));
  if (job.branchId !== null && !unitChain(register, unitId, row.from).includes(job.branchId))
    found.push(problem('job_of_branch', { job: named, unit: thing('unit', job.branchId) }, 'jobId'));
  if (isNew && job.mostPositions !== null) {
    const count = positionsOfJob(register, jobId, row.from);
    if (count > job.mostPositions)
      found.push(problem('job_used_up', { job: named, most: job.mostPositions, count }, 'jobId'));
  }
  return found;
};

/** How many positions of a job there are on a day, closed ones aside. */
export const positionsOfJob = (register: Register, jobId: number, on: Row['from']): number =>
  register
    .referrers('position', 'jobId', jobId, { from: on, until: OPEN })
    .filter((row) => isOn(row, on) && row.values.standing !== 'closed').length;
