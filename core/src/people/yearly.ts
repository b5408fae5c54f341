import type { Values } from '@gremium/contract';
import { type Fraction, fraction, times } from '../structure/fraction';

/** As much of a pay component as says what it comes to. */
export type Amounting = Pick<Values<'pay'>, 'amount' | 'basis'> & Partial<Pick<Values<'pay'>, 'timesAYear'>>;

/**
 * A year's pay of a component, exact: 12 months, or as many as are paid, = 52 weeks of the full-time hours (in hundredths) =
 * 260 days; of what is paid each time, the times of a year.
 */
export const yearly = ({ amount, basis, timesAYear = null }: Amounting, fullTime: number): Fraction => {
  const factor = {
    year: fraction(1),
    month: fraction(timesAYear ?? 12),
    day: fraction(260),
    hour: fraction(52 * fullTime, 100),
    time: fraction(timesAYear ?? 1),
  }[basis];
  return times(decimal(amount), factor);
};

/** A month's pay of a component, exact: of a month as it stands, however many are paid; of all else a twelfth of the year's. */
export const monthly = (pay: Amounting, fullTime: number): Fraction =>
  pay.basis === 'month' ? decimal(pay.amount) : times(yearly(pay, fullTime), fraction(1, 12));

/** Decimal text as an exact fraction. */
export const decimal = (text: string): Fraction => {
  const [whole = '0', part = ''] = text.split('.');
  return fraction(BigInt(whole + part), 10n ** BigInt(part.length));
};
