import type { Bound, Status } from '@gremium/contract';
import type { Register } from '../time/register';
import { isBefore } from '../time/calendar';
import { mainEmployment, placementOf, spellsOf } from './employments';

/** Status of a person on a day: away where a long absence takes all hours of the primary placement not lent elsewhere. */
export const statusOf = (register: Register, personId: number, on: Bound): Status => {
  const spells = spellsOf(register, personId);
  if (!mainEmployment(spells, on)) return spells.some(({ from }) => isBefore(on, from)) ? 'coming' : 'left';
  const primary = placementOf(register, personId, on)?.values;
  const isAway = primary && primary.hours > 0 && primary.awayHours >= primary.hours - primary.lentHours;
  return isAway ? 'away' : 'at_work';
};
