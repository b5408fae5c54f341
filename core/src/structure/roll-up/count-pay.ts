// What employments cost in a year, by unit and currency.
import { daysOf } from '../../people/yearly';
import { boundOf } from '../../time/calendar';
import type { Facts } from '../../measures/facts';
import { NONE, type Words } from '../../time/table';
import type { MoneySums } from '../exact-sums';
import { type Holdings, type Positions, isThen } from './that-day';

type Paying = { holdings: Holdings; positions: Positions; cost: MoneySums };

// Base pay and allowances of the employment fall on each placement by its share of the hours contracted in all.
/** Adds the yearly pay of a day to the units in which it is earned, by currency. */
export const countPay = (
  { columns }: Facts,
  day: number,
  { holdings: { slots, cells, hours }, positions: { unit }, cost }: Paying,
): void => {
  const pay = columns.table('pay');
  const employments = pay.column('employmentId');
  const { data: amounts, words } = pay.field('amount');
  const texts = (name: 'currency' | 'basis' | 'rate') => {
    const { data, words } = pay.field(name);
    return (slot: number) => words.texts[data[slot] as number] as string;
  };
  const [currency, basis, rate] = [texts('currency'), texts('basis'), texts('rate')];
  const exactly = amountsOf(words);
  const timesAYear = pay.column('timesAYear');
  // the day's placements by employment: the first of them and the next (1 is slot 0)
  const first = new Int32Array(hours.length);
  const next = new Int32Array(columns.table('placement').size);
  for (const slot of slots) {
    const employment = cells.employmentId[slot] as number;
    next[slot] = first[employment] as number;
    first[employment] = slot + 1;
  }
  for (let row = 0; row < pay.size; row++) {
    if (!isThen(pay, row, day)) continue;
    const employment = employments[row] as number;
    const per = basis(row);
    const times = timesAYear[row] === NONE ? null : (timesAYear[row] as number);
    // in hundredths where it goes by hours or days of the week
    const perYear = { month: times ?? 12, year: 1, time: times ?? 1 }[per as 'month'];
    const isOfWeek = per === 'hour' || per === 'day';
    const days =
      per === 'day'
        ? daysOf(
            columns,
            {
              employmentId: columns.thingsOf('employment').ids[employment] as number,
              rate: rate(row) as 'actual',
            },
            boundOf(day),
          )
        : 0;
    for (let slot = (first[employment] as number) - 1; slot >= 0; slot = (next[slot] as number) - 1) {
      const at = unit[cells.positionId[slot] as number] as number;
      if (at < 0) continue;
      const part = (cells.hours[slot] as number) - (cells.lentHours[slot] as number);
      const week = cells.fullTime[slot] as number;
      const factor = isOfWeek ? 52 * (per === 'hour' ? week : days) : perYear;
      const whole = rate(row) === 'full_time' ? week : hours[employment] || 1;
      const [share, of] = part === whole ? [1, 1] : [part, whole];
      const amount = exactly[amounts[row] as number] as number;
      const num = amount * factor * share;
      const exact = Number.isSafeInteger(num)
        ? num
        : BigInt(tenThousandths(words.texts[amounts[row] as number] as string)) * BigInt(factor * share);
      cost.add(at, currency(row), exact, 10_000 * (isOfWeek ? 100 : 1) * of);
    }
  }
};

// Decimal text, at most four places, as the digits of a whole number of ten-thousandths.
const tenThousandths = (text: string): string => {
  const [whole = '0', part = ''] = text.split('.');
  return whole + part.padEnd(4, '0');
};

// All amounts there are, in ten-thousandths: read from their texts once, as texts are only ever added.
const known = new WeakMap<Words, number[]>();
const amountsOf = (words: Words): readonly number[] => {
  const found = known.get(words) ?? [];
  known.set(words, found);
  for (let i = found.length; i < words.texts.length; i++)
    found.push(Number(tenThousandths(words.texts[i] as string)));
  return found;
};
