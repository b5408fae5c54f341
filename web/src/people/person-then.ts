import type { Day } from '@gremium/contract';
import {
  absencesOf,
  byFrom,
  couldGoOn,
  isBefore,
  isOn,
  lastDay,
  mainEmployment,
  placementOf,
  spellsOf,
  spokenName,
  standsAside,
  statusOf,
} from '@gremium/core';
import type { LoadedPerson } from './person-record';

/** What somebody is and does on a day, as far as the record shows it: the employment that is main, else coming, else last. */
export const personThen = ({ id, register }: LoadedPerson, on: Day) => {
  const names = register.rows('person_name', id);
  const spells = spellsOf(register, id);
  const main = mainEmployment(spells, on) ?? spells.find(({ from }) => isBefore(on, from)) ?? spells.at(-1);
  const status = statusOf(register, id, on);
  const here = placementOf(register, id, on);
  // whoever left is shown where they were last
  const lastDayThere = status === 'left' && main ? lastDay(main) : null;
  const placement = here ?? (lastDayThere ? placementOf(register, id, lastDayThere) : undefined);
  const day = here ? on : (lastDayThere ?? on);
  return {
    name: spokenName((names.find((row) => isOn(row, on)) ?? names[0])?.values as never),
    number: register.rows('person', id)[0]?.values.number,
    main,
    employment: main?.rows.find((row) => isOn(row, on)) ?? main?.rows[0],
    placement,
    position: placement && register.at('position', placement.values.positionId, day),
    /** It is over: the last one of somebody who left. */
    isPast: here === undefined,
    status,
    /** It has a last day, and could go on after it. */
    isEnding: main !== undefined && couldGoOn(register, main.id),
    /** Some of their hours are away, on the day or later. */
    isAbsent:
      main !== undefined &&
      register
        .referrers('placement', 'employmentId', main.id)
        .some(
          ({ values, until }) => values.kind === 'primary' && values.awayHours > 0 && isBefore(on, until),
        ),
    /** The absence on the day, or the next one, for whoever may see why somebody is away. */
    absence: main && absencesOf(register, main.id).find(({ until }) => isBefore(on, until))?.thing,
    /** Where they stand in for others, or hold a second place, on the day or later. */
    standIn: main
      ? register
          .referrers('placement', 'employmentId', main.id)
          .filter(({ values, until }) => standsAside(values) && isBefore(on, until))
          .sort(byFrom)[0]?.thing
      : undefined,
    /** Where they are for a time, on the day or later. */
    forATime: main
      ? register
          .referrers('placement', 'employmentId', main.id)
          .filter(({ values, until }) => values.kind === 'temporary' && isBefore(on, until))
          .sort(byFrom)[0]?.thing
      : undefined,
  };
};

export type PersonThen = ReturnType<typeof personThen>;
