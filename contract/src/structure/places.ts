import { z } from 'zod';
import {
  Code,
  Country,
  Currency,
  Decimal,
  Hundredths,
  Text,
  TimeZone,
  refTo,
  section,
} from '../time/section';

export const LegalEntity = z.strictObject({
  code: Code,
  name: Text,
  country: Country,
  currency: Currency,
});
export type LegalEntity = z.infer<typeof LegalEntity>;
export const legalEntity = section('legal_entity', 'legal_entity', LegalEntity);

export const Location = z.strictObject({
  code: Code,
  name: Text,
  city: Text,
  country: Country,
  timeZone: TimeZone,
  /** Full-time hours a week here; none means the organisation's. */
  fullTime: Hundredths.min(1).nullable(),
});
export type Location = z.infer<typeof Location>;
export const location = section('location', 'location', Location);

export const CostCentre = z.strictObject({ code: Code, name: Text });
export type CostCentre = z.infer<typeof CostCentre>;
export const costCentre = section('cost_centre', 'cost_centre', CostCentre);

export const Grade = z.strictObject({
  code: Code,
  name: Text,
  level: z.int().min(0).max(99),
  steps: z.int().min(1).max(40),
});
export type Grade = z.infer<typeof Grade>;
export const grade = section('grade', 'grade', Grade);

/** Minimum, middle and maximum of a grade in one currency, for a month at `fullTime` hours a week; bounds are inside. */
export const GradeRange = z.strictObject({
  gradeId: refTo('grade'),
  currency: Currency,
  minimum: Decimal,
  middle: Decimal,
  maximum: Decimal,
  fullTime: Hundredths.min(1),
});
export type GradeRange = z.infer<typeof GradeRange>;
export const gradeRange = section('grade_range', 'grade_range', GradeRange);
