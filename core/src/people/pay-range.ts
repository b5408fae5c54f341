import type { Bound, Problem, Values } from '@gremium/contract';
import type { Register } from '../time/register';
import { isOn } from '../time/calendar';
import { problem } from '../time/problem';
import {
  type Fraction,
  ZERO,
  divided,
  exceeds,
  fraction,
  isZero,
  minus,
  plus,
  rounded,
  times,
} from '../structure/fraction';
import { placesOf } from './currency-places';
import { type Week, decimal, monthly } from './yearly';

/** The grade of somebody's position, with the hours they work, full-time hours there and the days that pay goes by (hundredths a week). */
export type Worked = Week & { gradeId: number | null; hours: number };

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
const forHours = (pay: Paid, worked: Worked, range: Values<'grade_range'>): Fraction =>
  times(monthly(pay, worked), fraction(range.fullTime, hoursOf(pay, worked)));

// The hours that an amount is said for.
const hoursOf = ({ rate }: Pick<Paid, 'rate'>, { hours, fullTime }: Worked): number =>
  rate === 'full_time' ? fullTime : hours;

/** A range in the form in which an amount is typed, and as the grade says it (a month, at its own hours). */
export type RangeSaid = {
  /** Bounds as decimal text, both inside, in the places that the currency has. */
  minimum: string;
  maximum: string;
  currency: string;
  basis: Values<'pay'>['basis'];
  /** Hours a week that the amount is said for, in hundredths. */
  hours: number;
  /** The range itself; null where it says the same. */
  grade: { minimum: string; maximum: string; hours: number } | null;
};

/** Says a range in the form of a pay component: at full-time rate or as actually paid, an hour, a day, a month, a year. */
export const rangeIn = (
  pay: Pick<Paid, 'basis' | 'rate' | 'timesAYear'>,
  worked: Worked,
  range: Values<'grade_range'>,
): RangeSaid => {
  const hours = hoursOf(pay, worked);
  const { currency, minimum, maximum } = range;
  // what one of the amount comes to in the hours of the range
  const one = forHours({ ...pay, kindId: 0, amount: '1', currency }, worked, range);
  const places = placesOf(currency);
  const isSame = hours === range.fullTime && pay.basis === 'month';
  return {
    minimum: inside(divided(decimal(minimum), one), places, 'up'),
    maximum: inside(divided(decimal(maximum), one), places, 'down'),
    ...{ currency, basis: pay.basis, hours },
    grade: isSame ? null : { minimum, maximum, hours: range.fullTime },
  };
};

// The first amount inside a bound.
const inside = (bound: Fraction, places: number, way: 'up' | 'down'): string => {
  const near = rounded(bound, places);
  const step = fraction(1, 10n ** BigInt(places));
  const isOut = way === 'up' ? exceeds(bound, decimal(near)) : exceeds(decimal(near), bound);
  if (!isOut) return near;
  return rounded(way === 'up' ? plus(decimal(near), step) : minus(decimal(near), step), places);
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

/** A range as parameters of a sentence: hours a week as decimal text. */
export const rangeParams = ({ minimum, maximum, currency, basis, hours, grade }: RangeSaid) => ({
  ...{ minimum, maximum, currency, basis, weekly: hoursText(hours) },
  gradeMinimum: grade?.minimum ?? minimum,
  gradeMaximum: grade?.maximum ?? maximum,
  gradeHours: hoursText(grade?.hours ?? hours),
});
const hoursText = (hours: number): string => rounded(fraction(hours, 100), 2).replace(/\.?0+$/, '');

/** Base pay outside the range of the grade on a day: a warning naming the range in the form of the pay (`pay_outside_range`). */
export const payOutsideRange = (register: Register, pay: Paid, worked: Worked, on: Bound): Problem[] => {
  const place = payPlace(register, pay, worked, on);
  if (!place?.isOutside) return [];
  return [
    problem(
      'pay_outside_range',
      { amount: pay.amount, ...rangeParams(rangeIn(pay, worked, place.range)) },
      'pay',
    ),
  ];
};
