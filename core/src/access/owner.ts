// Whose a row is, and where that is: the one path behind scope, said once for reading and writing. The queries compile the
// same path to SQL (server/src/access/scope.sql.ts), scans ask it of columns (sight.ts); tests compare all three.
import type { Bound, Catalogue, Day, Kind, Row, SectionName } from '@gremium/contract';
import { isAnchor } from '@gremium/contract';
import { ALWAYS, type Period, addDays, byFrom, earlier, intersection, isOn, later } from '../time/calendar';
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

const positionInside = (register: Register, positionId: number, root: number, within: Period): Period[] =>
  register.rows('position', positionId).flatMap((row) => {
    const common = intersection(row, within);
    return common ? unitInside(register, row.values.unitId, root, common) : [];
  });

const placementInside = (register: Register, id: number, root: number, within: Period): Period[] =>
  register.rows('placement', id).flatMap((row) => {
    const common = intersection(row, within);
    return common ? positionInside(register, row.values.positionId, root, common) : [];
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

/** The branch below `root`, on the days of `within`; `today` is where people are now. */
export type Where = { root: number; within: Period; today: Day };

/** Days of the period on which a row of a section lies inside a branch. */
export const rowInside = (register: Register, row: Named, { root, within, today }: Where): Period[] => {
  const { catalogue } = register;
  const { kind, id } = ownerOf(catalogue, row);
  // a row that is being recorded need not be in the register: it says itself where it is
  if (row.section === 'placement')
    return positionInside(register, (row.values as Row<'placement'>['values']).positionId, root, within);
  return thingInside(register, { kind, id }, { root, within, today }, catalogue.scope(row.section));
};

const thingInside = (
  register: Register,
  { kind, id }: { kind: Kind; id: number },
  where: Where,
  scope: ReturnType<Catalogue['scope']>,
): Period[] => {
  const { root, within, today } = where;
  if (kind === 'unit') return unitInside(register, id, root, within);
  if (kind === 'position') return positionInside(register, id, root, within);
  if (kind === 'placement') return placementInside(register, id, root, within);
  if (kind === 'employment') return employmentInside(register, id, root, within);
  if (kind === 'person' && scope === 'owner_now') return personInside(register, id, root, today);
  if (kind === 'person')
    return spellsOf(register, id).flatMap((spell) => employmentInside(register, spell.id, root, within));
  if (isAnchor(kind)) return [];
  // what belongs to something that itself belongs to somebody
  return register.rows(kind as SectionName, id).flatMap((base) => {
    const common = intersection(base, within);
    return common
      ? thingInside(register, ownerOf(register.catalogue, base), { ...where, within: common }, scope)
      : [];
  });
};
