import type { Bound, Row } from '@gremium/contract';
import { isOn } from '../time/calendar';
import type { Register } from '../time/register';
import { takesNothing } from './occupancy';
import { inherited } from './tree';

/** What a holder has otherwise than the position says: hours a week in hundredths, or the id of a cost centre. */
export type HolderDifference = {
  placement: Row<'placement'>;
  field: 'hours' | 'costCentreId';
  holder: number;
  position: number | null;
};

/** Holders of a position on a day whose hours or cost centre are not those of the position. */
export const holderDifferences = (register: Register, positionId: number, on: Bound): HolderDifference[] => {
  const position = register.at('position', positionId, on);
  if (!position) return [];
  return register
    .referrers('placement', 'positionId', positionId)
    .filter((row) => isOn(row, on) && !takesNothing(row.values))
    .flatMap((placement): HolderDifference[] => {
      const { hours, fullTime, costCentreId } = placement.values;
      const usual = position.hours ?? fullTime;
      const centre = costCentreId === null ? null : inherited(register, position, 'costCentreId', on).value;
      return [
        // several may share what one works: fewer hours than the position says are no difference there
        ...(position.hours !== null && hours !== usual
          ? [{ placement, field: 'hours' as const, holder: hours, position: usual }]
          : []),
        ...(costCentreId !== null && costCentreId !== centre
          ? [{ placement, field: 'costCentreId' as const, holder: costCentreId, position: centre }]
          : []),
      ];
    });
};
