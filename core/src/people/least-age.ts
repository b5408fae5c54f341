// How old somebody must be on their first day, by the table that the organisation keeps.
import type { Bound, Values } from '@gremium/contract';
import { inherited, unitChain } from '../structure/tree';
import type { Register } from '../time/register';
import { primaryPlacement } from './employments';

/** Where nothing is kept, somebody younger is taken for a typing error. */
export const HARDLY = { least: 14, most: 90 };

// What a row says counts the more the more it says: at sea before a worker type, this before a country.
const weightOf = ({ atSea, workerTypeId, country }: Values<'least_age'>): number =>
  (atSea ? 4 : 0) + (workerTypeId === null ? 0 : 2) + (country === null ? 0 : 1);

/**
 * The least age in years on a day for an employment, by the row of the table that says most of its country (that of the
 * position's location, else of the legal entity), its worker type, and whether its unit is at sea; the higher of two. None
 * where no row fits.
 */
export const leastAgeOf = (
  register: Register,
  { thing, values }: { thing: number; values: Values<'employment'> },
  on: Bound,
): number | null => {
  const placement = primaryPlacement(register, thing, on)?.values;
  const position = placement && register.at('position', placement.positionId, on);
  const locationId = position ? inherited(register, position, 'locationId', on).value : null;
  const country =
    (locationId === null ? undefined : register.at('location', locationId, on)?.country) ??
    register.at('legal_entity', values.legalEntityId, on)?.country ??
    null;
  const isAtSea =
    position !== undefined &&
    unitChain(register, position.unitId, on).some((id) => {
      const kindId = register.at('unit', id, on)?.kindId;
      return kindId !== undefined && register.at('list_entry', kindId, on)?.flags.atSea === true;
    });
  const fitting = [...register.allOn('least_age', on)]
    .map((row) => row.values)
    .filter(
      (row) =>
        (row.country === null || row.country === country) &&
        (row.workerTypeId === null || row.workerTypeId === values.workerTypeId) &&
        (!row.atSea || isAtSea),
    )
    .sort((a, b) => weightOf(b) - weightOf(a) || b.age - a.age);
  return fitting[0]?.age ?? null;
};
