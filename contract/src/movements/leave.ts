import { z } from 'zod';
import { Employment } from '../people/employment';
import { choice, day, list, refTo, text, yesNo } from '../time/section';

/** The end of an employment with its last day, and what becomes of the position, of those who report, of access. */
export const LeaveInput = z.strictObject({
  employmentId: refTo('employment'),
  lastDay: day(),
  reasonId: list('reason'),
  /** The day on which notice was given or received. */
  noticeOn: Employment.shape.noticeOn.optional(),
  /** Left out: the last day itself. */
  lastDayAtWork: Employment.shape.lastDayAtWork.optional(),
  mayReturn: yesNo().default(true),
  returnReason: text().nullable().default(null),
  /** Not before this day has passed. */
  returnBarredUntil: day().nullable().optional(),
  /** Left out: it stays as it is; one made with a hire closes. */
  positionAfter: choice('in_force', 'on_hold', 'closed').optional(),
  /** Whom the direct reports go to; left out: bridged to the next one upwards. */
  reportsToId: refTo('position').nullable().optional(),
  /** Left out: after the last day. */
  accessEnds: choice('after_last_day', 'at_once').optional(),
  reason: text().optional(),
});
export type LeaveInput = z.infer<typeof LeaveInput>;
