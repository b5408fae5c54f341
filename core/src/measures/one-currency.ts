import type { Bound } from '@gremium/contract';
import type { Register } from '../time/register';

/** A cost in the organisation's own currency on a day, and where rates are missing the currencies that have none. */
export type OneCurrency = { currency: string; amount: number; missing: readonly string[] };

/**
 * Amounts of several currencies in the organisation's own, by the rates of a day (so many units for one of its own). Null before
 * the organisation is described; where a rate is missing there is no amount worth saying (`missing` names the currencies).
 */
export const inOneCurrency = (
  register: Register,
  amounts: Readonly<Record<string, number>>,
  on: Bound,
): OneCurrency | null => {
  const [organisation] = register.allOn('organisation', on);
  if (!organisation) return null;
  const { currency } = organisation.values;
  const rates = new Map<string, number>([[currency, 1]]);
  for (const { values } of register.allOn('exchange_rate', on))
    if (!rates.has(values.code)) rates.set(values.code, Number(values.rate));
  let amount = 0;
  const missing: string[] = [];
  for (const [of, n] of Object.entries(amounts)) {
    const rate = rates.get(of);
    if (rate === undefined) missing.push(of);
    else amount += n / rate;
  }
  return { currency, amount, missing };
};
