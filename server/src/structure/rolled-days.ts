// Roll-ups of the days looked at last, while nothing is recorded: unfolding a unit asks again for the same day.
import { type DayRollUp, type Facts, dayRollUp } from '@gremium/core';
import { LastKept } from '../time/last-kept';
import type { Asking } from '../time/questions';

const MOST_DAYS = 6;

const kept = new WeakMap<Facts, LastKept<DayRollUp>>();

/** The roll-up of the day that is looked at, with pay where the viewer may see it. */
export const rolledUp = ({ facts, number, sight, looking: { on } }: Asking): DayRollUp => {
  const withPay = sight.has('pay');
  const days = kept.get(facts) ?? new LastKept<DayRollUp>(MOST_DAYS);
  kept.set(facts, days);
  return days.get(`${number} ${on} ${withPay}`, () => dayRollUp(facts, on, { withPay }));
};
