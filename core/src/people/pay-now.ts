import type { Day, Row } from '@gremium/contract';
import { isOn } from '../time/calendar';
import type { Register } from '../time/register';
import { primaryPlacement } from './employments';
import { type PayPlace, payPlace } from './pay-range';
import { daysOf } from './yearly';

/** Where a pay component lies in the range of the grade of the primary placement on a day; none where there is none. */
export const payPlaceOn = (register: Register, pay: Row<'pay'>, on: Day): PayPlace | undefined => {
  const placement = primaryPlacement(register, pay.values.employmentId, on);
  if (!placement || !isOn(pay, on)) return undefined;
  const { hours, fullTime, positionId } = placement.values;
  const gradeId = register.at('position', positionId, on)?.gradeId ?? null;
  return payPlace(
    register,
    pay.values,
    { gradeId, hours, fullTime, days: daysOf(register, pay.values, on) },
    on,
  );
};
