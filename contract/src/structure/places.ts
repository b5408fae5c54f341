import { z } from 'zod';
import {
  Hundredths,
  code,
  country,
  currency,
  decimal,
  hours,
  refTo,
  section,
  text,
  timeZone,
  whole,
} from '../time/section';

export const LegalEntity = z.strictObject({
  code: code(),
  name: text(),
  country: country(),
  currency: currency(),
});
export type LegalEntity = z.infer<typeof LegalEntity>;
export const legalEntity = section('legal_entity', 'legal_entity', LegalEntity, { scope: 'everybody' });

export const Location = z.strictObject({
  code: code(),
  name: text(),
  city: text(),
  country: country(),
  timeZone: timeZone(),
  /** Full-time hours a week here; none means the organisation's. */
  fullTime: hours(Hundredths.min(1)).nullable(),
});
export type Location = z.infer<typeof Location>;
export const location = section('location', 'location', Location, { scope: 'everybody' });

export const CostCentre = z.strictObject({ code: code(), name: text() });
export type CostCentre = z.infer<typeof CostCentre>;
export const costCentre = section('cost_centre', 'cost_centre', CostCentre, { scope: 'everybody' });

export const Grade = z.strictObject({
  code: code(),
  name: text(),
  level: whole(0, 99),
  steps: whole(1, 40),
});
export type Grade = z.infer<typeof Grade>;
export const grade = section('grade', 'grade', Grade, { scope: 'everybody' });

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
export const gradeRange = section('grade_range', 'grade_range', GradeRange, { owner: 'gradeId' });
