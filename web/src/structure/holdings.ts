import type { Row } from '@gremium/contract';
import { type Register, byFrom, personOf } from '@gremium/core';

/** Placements in a position, earliest first; of one person with the same share on and on, joined to one for reading. */
export const holdings = (register: Register, positionId: number): Row<'placement'>[] => {
  const joined: Row<'placement'>[] = [];
  const keyOf = (row: Row<'placement'>) => {
    const { kind, hours, fullTime } = row.values;
    return [personOf(register, row.values, row.from), kind, hours, fullTime].join();
  };
  for (const row of [...register.referrers('placement', 'positionId', positionId)].sort(byFrom)) {
    const at = joined.findIndex((other) => other.until === row.from && keyOf(other) === keyOf(row));
    const before = joined[at];
    if (before) joined[at] = { ...row, from: before.from };
    else joined.push(row);
  }
  return joined.sort(byFrom);
};
