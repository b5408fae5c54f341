import type { Bound, Values } from '@gremium/contract';
import { type Fraction, fraction, times } from '../structure/fraction';
import { isOn } from '../time/calendar';
import type { Register } from '../time/register';

/** As much of a pay component as says what it comes to. */
export type Amounting = Pick<Values<'pay'>, 'amount' | 'basis'> & Partial<Pick<Values<'pay'>, 'timesAYear'>>;

/** The week that pay by the hour or by the day goes by: full-time hours and days worked, both in hundredths. */
export type Week = { fullTime: number; days: number };

/** Days of the week that are worked at full time, in hundredths: those of the organisation, else five. */
export const usualDays = (register: Register, on: Bound): number => {
  for (const { values } of register.allOn('organisation', on))
    return values.workingDays ? values.workingDays.length * 100 : 500;
  return 500;
};

/**
 * Days of the week that pay of an employment goes by, in hundredths: at full-time rate those of the organisation, else those
 * of the contract, where it says some.
 */
export const daysOf = (
  register: Register,
  { employmentId, rate }: Pick<Values<'pay'>, 'employmentId' | 'rate'>,
  on: Bound,
): number => {
  if (rate === 'full_time') return usualDays(register, on);
  const own = register
    .referrers('contract', 'employmentId', employmentId)
    .find((row) => isOn(row, on) && row.values.daysAWeek !== null)?.values.daysAWeek;
  return own ?? usualDays(register, on);
};

/**
 * A year's pay of a component, exact: 12 months, or as many as are paid, = 52 weeks of the full-time hours or of the days
 * worked; of what is paid each time, the times of a year.
 */
export const yearly = (
  { amount, basis, timesAYear = null }: Amounting,
  { fullTime, days }: Week,
): Fraction => {
  const factor = {
    year: fraction(1),
    month: fraction(timesAYear ?? 12),
    day: fraction(52 * days, 100),
    hour: fraction(52 * fullTime, 100),
    time: fraction(timesAYear ?? 1),
  }[basis];
  return times(decimal(amount), factor);
};

/** A month's pay of a component, exact: of a month as it stands, however many are paid; of all else a twelfth of the year's. */
export const monthly = (pay: Amounting, week: Week): Fraction =>
  pay.basis === 'month' ? decimal(pay.amount) : times(yearly(pay, week), fraction(1, 12));

/** Decimal text as an exact fraction. */
export const decimal = (text: string): Fraction => {
  const [whole = '0', part = ''] = text.split('.');
  return fraction(BigInt(whole + part), 10n ** BigInt(part.length));
};
