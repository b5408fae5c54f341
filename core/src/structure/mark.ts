import type { Bound, Standing } from '@gremium/contract';
import type { Register } from '../time/register';
import { type Occupancy, positionState } from './occupancy';

/** What an occupancy mark shows: a standing other than in force wins over occupancy. */
export type Mark = Occupancy | Exclude<Standing, 'in_force'>;

/** Marks of positions in the order in which they are shown. */
export const marksInOrder: readonly Mark[] = [
  'vacant',
  'part_filled',
  'filled',
  'over_held',
  'planned',
  'on_hold',
  'closed',
];

/** The mark of a position on a day. */
export const markOf = (register: Register, positionId: number, on: Bound): Mark | undefined => {
  const standing = register.at('position', positionId, on)?.standing;
  if (standing !== 'in_force') return standing;
  return positionState(register, positionId, on).occupancy;
};

/** Whether somebody can be hired or transferred into a position on a day: in force, with something free or without limits. */
export const takesMore = (register: Register, positionId: number, on: Bound): boolean => {
  const mark = markOf(register, positionId, on);
  if (mark === 'vacant' || mark === 'part_filled') return true;
  const limits = register.at('position_limits', positionId, on);
  return mark === 'filled' && (limits?.places ?? null) === null && (limits?.fte ?? null) === null;
};
