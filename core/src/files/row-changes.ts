import type { Change, Row, RowChange } from '@gremium/contract';
import { isEqual } from '../time/timeline';

const isOf = (row: Row, old: Row): boolean =>
  old.section === row.section && old.thing === row.thing && old.from <= row.from && row.from < old.until;

/** What a change does to each value, old and new: of versions that begin with it; what is left of an old one did not change. */
export const rowChanges = ({ recorded, superseded }: Change): RowChange[] =>
  recorded.flatMap((row) => {
    const old = superseded.find((one) => isOf(row, one));
    if (old && isEqual(old.values, row.values)) return [];
    const [was, is] = [(old?.values ?? {}) as Record<string, unknown>, row.values as Record<string, unknown>];
    return Object.keys(is)
      .filter((field) => !isEqual(was[field] ?? null, is[field] ?? null))
      .map((field) => ({
        section: row.section,
        field,
        from: row.from,
        was: was[field] ?? null,
        is: is[field] ?? null,
      }));
  });
