import type { Day } from '@gremium/contract';
import { BEGINNING, OPEN, addDays, completedYears, isBefore, isOn } from '../time/calendar';
import type { Register } from '../time/register';
import { mainEmployment, spellsOf } from './employments';

/** Completed years of service from a first to a last day, both worked: 1 January 2020 to 31 December 2024 are 5. */
export const yearsOfService = (first: Day, last: Day): number => completedYears(first, addDays(last, 1));

/**
 * Completed years of tenure on a day: from the seniority date, else the first day of the present employment; of leavers from
 * their last day on as of that day. Null before the first day, and where it lies in the unknown beginning.
 */
export const tenureOn = (register: Register, personId: number, on: Day): number | null => {
  const spells = spellsOf(register, personId);
  const spell = mainEmployment(spells, on) ?? spells.filter(({ from }) => isBefore(from, on)).at(-1);
  if (!spell || spell.from === BEGINNING) return null;
  const row = spell.rows.find((version) => isOn(version, on)) ?? spell.rows.at(-1);
  const first = row?.values.seniorityDate ?? (spell.from as Day);
  const last = spell.until === OPEN ? null : (addDays(spell.until, -1) as Day);
  return last !== null && last <= on ? yearsOfService(first, last) : completedYears(first, on);
};
