// Hours that come to more than the FTE limit beside them: nobody could be hired for them.
import type { Bound, Problem, Row } from '@gremium/contract';
import { problem } from '../time/problem';
import type { Register } from '../time/register';
import { exceeds, fraction, rounded } from './fraction';
import { fullTimeOf } from './tree';

// Of hours and limit in hundredths; what would fit is said: fewer hours, or more FTE (the next hundredth).
const above = (hours: number | null, fullTime: number, fte: number | null, field: string): Problem[] => {
  if (hours === null || fte === null) return [];
  const share = fraction(hours, fullTime);
  if (!exceeds(share, fraction(fte, 100))) return [];
  const text = (of: number) => rounded(fraction(of, 100), 2).replace(/\.?0+$/, '');
  const most = Math.floor((fullTime * fte) / 100);
  const needed = Math.ceil((hours * 100) / fullTime);
  return [
    problem(
      'hours_above_fte',
      {
        ...{ weekly: text(hours), full: text(fullTime), limit: text(fte) },
        ...{ fitting: text(most), needed: text(needed) },
        share: rounded(share, 2),
      },
      field,
    ),
  ];
};

/** A job whose hours come to more than its FTE, at the full-time hours of the organisation (`hours_above_fte`). */
export const hoursOfJob = (register: Register, { values, from }: Row<'job'>): Problem[] => {
  for (const row of register.allOn('organisation', from))
    return above(values.hours, row.values.fullTime, values.fte, 'hours');
  return above(values.hours, 4000, values.fte, 'hours');
};

/** A position whose hours come to more than the FTE it may hold on a day, at the full-time hours there (`hours_above_fte`). */
export const hoursOfPosition = (register: Register, id: number, on: Bound): Problem[] => {
  const position = register.at('position', id, on);
  const limits = register.at('position_limits', id, on);
  if (!position || !limits || position.standing === 'closed') return [];
  return above(position.hours, fullTimeOf(register, position, on).hours, limits.fte, 'hours');
};
