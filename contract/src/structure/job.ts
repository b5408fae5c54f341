import { z } from 'zod';
import {
  Hundredths,
  choice,
  code,
  country,
  hours,
  list,
  lists,
  quiet,
  refTo,
  section,
  share,
  text,
  textAs,
  whole,
  yesNo,
} from '../time/section';
import { AveragedOver, requirement } from './work';

/** A kind of work; everything set on it is the default of its positions. */
export const Job = z.strictObject({
  code: code(),
  name: text(),
  title: text(),
  summary: textAs(z.string().max(2000), { long: true }).nullable(),
  familyId: list('job_family').nullable(),
  level: whole(0, 99).nullable(),
  gradeId: refTo('grade').nullable(),
  workerTypeId: list('worker_type').nullable(),
  /** Default FTE limit of a position, in hundredths. */
  fte: share(Hundredths.max(100)),
  /** Hours a week worked, in hundredths; none means full time. */
  hours: hours().nullable(),
  /** Most positions allowed, or null for no limit. */
  mostPositions: whole(0, Number.MAX_SAFE_INTEGER).nullable(),
  active: yesNo(),
  description: textAs(z.string().max(10_000), { long: true }).nullable(),
  functionId: list('job_function').nullable(),
  typeId: list('job_type').nullable(),
  averagedOver: AveragedOver().nullable(),
  /** The unit in whose branch alone it is used; none: in the whole organisation. */
  branchId: refTo('unit').nullable(),
  taskIds: lists('task').nullable(),
  responsibilityIds: lists('responsibility').nullable(),
  /** What is looked at before a hire. */
  checkIds: lists('check').nullable(),
  /** The system it came from, and its id there. */
  originId: list('origin').nullable(),
  originCode: textAs(z.string().trim().min(1).max(200)).nullable(),
  /** Kept to be copied from: no position is of it. */
  pattern: quiet(yesNo()).nullable(),
});
export type Job = z.infer<typeof Job>;
/** What is said of a job; that it is a pattern is said when it is made. */
export const JobSaid = Job.omit({ pattern: true }).partial();
/** Seen by everybody with the right. */
export const job = section('job', 'job', Job, { scope: 'everybody' });

const ofJob = refTo('job', { followed: true });

/** What whoever does the job must bring, or is wished to: any one of what is named. */
export const JobRequirement = z.strictObject({ jobId: ofJob, ...requirement });
export type JobRequirement = z.infer<typeof JobRequirement>;
/** Several at a time of a job. */
export const jobRequirement = section('job_requirement', 'job_requirement', JobRequirement, {
  owner: 'jobId',
});

/** How the job is paid in a country: base pay on another basis wants a word. */
export const JobPayBasis = z.strictObject({
  jobId: ofJob,
  country: country(),
  basis: choice('hour', 'day', 'month', 'year'),
});
export type JobPayBasis = z.infer<typeof JobPayBasis>;
/** Several at a time of a job, one a country. */
export const jobPayBasis = section('job_pay_basis', 'job_pay_basis', JobPayBasis, { owner: 'jobId' });
