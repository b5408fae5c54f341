import type { Bound, Problem, Values } from '@gremium/contract';
import type { Register } from '../time/register';
import { isOn } from '../time/calendar';
import { problem } from '../time/problem';
import { exceeds, fraction, times } from '../structure/fraction';
import { yearly } from './yearly';

type Worked = { gradeId: number | null; hours: number; fullTime: number };

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

/**
 * Base pay outside the range of the grade (bounds are inside) on a day, compared at full time: a warning naming the range.
 * No grade, no range in the currency, or another kind of pay: nothing to compare with.
 */
export const payOutsideRange = (
  register: Register,
  pay: Pick<Values<'pay'>, 'kindId' | 'amount' | 'currency' | 'basis' | 'rate'>,
  { gradeId, hours, fullTime }: Worked,
  on: Bound,
): Problem[] => {
  const isBase = register.rows('list_entry', pay.kindId)[0]?.values.flags.base === true;
  if (!isBase || gradeId === null || hours === 0) return [];
  const range = payRange(register, gradeId, pay.currency, on);
  if (!range) return [];
  const paid = yearly(pay, fullTime);
  const atFullTime = pay.rate === 'full_time' ? paid : times(paid, fraction(fullTime, hours));
  const bound = (amount: string) => yearly({ amount, basis: 'month' }, fullTime);
  const isInside = !exceeds(bound(range.minimum), atFullTime) && !exceeds(atFullTime, bound(range.maximum));
  if (isInside) return [];
  const { minimum, maximum, currency } = range;
  return [problem('pay_outside_range', { amount: pay.amount, minimum, maximum, currency }, 'pay')];
};
