import { z } from 'zod';
import {
  Hundredths,
  byMovement,
  choice,
  choiceOf,
  currency,
  day,
  decimal,
  field,
  hours,
  list,
  quiet,
  refTo,
  refToPast,
  section,
  text,
  whole,
  yesNo,
} from '../time/section';

/** One spell of working for one legal entity; its period is first day to last day. */
export const Employment = z.strictObject({
  personId: refTo('person', { followed: true }),
  legalEntityId: refTo('legal_entity'),
  workerTypeId: list('worker_type'),
  /** Main one where several run side by side; without marks the earlier is main. */
  markedMain: quiet(yesNo()),
  seniorityDate: day().nullable(),
  /** The employment that this one continues without a break (other legal entity or worker type). */
  continuesId: quiet(refToPast('employment', { followed: true }).nullable()),
  endReasonId: list('reason').nullable(),
  mayReturn: quiet(yesNo().nullable()),
  returnReason: quiet(text().nullable()),
  returnBarredUntil: quiet(day().nullable()),
  /** Notice given or received. */
  noticeOn: day().nullable(),
  /** Where it is not the last day of the employment. */
  lastDayAtWork: day().nullable(),
  /** The last day on which their account is let in, once they leave. */
  accessUntil: day().nullable(),
});
export type Employment = z.infer<typeof Employment>;
/** What an employment says of its end: recorded by whoever ends it, not by whoever began it. */
export const fieldsOfEnd = [
  'endReasonId',
  'mayReturn',
  'returnReason',
  'returnBarredUntil',
  'noticeOn',
  'lastDayAtWork',
  'accessUntil',
] as const satisfies readonly (keyof Employment)[];
/** Seen on the days of its primary placements. */
export const employment = section('employment', 'employment', Employment, {
  owner: 'personId',
  scope: 'own_days',
  notByOneself: true,
});

// What an employment is worked on: ends with it, goes on in the one that continues it.
const terms = { owner: 'employmentId', endsWithOwner: true, continues: true, notByOneself: true } as const;

/** The dated terms of an employment; its period is first day to fixed end, or open. */
export const Contract = z.strictObject({
  employmentId: refTo('employment', { followed: true }),
  kindId: list('contract_kind'),
  /** Last day of a fixed term. */
  fixedUntil: day().nullable(),
  fixedGround: text().nullable(),
  probationUntil: day().nullable(),
  probation: choice('running', 'passed', 'extended', 'ended').nullable(),
  /** Days of the week worked, where they are not those of the organisation: pay by the day goes by them. */
  daysAWeek: field(Hundredths.min(50).max(700), { is: 'hundredths', unit: 'days', most: 7 }).nullable(),
  noticeByEmployeeDays: whole(0, 730).nullable(),
  noticeByEmployerDays: whole(0, 730).nullable(),
  signedOn: day().nullable(),
});
export type Contract = z.infer<typeof Contract>;
/** Several at a time of an employment. */
export const contract = section('contract', 'contract', Contract, terms);

/** How a position is held. */
export const PlacementKind = z.enum(['primary', 'second', 'temporary', 'acting', 'cover']);
export type PlacementKind = z.infer<typeof PlacementKind>;

/** Where the full-time hours of a placement were taken from. */
export const FullTimeSource = z.enum(['agreement', 'location', 'organisation', 'typed']);
export type FullTimeSource = z.infer<typeof FullTimeSource>;

/** The holding of a position by an employment. Its share of FTE is `hours / fullTime`, both hundredths of hours a week. */
export const Placement = z.strictObject({
  employmentId: refTo('employment', { followed: true }),
  positionId: refTo('position', { followed: true }),
  kind: choiceOf(PlacementKind),
  hours: hours(),
  fullTime: hours(Hundredths.min(1)),
  fullTimeSource: quiet(choiceOf(FullTimeSource)),
  /** Hours kept when full-time hours became fewer: with no more than these, to be over a limit is a warning. */
  keptHours: quiet(hours(Hundredths, { zero: true }).nullable()),
  /** Part of `hours` fallen to a temporary placement for the time: no longer contracted here. */
  lentHours: hours(Hundredths, { zero: true }),
  /** Part of `hours` not worked because of a long absence: contracted, but not at work. */
  awayHours: byMovement('long_absence', hours(Hundredths, { zero: true })),
  /** Lent and away hours are free for others; otherwise they stay held. */
  backfilled: quiet(yesNo()),
  /** Marked as the one who leads among several holders. */
  lead: quiet(yesNo()),
  /** Whom an acting or covering placement stands in for, or which one a temporary move takes hours from. */
  forPlacementId: quiet(refTo('placement', { followed: true }).nullable()),
  reasonId: list('reason').nullable(),
  /** What it is booked to; none: the cost centre of the position. */
  costCentreId: refTo('cost_centre').nullable(),
  /** Above the limits of the position by right: why, and when that is looked at again. */
  aboveReason: text().nullable(),
  reviewOn: day().nullable(),
});
export type Placement = z.infer<typeof Placement>;
/** Seen where its position is, on its own days. */
export const placement = section('placement', 'placement', Placement, {
  owner: 'employmentId',
  scope: 'own_days',
  notByOneself: true,
});

/** One pay component from a day on. */
export const Pay = z.strictObject({
  employmentId: refTo('employment', { followed: true }),
  kindId: list('pay_kind'),
  amount: decimal(),
  currency: currency(),
  /** What the amount is for; `time`: each time it is paid. */
  basis: choice('hour', 'day', 'month', 'year', 'time'),
  /** Whether the amount is for full time or what is really paid. */
  rate: choice('full_time', 'actual'),
  reasonId: list('reason').nullable(),
  /** The step of the grade that base pay is of. */
  step: whole(1, 40).nullable(),
  /** How many times a year: of a month left out 12; needed of what is paid each time (laws `times_needed`, `times_senseless`). */
  timesAYear: whole(1, 366).nullable(),
  /** How often it is paid out. */
  paidEvery: choice('weekly', 'fortnightly', 'monthly', 'quarterly', 'half_yearly', 'yearly').nullable(),
});
export type Pay = z.infer<typeof Pay>;
/** Several components at a time of an employment. */
export const pay = section('pay', 'pay', Pay, terms);
