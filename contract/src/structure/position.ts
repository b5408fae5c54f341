import { z } from 'zod';
import {
  Hundredths,
  choiceOf,
  code,
  currency,
  day,
  decimal,
  hours,
  json,
  list,
  quiet,
  refTo,
  section,
  share,
  text,
  textAs,
  timeOfDay,
  whole,
  yesNo,
} from '../time/section';
import { AveragedOver, requirement } from './work';

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
  jobId: refTo('job', { followed: true }),
  reportsToId: quiet(refTo('position', { followed: true }).nullable()),
  locationId: refTo('location').nullable(),
  costCentreId: refTo('cost_centre').nullable(),
  legalEntityId: refTo('legal_entity').nullable(),
  gradeId: refTo('grade', { followed: true }).nullable(),
  /** The step of the grade on which whoever comes begins. */
  step: whole(1, 40).nullable(),
  agreementId: list('agreement').nullable(),
  /** Hours a week worked, in hundredths; none means full time. */
  hours: hours().nullable(),
  averagedOver: AveragedOver().nullable(),
  startTime: timeOfDay().nullable(),
  endTime: timeOfDay().nullable(),
  temporary: yesNo(),
  /** First and last day of the season, where it is one. */
  seasonFirst: day().nullable(),
  seasonLast: day().nullable(),
  /** Whether the work may be done from elsewhere. */
  remote: yesNo().nullable(),
  probationMonths: whole(0, 24).nullable(),
  clearanceId: list('clearance').nullable(),
  unionId: list('union').nullable(),
  bargainingUnitId: list('bargaining_unit').nullable(),
  /** A year's budget. */
  budget: decimal().nullable(),
  budgetCurrency: currency().nullable(),
  /** Why it was made, or is as it is. */
  reasonId: list('reason').nullable(),
  notes: textAs(z.string().max(10_000), { long: true }).nullable(),
  /** Made with a hire into a unit whose hires need no position; closes with its last holder. */
  madeOnHire: quiet(yesNo()),
  /** A top of the reporting lines that somebody confirmed as meant. */
  confirmedTop: quiet(yesNo()),
  sources: json(
    z.partialRecord(
      z.enum([
        'title',
        'gradeId',
        'hours',
        'averagedOver',
        'fte',
        'locationId',
        'costCentreId',
        'legalEntityId',
      ]),
      Source,
    ),
  ),
});
export type Position = z.infer<typeof Position>;
/** What is said of a position; the rest follows from how it was made. */
export const PositionSaid = Position.omit({ madeOnHire: true, sources: true }).partial();
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

const ofPosition = refTo('position', { followed: true });

/** What its holder must bring beside what the job asks. */
export const PositionRequirement = z.strictObject({ positionId: ofPosition, ...requirement });
export type PositionRequirement = z.infer<typeof PositionRequirement>;
/** Several at a time of a position. */
export const positionRequirement = section(
  'position_requirement',
  'position_requirement',
  PositionRequirement,
  { owner: 'positionId' },
);

/** Another position it reports to beside its line; never part of what is added up along the line. */
export const DottedLine = z.strictObject({
  positionId: ofPosition,
  toId: refTo('position', { followed: true }),
  about: text().nullable(),
});
export type DottedLine = z.infer<typeof DottedLine>;
/** Several at a time of a position. */
export const dottedLine = section('dotted_line', 'dotted_line', DottedLine, { owner: 'positionId' });

/** How a position was evaluated. */
export const PositionEvaluation = z.strictObject({
  positionId: ofPosition,
  methodId: list('evaluation_method'),
  evaluatedOn: day(),
  /** The unit that evaluated it. */
  byUnitId: refTo('unit').nullable(),
  points: decimal(),
});
export type PositionEvaluation = z.infer<typeof PositionEvaluation>;
/** Several at a time of a position, one a method. */
export const positionEvaluation = section('position_evaluation', 'position_evaluation', PositionEvaluation, {
  owner: 'positionId',
});
