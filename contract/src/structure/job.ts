import { z } from 'zod';
import { Code, Hundredths, Text, refTo, section } from '../time/section';

/** A kind of work; everything set on it is the default of its positions. */
export const Job = z.strictObject({
  code: Code,
  name: Text,
  title: Text,
  summary: z.string().max(2000).nullable(),
  familyId: refTo('list_entry').nullable(),
  level: z.int().min(0).max(99).nullable(),
  gradeId: refTo('grade').nullable(),
  workerTypeId: refTo('list_entry').nullable(),
  /** Default FTE limit of a position, in hundredths. */
  fte: Hundredths.max(100),
  /** Hours a week worked, in hundredths; none means full time. */
  hours: Hundredths.nullable(),
  /** Most positions allowed, or null for no limit. */
  mostPositions: z.int().min(0).nullable(),
  active: z.boolean(),
});
export type Job = z.infer<typeof Job>;
export const job = section('job', 'job', Job);
