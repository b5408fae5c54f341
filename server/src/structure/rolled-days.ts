// Roll-ups of the days looked at last, while nothing is recorded: unfolding a unit asks again for the same day.
import { type Countable, type DayRollUp, type Facts, type Parts, dayNumber, dayRollUp } from '@gremium/core';
import { LastKept } from '../time/last-kept';
import type { Asking } from '../time/questions';

const MOST_DAYS = 6;
/** What people may be counted by: where placements, employments and names may all be seen. */
export const COUNTED = ['placement', 'employment', 'person_name'] as const;

const kept = new WeakMap<Facts, LastKept<DayRollUp>>();

// Figures of a unit that is seen by its branch are whole: only other conditions count some of its people.
const isByBranch = (parts: Parts): boolean =>
  parts === 'all' ||
  parts.every(({ covering: { conditions } }) => conditions.every(({ type }) => type === 'branch'));

const countable = ({ sight, looking: { on } }: Asking): Countable | undefined => {
  const [people, pay, positions] = [
    sight.part(COUNTED),
    sight.part([...COUNTED, 'pay']),
    sight.part(['position']),
  ];
  if ([people, pay, positions].every(isByBranch)) return undefined;
  const day = dayNumber(on);
  const holds = (parts: Parts): Countable['people'] =>
    parts === 'all' ? () => true : (place) => parts.some((part) => part.holds(place, day));
  const ofPosition = holds(positions);
  return {
    people: holds(people),
    pay: holds(pay),
    positions: (position) => ofPosition({ position, employment: -1, person: -1 }),
  };
};

/** The roll-up of the day that is looked at, with pay where the viewer may see it. */
export const rolledUp = (asking: Asking): DayRollUp => {
  const {
    facts,
    number,
    sight,
    looking: { on, today },
  } = asking;
  const withPay = sight.has('pay');
  const only = countable(asking);
  const days = kept.get(facts) ?? new LastKept<DayRollUp>(MOST_DAYS);
  kept.set(facts, days);
  const { grants, personId } = sight.viewer;
  const whose = only ? JSON.stringify([grants, personId, today]) : '';
  return days.get(`${number} ${on} ${withPay} ${whose}`, () => dayRollUp(facts, on, { withPay, only }));
};
