import { z } from 'zod';
import { Code, Hundredths, Text, refTo, section } from '../time/section';

export const Standing = z.enum(['planned', 'in_force', 'on_hold', 'closed']);
export type Standing = z.infer<typeof Standing>;

/** Where a defaultable value came from; all but `own` follow their source. */
export const Source = z.enum(['own', 'job', 'unit', 'position', 'organisation', 'location']);
export type Source = z.infer<typeof Source>;

/** A place in the structure in which a job is done. What is null follows the unit (or has no value anywhere). */
export const Position = z.strictObject({
  code: Code,
  title: Text,
  jobId: refTo('job'),
  unitId: refTo('unit'),
  reportsToId: refTo('position').nullable(),
  standing: Standing,
  locationId: refTo('location').nullable(),
  costCentreId: refTo('cost_centre').nullable(),
  legalEntityId: refTo('legal_entity').nullable(),
  gradeId: refTo('grade').nullable(),
  /** Hours a week worked, in hundredths; none means full time. */
  hours: Hundredths.nullable(),
  temporary: z.boolean(),
  /** Made with a hire into a unit whose hires need no position; closes with its last holder. */
  madeOnHire: z.boolean(),
  /** A top of the reporting lines that somebody confirmed as meant. */
  confirmedTop: z.boolean(),
  sources: z.partialRecord(
    z.enum(['title', 'gradeId', 'hours', 'locationId', 'costCentreId', 'legalEntityId']),
    Source,
  ),
});
export type Position = z.infer<typeof Position>;
export const position = section('position', 'position', Position);

/** How many may hold it and up to which FTE; null is no limit. */
export const PositionLimits = z.strictObject({
  places: z.int().min(1).max(100_000).nullable(),
  /** In hundredths of an FTE. */
  fte: Hundredths.min(1).nullable(),
  /** Days before a leaver's last day on which the next holder may begin. */
  handoverDays: z.int().min(0).max(366),
});
export type PositionLimits = z.infer<typeof PositionLimits>;
export const positionLimits = section('position_limits', 'position', PositionLimits);
