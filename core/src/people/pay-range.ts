import type { Bound, Problem, Values } from '@gremium/contract';
import type { Register } from '../time/register';
import { isOn } from '../time/calendar';
import { problem } from '../time/problem';
import { type Fraction, ZERO, divided, exceeds, fraction, isZero, minus, times } from '../structure/fraction';
import { decimal, monthly } from './yearly';

/** The grade of somebody's position, with the hours they work and full-time hours there (in hundredths a week). */
export type Worked = { gradeId: number | null; hours: number; fullTime: number };

/** A pay component, as it is compared with a range. */
export type Paid = Pick<Values<'pay'>, 'kindId' | 'amount' | 'currency' | 'basis' | 'rate'> &
  Partial<Pick<Values<'pay'>, 'timesAYear'>>;

/** The pay range of a grade in a currency on a day; none where the grade has none. */
export const payRange = (
  register: Register,
  gradeId: number,
  currency: string,
  on: Bound,
): Values<'grade_range'> | undefined =>
  register
    .referrers('grade_range', 'gradeId', gradeId)
    .find((row) => row.values.currency === currency && isOn(row, on))?.values;

/** Whether a pay component is base pay. */
export const isBasePay = (register: Register, { kindId }: Pick<Paid, 'kindId'>): boolean =>
  register.rows('list_entry', kindId)[0]?.values.flags.base === true;

// A month's pay for as many hours as the range stands for.
const forHours = (pay: Paid, { hours, fullTime }: Worked, range: Values<'grade_range'>): Fraction => {
  const paid = monthly(pay, fullTime);
  const worked = pay.rate === 'full_time' ? fullTime : hours;
  return times(paid, fraction(range.fullTime, worked));
};

/** Where base pay lies in the range of a grade, exact; both at the hours that the range stands for. */
export type PayPlace = {
  range: Values<'grade_range'>;
  /** Pay ÷ middle of the range; null where that is nothing. */
  compaRatio: Fraction | null;
  /** From 0 (the minimum) to 1 (the maximum); outside of both where pay is; null for a range of one amount. */
  placeInRange: Fraction | null;
  isOutside: boolean;
};

/** Where base pay lies in the range of the grade on a day (or a given one; bounds are inside); none where there is none. */
export const payPlace = (
  register: Register,
  pay: Paid,
  worked: Worked,
  on: Bound,
  given?: Values<'grade_range'>,
): PayPlace | undefined => {
  const { gradeId, hours } = worked;
  if (!isBasePay(register, pay) || gradeId === null || hours === 0) return undefined;
  const range = given ?? payRange(register, gradeId, pay.currency, on);
  if (!range) return undefined;
  const paid = forHours(pay, worked, range);
  const [least, middle, most] = [range.minimum, range.middle, range.maximum].map(decimal) as [
    Fraction,
    Fraction,
    Fraction,
  ];
  const width = minus(most, least);
  return {
    range,
    compaRatio: isZero(middle) ? null : divided(paid, middle),
    placeInRange: exceeds(width, ZERO) ? divided(minus(paid, least), width) : null,
    isOutside: exceeds(least, paid) || exceeds(paid, most),
  };
};

/** Base pay outside the range of the grade on a day: a warning naming the range (`pay_outside_range`). */
export const payOutsideRange = (register: Register, pay: Paid, worked: Worked, on: Bound): Problem[] => {
  const place = payPlace(register, pay, worked, on);
  if (!place?.isOutside) return [];
  const { minimum, maximum, currency } = place.range;
  return [problem('pay_outside_range', { amount: pay.amount, minimum, maximum, currency }, 'pay')];
};
