// Roll-ups of the days looked at last, while nothing is recorded: unfolding a unit asks again for the same day.
import { type DayRollUp, type Facts, dayRollUp } from '@gremium/core';
import type { Asking } from '../time/questions';

const MOST_DAYS = 6;

const kept = new WeakMap<Facts, { number: number; days: Map<string, DayRollUp> }>();

/** The roll-up of the day that is looked at, with pay where the viewer may see it. */
export const rolledUp = ({ facts, number, sight, looking }: Asking): DayRollUp => {
  const withPay = sight.has('pay');
  const known = kept.get(facts);
  const days = known?.number === number ? known.days : new Map<string, DayRollUp>();
  if (days !== known?.days) kept.set(facts, { number, days });
  const key = `${looking.on} ${withPay}`;
  const rolled = days.get(key) ?? dayRollUp(facts, looking.on, { withPay });
  days.delete(key);
  days.set(key, rolled);
  const [oldest] = days.keys();
  if (days.size > MOST_DAYS && oldest !== undefined) days.delete(oldest);
  return rolled;
};
