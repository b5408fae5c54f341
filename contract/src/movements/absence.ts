import { z } from 'zod';
import { Absence } from '../people/records';
import { choice, day, list, refTo, text } from '../time/section';
import { PayInput, target, workedHours } from './hire';

const { hours, notes, expectedUntil } = Absence.partial().shape;

/** Somebody is away for long: wholly or for a part of their hours, until a last day or without one. */
export const LongAbsenceInput = z.strictObject({
  employmentId: refTo('employment'),
  firstDay: day(),
  /** Left out: nobody knows when it ends; see `expectedUntil`. */
  lastDay: day().nullable().optional(),
  kindId: list('absence_kind'),
  /** Hours a week away; left out: all. */
  hours,
  /** Whether what is away stays held at the place (kept), or is free for others meanwhile (backfilled). */
  oldPlace: choice('kept', 'backfilled').default('kept'),
  expectedUntil,
  notes,
  reason: text().optional(),
});
export type LongAbsenceInput = z.infer<typeof LongAbsenceInput>;

/** Other days or another kind of an absence that is known; what is left out stays, a last day of null is none. */
export const ChangeAbsenceInput = z.strictObject({
  absenceId: refTo('absence'),
  firstDay: day().optional(),
  lastDay: day().nullable().optional(),
  kindId: list('absence_kind').optional(),
  expectedUntil,
  notes,
  reason: text().optional(),
});
export type ChangeAbsenceInput = z.infer<typeof ChangeAbsenceInput>;

/** A step of a return: so many hours a week are worked from a day. */
export const ReturnStep = z.strictObject({ from: day(), hours: workedHours() });

/** Somebody is back from a long absence, or plans to be: with all hours, with fewer, or step by step. */
export const ReturnInput = z.strictObject({
  employmentId: refTo('employment'),
  /** The first day back. */
  firstDay: day(),
  /** Hours a week worked from then on; left out: all, and the absence is over. */
  hours: workedHours().optional(),
  steps: z.array(ReturnStep).max(6).optional(),
  above: target.above,
  reason: text().optional(),
});
export type ReturnInput = z.infer<typeof ReturnInput>;

/** Somebody works what another one cannot, beside their own place. */
export const CoverInput = z.strictObject({
  /** Whose work it is. */
  awayEmploymentId: refTo('employment'),
  personId: refTo('person'),
  firstDay: day(),
  lastDay: day().nullable().optional(),
  /** Left out: all that is away on the first day. */
  hours: workedHours().optional(),
  reasonId: list('reason').nullable().default(null),
  reason: text().optional(),
});
export type CoverInput = z.infer<typeof CoverInput>;

/** Somebody leads a position whose holder is away, or that nobody holds, beside their own place. */
export const ActingInput = z.strictObject({
  positionId: refTo('position'),
  personId: refTo('person'),
  firstDay: day(),
  lastDay: day().nullable().optional(),
  /** What is paid for it, as long as it lasts. */
  allowance: PayInput.pick({ kindId: true, amount: true, currency: true, basis: true }).partial().optional(),
  reasonId: list('reason').nullable().default(null),
  reason: text().optional(),
});
export type ActingInput = z.infer<typeof ActingInput>;

/** A second place beside the primary one. */
export const SecondPlacementInput = z.strictObject({
  personId: refTo('person'),
  positionId: refTo('position'),
  firstDay: day(),
  lastDay: day().nullable().optional(),
  hours: workedHours(),
  above: target.above,
  reasonId: list('reason').nullable().default(null),
  reason: text().optional(),
});
export type SecondPlacementInput = z.infer<typeof SecondPlacementInput>;

/** Another last day of a cover, of acting or of a second placement; what is paid for its days ends with it. */
export const EndStandInInput = z.strictObject({
  standInId: refTo('placement'),
  lastDay: day(),
  reason: text().optional(),
});
export type EndStandInInput = z.infer<typeof EndStandInInput>;
