import type { Bound, Row } from '@gremium/contract';
import type { Register } from '../time/register';
import { type Period, byFrom, isBefore, isOn, uncovered } from '../time/calendar';
import { personOf } from '../people/employments';
import { hundredths } from './fraction';
import { handovers, heldShare, takesNothing } from './occupancy';

type Holding = Row<'placement'>;

/** Placements in a position, earliest first; of one person with the same share on and on, joined to one for reading. */
export const holdings = (register: Register, positionId: number): Holding[] => {
  const joined: Holding[] = [];
  const keyOf = ({ values, from }: Holding) =>
    [personOf(register, values, from), values.kind, hundredths(heldShare(values))].join();
  for (const row of register.referrers('placement', 'positionId', positionId).sort(byFrom)) {
    const at = joined.findIndex((other) => other.until === row.from && keyOf(other) === keyOf(row));
    const before = joined[at];
    if (before) joined[at] = { ...row, from: before.from };
    else joined.push(row);
  }
  return joined.sort(byFrom);
};

/** A holding with its share, and the shares it stands on where several hold side by side (both in hundredths of FTE). */
export type Stacked = { row: Holding; share: number; foot: number };

/** Holdings that take up the position, each standing on those that began before it; a leaver in a handover carries nobody. */
export const stackedHoldings = (register: Register, positionId: number, on: Bound): Stacked[] => {
  const rows = holdings(register, positionId).filter(({ values }) => !takesNothing(values));
  const leaving = handovers(rows, register.at('position_limits', positionId, on)?.handoverDays ?? 0);
  const carries = (other: Holding, day: Bound): boolean => {
    const since = leaving.get(other.thing);
    return isOn(other, day) && (since === undefined || isBefore(day, since));
  };
  const shareOf = ({ values }: Holding) => hundredths(heldShare(values));
  return rows.map((row, i) => ({
    row,
    share: shareOf(row),
    foot: rows
      .slice(0, i)
      .filter((other) => carries(other, row.from))
      .reduce((sum, other) => sum + shareOf(other), 0),
  }));
};

/** Periods in which the position is in force and nobody holds it. */
export const vacancies = (register: Register, positionId: number): Period[] => {
  const held = register
    .referrers('placement', 'positionId', positionId)
    .filter(({ values }) => !takesNothing(values));
  return register
    .rows('position', positionId)
    .filter(({ values }) => values.standing === 'in_force')
    .flatMap((row) => uncovered(row, held));
};
