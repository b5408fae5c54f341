import type { Bound } from '@gremium/contract';
import type { Register } from '../time/register';
import { managerPosition } from './manager';

/** Whether a position has nobody to report to on a day, and nobody confirmed that this is meant; closed ones need nobody. */
export const isUnconfirmedTop = (register: Register, positionId: number, on: Bound): boolean => {
  const position = register.at('position', positionId, on);
  if (!position || position.standing === 'closed' || position.confirmedTop) return false;
  return managerPosition(register, positionId, on) === null;
};
