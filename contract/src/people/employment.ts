import { z } from 'zod';
import { Day } from '../time/day';
import { Currency, Decimal, Hundredths, Text, refTo, refToPast, section } from '../time/section';

/** One spell of working for one legal entity; its period is first day to last day. */
export const Employment = z.strictObject({
  personId: refTo('person'),
  legalEntityId: refTo('legal_entity'),
  workerTypeId: refTo('list_entry'),
  /** Main one where several run side by side; without marks the earlier is main. */
  markedMain: z.boolean(),
  seniorityDate: Day.nullable(),
  /** The employment that this one continues without a break (other legal entity or worker type). */
  continuesId: refToPast('employment').nullable(),
  endReasonId: refTo('list_entry').nullable(),
  mayReturn: z.boolean().nullable(),
  returnReason: Text.nullable(),
  returnBarredUntil: Day.nullable(),
});
export type Employment = z.infer<typeof Employment>;
export const employment = section('employment', 'employment', Employment);

/** The dated terms of an employment; its period is first day to fixed end, or open. */
export const Contract = z.strictObject({
  employmentId: refTo('employment'),
  kindId: refTo('list_entry'),
  /** Last day of a fixed term. */
  fixedUntil: Day.nullable(),
  fixedGround: Text.nullable(),
  noticeByEmployeeDays: z.int().min(0).max(730).nullable(),
  noticeByEmployerDays: z.int().min(0).max(730).nullable(),
  probationUntil: Day.nullable(),
  probation: z.enum(['running', 'passed', 'extended', 'ended']).nullable(),
  signedOn: Day.nullable(),
});
export type Contract = z.infer<typeof Contract>;
export const contract = section('contract', 'contract', Contract);

export const PlacementKind = z.enum(['primary', 'second', 'temporary', 'acting', 'cover']);
export type PlacementKind = z.infer<typeof PlacementKind>;

/** Where the full-time hours of a placement were taken from. */
export const FullTimeSource = z.enum(['agreement', 'location', 'organisation', 'typed']);
export type FullTimeSource = z.infer<typeof FullTimeSource>;

/** The holding of a position by an employment. Its share of FTE is `hours / fullTime`, both hundredths of hours a week. */
export const Placement = z.strictObject({
  employmentId: refTo('employment'),
  positionId: refTo('position'),
  kind: PlacementKind,
  hours: Hundredths,
  fullTime: Hundredths.min(1),
  fullTimeSource: FullTimeSource,
  /** Part of `hours` fallen to a temporary placement for the time: no longer contracted here. */
  lentHours: Hundredths,
  /** Part of `hours` not worked because of a long absence: contracted, but not at work. */
  awayHours: Hundredths,
  /** Lent and away hours are free for others; otherwise they stay held. */
  backfilled: z.boolean(),
  /** Marked as the one who leads among several holders. */
  lead: z.boolean(),
  /** Whom an acting or covering placement stands in for, or which one a temporary move takes hours from. */
  forPlacementId: refTo('placement').nullable(),
  reasonId: refTo('list_entry').nullable(),
});
export type Placement = z.infer<typeof Placement>;
export const placement = section('placement', 'placement', Placement);

/** One pay component from a day on. */
export const Pay = z.strictObject({
  employmentId: refTo('employment'),
  kindId: refTo('list_entry'),
  amount: Decimal,
  currency: Currency,
  basis: z.enum(['hour', 'day', 'month', 'year']),
  /** Whether the amount is for full time or what is really paid. */
  rate: z.enum(['full_time', 'actual']),
  reasonId: refTo('list_entry').nullable(),
});
export type Pay = z.infer<typeof Pay>;
export const pay = section('pay', 'pay', Pay);
