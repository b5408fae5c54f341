// Which days of which things lie inside a viewer's part of the organisation, worked out on a register. Reading does the
// same in SQL (server/src/access/scope.sql.ts); the walk over all endpoints compares both with a brute-force filter.
import type { Change, Day, Grant, May, Row, SectionName } from '@gremium/contract';
import { may } from '@gremium/contract';
import { type Period, uncovered } from '../time/calendar';
import type { Register } from '../time/register';
import { difference } from '../time/timeline';
import type { Version } from '../time/timeline';
import { rowInside } from './inside';
import type { Named } from './owner';

/** Days on which a change really changes something. */
export type Write = Named & Period;

/** The days a change really changes, per section and thing. */
export const changedDays = ({ recorded, superseded }: Change): Write[] => {
  const groups = new Map<string, { before: Row[]; after: Row[] }>();
  const group = (row: Row) => {
    const key = `${row.section} ${row.thing}`;
    const found = groups.get(key) ?? { before: [], after: [] };
    groups.set(key, found);
    return found;
  };
  for (const row of superseded) group(row).before.push(row);
  for (const row of recorded) group(row).after.push(row);
  return [...groups.values()].flatMap(({ before, after }) => {
    const { section, thing } = (before[0] ?? after[0]) as Row;
    return difference(before as unknown as Version[], after as unknown as Version[]).flatMap((days) =>
      [days.before, days.after]
        .filter((values) => values !== null)
        .map((values) => ({
          section,
          thing,
          from: days.from,
          until: days.until,
          values: values as Row['values'],
        })),
    );
  });
};

type Writing = { before: Register; after: Register; today: Day; personId?: number | null };

/**
 * Whether the grants cover every day a change really changes, as the register was or as it is after the change. What is
 * not covered is returned: the sections for which a right is missing.
 */
export const uncoveredWrites = (
  change: Change,
  grants: readonly Grant[],
  writing: Writing,
): SectionName[] => {
  const mine = may({ grants: [...grants] });
  const missing = changedDays(change).filter((write) => !isCovered(write, mine, writing));
  return [...new Set(missing.map(({ section }) => section))];
};

const isCovered = (write: Write, mine: May, { before, after, today, personId = null }: Writing): boolean => {
  if (mine.everywhere(write.section, 'edit')) return true;
  if (after.catalogue.isReference(write.section)) return false;
  const looker = { viewer: personId, today };
  const inside = mine
    .coverings([write.section], 'edit')
    .flatMap((covering) =>
      [before, after].flatMap((register) => rowInside(register, write, { covering, within: write, looker })),
    );
  return inside.length > 0 && uncovered(write, inside).length === 0;
};
