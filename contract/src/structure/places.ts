import { z } from 'zod';
import {
  Hundredths,
  byMovement,
  code,
  country,
  currency,
  decimal,
  hours,
  list,
  refTo,
  section,
  text,
  timeZone,
  whole,
  yesNo,
} from '../time/section';

/** Who employs. */
export const LegalEntity = z.strictObject({
  code: code(),
  name: text(),
  country: country(),
  currency: currency(),
});
export type LegalEntity = z.infer<typeof LegalEntity>;
/** Seen by everybody with the right. */
export const legalEntity = section('legal_entity', 'legal_entity', LegalEntity, { scope: 'everybody' });

/** Where work is done. */
export const Location = z.strictObject({
  code: code(),
  name: text(),
  city: text(),
  country: country(),
  timeZone: timeZone(),
  /** Full-time hours a week here; none means the organisation's. */
  fullTime: byMovement('change_full_time', hours(Hundredths.min(1))).nullable(),
});
export type Location = z.infer<typeof Location>;
/** Seen by everybody with the right. */
export const location = section('location', 'location', Location, { scope: 'everybody' });

/** What costs are booked to. */
export const CostCentre = z.strictObject({ code: code(), name: text() });
export type CostCentre = z.infer<typeof CostCentre>;
/** Seen by everybody with the right. */
export const costCentre = section('cost_centre', 'cost_centre', CostCentre, { scope: 'everybody' });

/** How old somebody must be on their first day: by country, worker type and whether at sea; what is left out means any. */
export const LeastAge = z.strictObject({
  code: code(),
  name: text(),
  country: country().nullable(),
  workerTypeId: list('worker_type').nullable(),
  /** Only where the unit, or one above it, is of a kind that is at sea. */
  atSea: yesNo(),
  age: whole(0, 30),
});
export type LeastAge = z.infer<typeof LeastAge>;
/** Seen by everybody with the right. */
export const leastAge = section('least_age', 'least_age', LeastAge, { scope: 'everybody' });

/** A level of pay with its steps. */
export const Grade = z.strictObject({
  code: code(),
  name: text(),
  level: whole(0, 99),
  steps: whole(1, 40),
});
export type Grade = z.infer<typeof Grade>;
/** Seen by everybody with the right. */
export const grade = section('grade', 'grade', Grade, { scope: 'everybody' });

/** How many months somebody stays on a step of a grade before the next one. */
export const GradeStep = z.strictObject({
  gradeId: refTo('grade', { followed: true }),
  step: whole(1, 40),
  months: whole(1, 600),
});
export type GradeStep = z.infer<typeof GradeStep>;
/** Several at a time of a grade, one a step. */
export const gradeStep = section('grade_step', 'grade_step', GradeStep, { owner: 'gradeId' });

/** What a step of a grade pays a month at `fullTime` hours a week, in one currency. */
export const GradeStepPay = z.strictObject({
  gradeId: refTo('grade', { followed: true }),
  step: whole(1, 40),
  currency: currency(),
  amount: decimal(),
  fullTime: hours(Hundredths.min(1)),
});
export type GradeStepPay = z.infer<typeof GradeStepPay>;
/** Several at a time of a grade, one a step and currency. */
export const gradeStepPay = section('grade_step_pay', 'grade_step_pay', GradeStepPay, { owner: 'gradeId' });

/** Minimum, middle and maximum of a grade in one currency, for a month at `fullTime` hours a week; bounds are inside. */
export const GradeRange = z.strictObject({
  gradeId: refTo('grade', { followed: true }),
  currency: currency(),
  minimum: decimal(),
  middle: decimal(),
  maximum: decimal(),
  fullTime: hours(Hundredths.min(1)),
});
export type GradeRange = z.infer<typeof GradeRange>;
/** Several at a time of a grade, one a currency. */
export const gradeRange = section('grade_range', 'grade_range', GradeRange, { owner: 'gradeId' });
