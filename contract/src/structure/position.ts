import { z } from 'zod';
import {
  Hundredths,
  choiceOf,
  code,
  hours,
  json,
  list,
  quiet,
  refTo,
  section,
  share,
  text,
  whole,
  yesNo,
} from '../time/section';

/** Whether somebody may begin on a position, or hold it. */
export const Standing = z.enum(['planned', 'in_force', 'on_hold', 'closed']);
export type Standing = z.infer<typeof Standing>;

/** Where a defaultable value came from; all but `own` follow their source. */
export const Source = z.enum(['own', 'job', 'unit', 'position', 'organisation', 'location']);
export type Source = z.infer<typeof Source>;

/** A place in the structure in which a job is done. What is null follows the unit (or has no value anywhere). */
export const Position = z.strictObject({
  title: text(),
  code: code(),
  standing: choiceOf(Standing),
  unitId: refTo('unit', { followed: true }),
  jobId: refTo('job'),
  reportsToId: quiet(refTo('position', { followed: true }).nullable()),
  locationId: refTo('location').nullable(),
  costCentreId: refTo('cost_centre').nullable(),
  legalEntityId: refTo('legal_entity').nullable(),
  gradeId: refTo('grade').nullable(),
  agreementId: list('agreement').nullable(),
  /** Hours a week worked, in hundredths; none means full time. */
  hours: hours().nullable(),
  temporary: yesNo(),
  /** Made with a hire into a unit whose hires need no position; closes with its last holder. */
  madeOnHire: quiet(yesNo()),
  /** A top of the reporting lines that somebody confirmed as meant. */
  confirmedTop: quiet(yesNo()),
  sources: json(
    z.partialRecord(
      z.enum(['title', 'gradeId', 'hours', 'locationId', 'costCentreId', 'legalEntityId']),
      Source,
    ),
  ),
});
export type Position = z.infer<typeof Position>;
/** What is said of a position; the rest follows from how it was made. */
export const PositionSaid = Position.omit({ madeOnHire: true, confirmedTop: true, sources: true }).partial();
export const position = section('position', 'position', Position, { scope: 'own_days' });

/** How many may hold it and up to which FTE; null is no limit. */
export const PositionLimits = z.strictObject({
  places: whole(1, 100_000).nullable(),
  /** In hundredths of an FTE. */
  fte: share(Hundredths.min(1)).nullable(),
  /** Days before a leaver's last day on which the next holder may begin. */
  handoverDays: whole(0, 366),
});
export type PositionLimits = z.infer<typeof PositionLimits>;
/** Beside the position, with days of its own. */
export const positionLimits = section('position_limits', 'position', PositionLimits);
