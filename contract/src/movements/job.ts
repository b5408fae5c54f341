import { z } from 'zod';
import { Job, JobSaid } from '../structure/job';
import { choice, choices, day, quiet, refTo, text, yesNo } from '../time/section';

/** Parts of a job that can be copied into another one. */
export const JobPart = z.enum([
  'described',
  'terms',
  'tasks',
  'responsibilities',
  'checks',
  'skills',
  'certificates',
  'education',
  'pay_basis',
]);
export type JobPart = z.infer<typeof JobPart>;
/** All of them, in the order in which they are offered. */
export const jobParts = JobPart.options;

const parts = choices(...(jobParts as [JobPart, ...JobPart[]]));
/** Entries of lists that are left out of the parts that are copied. */
const without = z.array(refTo('list_entry')).max(500);

/** Begins a job: a code, a name and a day are enough. What is copied from another one is overlaid by what is said. */
export const NewJobInput = z.strictObject({
  firstDay: day(),
  /** On every day, as if it had always been there. */
  fromBeginning: yesNo().optional(),
  ...JobSaid.shape,
  code: Job.shape.code,
  name: Job.shape.name,
  /** Kept to be copied from only. */
  pattern: quiet(yesNo()).optional(),
  likeId: refTo('job').optional(),
  /** Left out: all of them. */
  parts: parts.optional(),
  without: without.optional(),
  reason: text().optional(),
});
export type NewJobInput = z.infer<typeof NewJobInput>;

/**
 * Changes a job from a day on. Positions whose values come from the job follow, or keep what they have; those with a value of
 * their own keep it. `others`: positions for which the other of the two holds.
 */
export const ChangeJobInput = z.strictObject({
  jobId: refTo('job'),
  firstDay: day(),
  ...JobSaid.shape,
  /** Left out: they follow. */
  followers: choice('follow', 'keep').optional(),
  others: z.array(refTo('position')).max(500).optional(),
  reason: text().optional(),
});
export type ChangeJobInput = z.infer<typeof ChangeJobInput>;

/** Copies parts of one job into another: what is empty there is filled, lists are added to, nothing is overwritten. */
export const CopyIntoJobInput = z.strictObject({
  jobId: refTo('job'),
  likeId: refTo('job'),
  firstDay: day(),
  parts,
  without: without.optional(),
  /** Left out: they follow. */
  followers: choice('follow', 'keep').optional(),
  others: z.array(refTo('position')).max(500).optional(),
  reason: text().optional(),
});
export type CopyIntoJobInput = z.infer<typeof CopyIntoJobInput>;
