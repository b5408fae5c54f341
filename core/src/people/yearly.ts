import type { Values } from '@gremium/contract';
import { type Fraction, fraction, times } from '../structure/fraction';

/** A year's pay of a component, exact: 12 months = 52 weeks of the full-time hours (in hundredths) = 260 days. */
export const yearly = (
  { amount, basis }: Pick<Values<'pay'>, 'amount' | 'basis'>,
  fullTime: number,
): Fraction => {
  const factor = {
    year: fraction(1),
    month: fraction(12),
    day: fraction(260),
    hour: fraction(52 * fullTime, 100),
  }[basis];
  return times(decimal(amount), factor);
};

/** Decimal text as an exact fraction. */
export const decimal = (text: string): Fraction => {
  const [whole = '0', part = ''] = text.split('.');
  return fraction(BigInt(whole + part), 10n ** BigInt(part.length));
};
