import type { Catalogue, Change, Row } from '@gremium/contract';
import { type Period, uncovered } from './calendar';

/** Periods in which a thing exists because of an entry: what it recorded of its existence, without what it replaced. */
export const madePossible = (
  { recorded, superseded }: Change,
  catalogue: Catalogue,
): Map<number, Period[]> => {
  const isBase = (row: Row) => catalogue.section(row.section).base;
  const possible = new Map<number, Period[]>();
  const old = new Map<number, Row[]>();
  for (const row of superseded) if (isBase(row)) old.set(row.thing, [...(old.get(row.thing) ?? []), row]);
  for (const row of recorded.filter(isBase)) {
    const before = old.get(row.thing) ?? [];
    const periods = uncovered(row, before);
    if (periods.length > 0) possible.set(row.thing, [...(possible.get(row.thing) ?? []), ...periods]);
  }
  return possible;
};
