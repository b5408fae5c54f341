// Whose a row is, and where that is: the one path behind scope, said once for reading and writing. The queries compile the
// same path to SQL (server/src/access/scope.sql.ts), scans ask it of columns (sight.ts); what is inside a scope is said in inside.ts.
import type { Bound, Catalogue, Day, Kind, Row, SectionName } from '@gremium/contract';
import { type Period, addDays, byFrom, earlier, intersection, isOn, later } from '../time/calendar';
import { spellsOf } from '../people/employments';
import type { Register } from '../time/register';

/** As much of a row as says whose it is. */
export type Named = Pick<Row, 'section' | 'thing' | 'values'>;

/** The thing whose a row is: what its owner field names, or its own thing. */
export const ownerOf = (
  catalogue: Catalogue,
  { section, thing, values }: Named,
): { kind: Kind; id: number } => {
  const { field, kind } = catalogue.anchor(section);
  return { kind, id: field === 'thing' ? thing : ((values as Record<string, unknown>)[field] as number) };
};

/** The person whose a row is, along its owners; null where it is of nobody. */
export const personBehind = (register: Register, row: Named): number | null => {
  const { owner, kind } = register.catalogue.section(row.section);
  if (!owner) return kind === 'person' ? row.thing : null;
  const id = owner.field === 'thing' ? row.thing : (row.values as Record<string, unknown>)[owner.field];
  if (owner.kind === 'person') return id as number;
  const [base] = register.rows(owner.kind as SectionName, id as number);
  return base ? personBehind(register, base) : null;
};

/** Days of the period on which a unit is the root or below it. */
export const unitInside = (register: Register, unitId: number, root: number, within: Period): Period[] => {
  if (unitId === root) return register.rows('unit', unitId).flatMap((row) => intersection(row, within) ?? []);
  return register.rows('unit', unitId).flatMap((row) => {
    const common = intersection(row, within);
    if (!common || row.values.parentId === null) return [];
    return unitInside(register, row.values.parentId, root, common);
  });
};

/**
 * The primary placement of today (of the main employment), else the next, else the last; of equals that of the employment
 * begun first, then of the older record. It decides who sees what is not dated of a person; SQL's `person_anchors` and `Sight`
 * choose the same (a test compares all three).
 */
export const anchorOf = (
  register: Register,
  personId: number,
  today: Day,
): { positionId: number; employmentId: number; on: Bound } | null => {
  const found = spellsOf(register, personId).flatMap((spell) =>
    register
      .referrers('placement', 'employmentId', spell.id)
      .filter(({ values }) => values.kind === 'primary')
      .flatMap((row) => {
        const on = earlier(later(row.from, today), addDays(row.until, -1));
        const version = spell.rows.find((own) => isOn(own, on));
        const rank = on === today ? 0 : on > today ? 1 : 2;
        const isMain = rank === 0 && version?.values.markedMain === true;
        return version
          ? [{ positionId: row.values.positionId, employmentId: spell.id, on, rank, isMain, spell }]
          : [];
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
