import type { Bound, Values } from '@gremium/contract';
import { type Register, payRange, primaryPlacement } from '@gremium/core';
import { useTranslation } from 'react-i18next';
import type { Texts } from '../texts/en';
import { useFormat } from '../texts/format';

type Said = {
  amount: string;
  currency: string;
  basis: Values<'pay'>['basis'];
  /** What was paid before, if the same currency and basis. */
  before?: string | undefined;
  range?: Pick<Values<'grade_range'>, 'minimum' | 'maximum'> | undefined;
};

/** An amount of pay said back: "26,400.00 EUR a month, +2.9 %, range 2,050–3,000". */
export const usePayInWords = () => {
  const { t } = useTranslation();
  const format = useFormat();
  return ({ amount, currency, basis, before, range }: Said): string =>
    [
      `${format.amount(amount)} ${currency} ${t(`choice.${basis as keyof Texts['choice']}`)}`,
      before &&
        Number(before) > 0 &&
        before !== amount &&
        format.changeOf(Number(amount) / Number(before) - 1),
      range &&
        t('slip.range', { minimum: format.decimal(range.minimum), maximum: format.decimal(range.maximum) }),
    ]
      .filter(Boolean)
      .join(', ');
};

/** The range that pay of an employment is compared with on a day, as far as the register given knows it. */
export const rangeOfEmployment = (
  register: Register,
  employmentId: number,
  currency: string,
  on: Bound,
): Values<'grade_range'> | undefined => {
  const placement = primaryPlacement(register, employmentId, on)?.values;
  const gradeId = placement && register.at('position', placement.positionId, on)?.gradeId;
  return gradeId ? payRange(register, gradeId, currency, on) : undefined;
};
