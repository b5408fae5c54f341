import { z } from 'zod';
import { choice, day, list, refTo, text } from '../time/section';
import { target, workedHours } from './hire';

const { positionId: _, unitId: __, jobId: ___, locationId: ____, hours: _____, ...above } = target;

/** Somebody works elsewhere from a first to a last day, with all or a part of their hours, and is back by themselves the day after. */
export const TransferForATimeInput = z.strictObject({
  personId: refTo('person'),
  positionId: refTo('position'),
  firstDay: day(),
  lastDay: day(),
  /** Hours a week there; left out: all that the person has at the old place and has not lent already. */
  hours: workedHours().optional(),
  /** Whether what is lent stays held at the old place (kept), or is free for others meanwhile (backfilled). */
  oldPlace: choice('kept', 'backfilled').default('kept'),
  wishedBy: choice('the_person', 'employer').optional(),
  reasonId: list('reason').nullable().default(null),
  ...above,
  reason: text().optional(),
});
export type TransferForATimeInput = z.infer<typeof TransferForATimeInput>;

/** Another last day of a placement for a time: longer, or an early end that is planned. */
export const ChangeReturnInput = z.strictObject({
  /** The temporary placement. */
  placementId: refTo('placement'),
  lastDay: day(),
  reason: text().optional(),
});
export type ChangeReturnInput = z.infer<typeof ChangeReturnInput>;

/** It has happened, on a day: somebody started at a place, or is back from a placement for a time. What was planned follows. */
export const HappenedInput = z.strictObject({
  placementId: refTo('placement'),
  /** The first day at the new place, or back at the old one. */
  firstDay: day(),
  reason: text().optional(),
});
export type HappenedInput = z.infer<typeof HappenedInput>;
