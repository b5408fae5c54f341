// Which days of which things lie inside a viewer's part of the organisation, worked out on a register. Reading does the
// same in SQL (server/src/access/scope.sql.ts); the walk over all endpoints compares both with a brute-force filter.
import type { Bound, Change, Day, Grant, Row, SectionName } from '@gremium/contract';
import { gives, referenceSections, sections } from '@gremium/contract';
import type { Register } from '../time/register';
import {
  ALWAYS,
  type Period,
  addDays,
  byFrom,
  earlier,
  intersection,
  isOn,
  later,
  uncovered,
} from '../time/calendar';
import { spellsOf } from '../people/employments';
import { difference } from '../time/timeline';
import type { Version } from '../time/timeline';

/** Days of the period on which a unit is the root or below it. */
export const unitInside = (register: Register, unitId: number, root: number, within: Period): Period[] => {
  if (unitId === root) return register.rows('unit', unitId).flatMap((row) => intersection(row, within) ?? []);
  return register.rows('unit', unitId).flatMap((row) => {
    const common = intersection(row, within);
    if (!common || row.values.parentId === null) return [];
    return unitInside(register, row.values.parentId, root, common);
  });
};

const positionInside = (register: Register, positionId: number, root: number, within: Period): Period[] =>
  register.rows('position', positionId).flatMap((row) => {
    const common = intersection(row, within);
    return common ? unitInside(register, row.values.unitId, root, common) : [];
  });

const employmentInside = (register: Register, employmentId: number, root: number, within: Period): Period[] =>
  register
    .referrers('placement', 'employmentId', employmentId, within)
    .filter(({ values }) => values.kind === 'primary')
    .flatMap((row) =>
      positionInside(register, row.values.positionId, root, intersection(row, within) as Period),
    );

/**
 * The primary placement of today (of the main employment), else the next, else the last; of equals that of the employment
 * begun first, then of the older record. It decides who sees what is not dated of a person; SQL's `person_anchors` and `Sight`
 * choose the same (a test compares all three).
 */
export const anchorOf = (
  register: Register,
  personId: number,
  today: Day,
): { positionId: number; on: Bound } | null => {
  const found = spellsOf(register, personId).flatMap((spell) =>
    register
      .referrers('placement', 'employmentId', spell.id)
      .filter(({ values }) => values.kind === 'primary')
      .flatMap((row) => {
        const on = earlier(later(row.from, today), addDays(row.until, -1));
        const version = spell.rows.find((own) => isOn(own, on));
        const rank = on === today ? 0 : on > today ? 1 : 2;
        const isMain = rank === 0 && version?.values.markedMain === true;
        return version ? [{ positionId: row.values.positionId, on, rank, isMain, spell }] : [];
      }),
  );
  const near = (a: (typeof found)[number], b: (typeof found)[number]): number =>
    a.on === b.on ? 0 : a.on < b.on === (a.rank === 1) ? -1 : 1;
  found.sort(
    (a, b) =>
      a.rank - b.rank ||
      Number(b.isMain) - Number(a.isMain) ||
      near(a, b) ||
      byFrom(a.spell, b.spell) ||
      a.spell.id - b.spell.id,
  );
  return found[0] ?? null;
};

const personInside = (register: Register, personId: number, root: number, today: Day): Period[] => {
  const anchor = anchorOf(register, personId, today);
  if (!anchor) return [];
  const day = { from: anchor.on, until: addDays(anchor.on, 1) };
  return positionInside(register, anchor.positionId, root, day).length > 0 ? [ALWAYS] : [];
};

type Named = { section: SectionName; thing: number; values: Row['values'] };

/** Days of the period on which a row of a section lies inside the branch. */
export const rowInside = (
  register: Register,
  { section, thing, values }: Named,
  root: number,
  { within, today }: { within: Period; today: Day },
): Period[] => {
  const named = values as { employmentId?: number; personId?: number; positionId?: number };
  const { kind } = sections[section];
  if (kind === 'unit') return unitInside(register, thing, root, within);
  if (kind === 'position') return positionInside(register, thing, root, within);
  if (section === 'placement') return positionInside(register, named.positionId as number, root, within);
  if (section === 'employment') return employmentInside(register, thing, root, within);
  if (named.employmentId) return employmentInside(register, named.employmentId, root, within);
  return personInside(register, named.personId ?? thing, root, today);
};

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

/**
 * Whether the grants cover every day a change really changes, as the register was or as it is after the change. What is
 * not covered is returned: the sections for which a right is missing.
 */
export const uncoveredWrites = (
  change: Change,
  grants: readonly Grant[],
  { before, after, today }: { before: Register; after: Register; today: Day },
): SectionName[] => {
  const missing = changedDays(change).filter((write) => {
    const editing = grants.filter((grant) => gives(grant, write.section, 'edit'));
    if (editing.some(({ scope }) => scope.type === 'all')) return false;
    if ((referenceSections as readonly string[]).includes(write.section)) return true;
    const inside = editing.flatMap(({ scope }) =>
      scope.type === 'branch'
        ? [before, after].flatMap((register) =>
            rowInside(register, write, scope.unitId, { within: write, today }),
          )
        : [],
    );
    return uncovered(write, inside).length > 0;
  });
  return [...new Set(missing.map(({ section }) => section))];
};
