import type { Bound, Values } from '@gremium/contract';
import {
  type RangeSaid,
  type Register,
  daysOf,
  payRange,
  primaryPlacement,
  rangeIn,
  rangeParams,
} from '@gremium/core';
import { useTranslation } from 'react-i18next';
import type { Texts } from '../texts/en';
import { useFormat } from '../texts/format';

type Said = {
  amount: string;
  currency: string;
  basis: Values<'pay'>['basis'];
  /** What was paid before, if the same currency and basis. */
  before?: string | undefined;
  range?: RangeSaid | undefined;
};

/** A range in the form in which an amount is typed, and as the grade says it where that differs. */
export const useRangeInWords = () => {
  const { t } = useTranslation();
  const format = useFormat();
  return (range: RangeSaid): string => {
    const { minimum, maximum, weekly, gradeMinimum, gradeMaximum, gradeHours } = rangeParams(range);
    const words = {
      ...{ minimum: format.amount(minimum), maximum: format.amount(maximum), weekly: format.decimal(weekly) },
      ...{ gradeMinimum: format.amount(gradeMinimum), gradeMaximum: format.amount(gradeMaximum) },
      gradeHours: format.decimal(gradeHours),
    };
    return [t('slip.range', words), range.grade && t('slip.rangeOfGrade', words)].filter(Boolean).join(' ');
  };
};

/** An amount of pay said back: "26,400.00 EUR a month, +2.9 %, range 2,050 to 3,000 at 37.5 h a week". */
export const usePayInWords = () => {
  const { t } = useTranslation();
  const format = useFormat();
  const rangeInWords = useRangeInWords();
  return ({ amount, currency, basis, before, range }: Said): string =>
    [
      `${format.amount(amount)} ${currency} ${t(`choice.${basis as keyof Texts['choice']}`)}`,
      before &&
        Number(before) > 0 &&
        before !== amount &&
        format.changeOf(Number(amount) / Number(before) - 1),
      range && rangeInWords(range),
    ]
      .filter(Boolean)
      .join(', ');
};

/** The range that pay of an employment is compared with on a day, in its form, as far as the register given knows it. */
export const rangeOfEmployment = (
  register: Register,
  pay: Pick<Values<'pay'>, 'employmentId' | 'currency' | 'basis' | 'rate'>,
  on: Bound,
): RangeSaid | undefined => {
  const placement = primaryPlacement(register, pay.employmentId, on)?.values;
  const gradeId = placement && register.at('position', placement.positionId, on)?.gradeId;
  const range = gradeId ? payRange(register, gradeId, pay.currency, on) : undefined;
  if (!placement || !range) return undefined;
  const { hours, fullTime } = placement;
  return rangeIn(pay, { gradeId: gradeId ?? null, hours, fullTime, days: daysOf(register, pay, on) }, range);
};
