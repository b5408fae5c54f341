import { z } from 'zod';
import {
  Hundredths,
  code,
  hours,
  list,
  refTo,
  section,
  share,
  text,
  textAs,
  whole,
  yesNo,
} from '../time/section';

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
});
export type Job = z.infer<typeof Job>;
/** Seen by everybody with the right. */
export const job = section('job', 'job', Job, { scope: 'everybody' });
