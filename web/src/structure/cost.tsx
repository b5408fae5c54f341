import { inOneCurrency } from '@gremium/core';
import { useTranslation } from 'react-i18next';
import { useLens } from '../frame/lens';
import { useFormat } from '../texts/format';
import { useReferenceRegister } from '../time/time.queries';

/** Costs a year in the organisation's own currency by the rates of the day; where one is missing, the largest, and the rest named. */
export const Cost = ({ cost }: { cost: Record<string, number> | null }) => {
  const { t } = useTranslation();
  const format = useFormat();
  const { on } = useLens();
  const register = useReferenceRegister();
  const all = Object.entries(cost ?? {}).sort(([, a], [, b]) => b - a);
  const [first, ...rest] = all;
  if (!first) return '–';
  const thousand = (amount: number, currency: string) =>
    `${format.number(Math.round(amount / 1000))} ${currency}`;
  const each = all.map(([currency, amount]) => format.money(amount, currency)).join(' · ');
  const whole = rest.length > 0 && register ? inOneCurrency(register, cost ?? {}, on) : null;
  if (whole && whole.missing.length === 0)
    return <span title={t('outline.byRates', { each })}>{thousand(whole.amount, whole.currency)}</span>;
  return (
    <span title={each}>
      {thousand(first[1], first[0])}
      {rest.length > 0 && (
        <span className="soft">
          {' + '}
          {rest.length < 3
            ? rest.map(([currency]) => currency).join(', ')
            : t('outline.currencies', { count: rest.length })}
        </span>
      )}
    </span>
  );
};
