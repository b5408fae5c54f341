// The days on which a row lies inside the conditions of a scope, worked out on a register: for what is written. The queries
// compile the same conditions (server/src/access/scope.sql.ts), scans ask them of columns (sight.ts); tests compare all three.
import type {
  Bound,
  Condition,
  ConditionOf,
  Covering,
  Day,
  Kind,
  ScopedBy,
  SectionName,
} from '@gremium/contract';
import { hasNoUnits, isAnchor, isOneself, isPlaced } from '@gremium/contract';
import { managerAbove, managerChain } from '../structure/manager';
import { inherited } from '../structure/tree';
import { spellsOf } from '../people/employments';
import { type Period, addDays, intersection } from '../time/calendar';
import { type Piece, Pieces } from '../time/pieces';
import type { Reading, Register } from '../time/register';
import { type Named, anchorOf, ownerOf, unitInside } from './owner';

/** Where somebody or something is: a position, and whose place it is where it is held. */
export type Spot = { positionId: number; employmentId: number | null; personId: number | null };

/** `viewer`: the person who looks; `today` is where people are now. */
export type Looker = { viewer: number | null; today: Day };

type Asked = { register: Register; within: Period; looker: Looker };

// Days on which an answer is yes.
const daysOf = (pieces: readonly Piece<boolean>[]): Period[] =>
  pieces.flatMap(({ from, until, value }) => (value ? [{ from, until }] : []));

/** Whether whoever holds a place (nobody: the position) reports to somebody on a day; nobody reports to themselves. */
export const reportsTo = (
  reading: Reading,
  { positionId, personId }: Pick<Spot, 'positionId' | 'personId'>,
  { to, depth, on }: { to: number | null; depth: ConditionOf<'reports'>['depth']; on: Bound },
): boolean => {
  if (to === null || personId === to) return false;
  const whom = personId ?? 0;
  return depth === 'direct'
    ? managerAbove(reading, positionId, on, whom)?.personId === to
    : managerChain(reading, positionId, on, whom).some((manager) => manager.personId === to);
};

const ofEmployment = (
  { register, within }: Asked,
  id: number,
  holds: (values: { legalEntityId: number; workerTypeId: number }) => boolean,
): Period[] =>
  register.rows('employment', id).flatMap((row) => {
    const common = intersection(row, within);
    return common && holds(row.values) ? [common] : [];
  });

const ofPosition = (
  { register, within }: Asked,
  positionId: number,
  answer: (reading: Reading, on: Bound) => boolean,
): Period[] =>
  register.rows('position', positionId).flatMap((row) => {
    const common = intersection(row, within);
    return common ? daysOf(new Pieces(register).over(common, answer)) : [];
  });

// The days on which each condition holds of a spot.
const spotDays: {
  [T in Condition['type']]: (asked: Asked, condition: ConditionOf<T>, spot: Spot) => Period[];
} = {
  branch: (asked, { unitId }, { positionId }) =>
    asked.register.rows('position', positionId).flatMap((row) => {
      const common = intersection(row, asked.within);
      return common ? unitInside(asked.register, row.values.unitId, unitId, common) : [];
    }),
  reports: (asked, { depth }, spot) =>
    ofPosition(asked, spot.positionId, (reading, on) =>
      reportsTo(reading, spot, { to: asked.looker.viewer, depth, on }),
    ),
  entity: (asked, { legalEntityId }, { positionId, employmentId }) =>
    employmentId !== null
      ? ofEmployment(asked, employmentId, (values) => values.legalEntityId === legalEntityId)
      : ofPosition(asked, positionId, (reading, on) => {
          const position = reading.at('position', positionId, on);
          return !!position && inherited(reading, position, 'legalEntityId', on).value === legalEntityId;
        }),
  country: (asked, { country }, { positionId }) =>
    ofPosition(asked, positionId, (reading, on) => {
      const position = reading.at('position', positionId, on);
      const location = position && inherited(reading, position, 'locationId', on).value;
      return location ? reading.at('location', location, on)?.country === country : false;
    }),
  worker_type: (asked, { workerTypeId }, { employmentId }) =>
    employmentId === null
      ? [asked.within]
      : ofEmployment(asked, employmentId, (values) => values.workerTypeId === workerTypeId),
  oneself: ({ within, looker }, _, { personId }) =>
    personId !== null && personId === looker.viewer ? [within] : [],
};

const holds = <C extends Condition>(asked: Asked, condition: C, spot: Spot): Period[] =>
  (spotDays[condition.type] as (asked: Asked, condition: C, spot: Spot) => Period[])(asked, condition, spot);

// Days that are in both lists.
const inBoth = (a: readonly Period[], b: readonly Period[]): Period[] =>
  a.flatMap((one) => b.flatMap((other) => intersection(one, other) ?? []));

/** Days of a period on which a place lies inside all conditions. */
export const spotInside = (asked: Asked, conditions: readonly Condition[], spot: Spot): Period[] =>
  conditions.reduce<Period[]>(
    (days, condition) => (days.length === 0 ? days : inBoth(days, holds(asked, condition, spot))),
    [asked.within],
  );

const placementInside = (
  asked: Asked,
  conditions: readonly Condition[],
  { positionId, employmentId }: { positionId: number; employmentId: number },
): Period[] => {
  const personId = asked.register.rows('employment', employmentId)[0]?.values.personId ?? null;
  return spotInside(asked, conditions, { positionId, employmentId, personId });
};

const employmentInside = (asked: Asked, conditions: readonly Condition[], employmentId: number): Period[] => {
  if (!isPlaced(conditions)) {
    const personId = asked.register.rows('employment', employmentId)[0]?.values.personId ?? null;
    return spotInside(asked, conditions, { positionId: 0, employmentId, personId });
  }
  return asked.register
    .referrers('placement', 'employmentId', employmentId, asked.within)
    .filter(({ values }) => values.kind === 'primary')
    .flatMap((row) =>
      placementInside(
        { ...asked, within: intersection(row, asked.within) as Period },
        conditions,
        row.values,
      ),
    );
};

const personInside = (asked: Asked, conditions: readonly Condition[], personId: number): Period[] => {
  const { register, looker, within } = asked;
  if (isOneself(conditions)) return personId === looker.viewer ? [within] : [];
  const anchor = anchorOf(register, personId, looker.today);
  if (!anchor) return [];
  const day = { from: anchor.on, until: addDays(anchor.on, 1) };
  const found = spotInside({ ...asked, within: day }, conditions, { ...anchor, personId });
  return found.length > 0 ? [within] : [];
};

const unitDays = (asked: Asked, conditions: readonly Condition[], id: number): Period[] => {
  if (hasNoUnits(conditions)) return [];
  return conditions.reduce<Period[]>(
    (days, condition) =>
      condition.type === 'branch'
        ? inBoth(days, unitInside(asked.register, id, condition.unitId, asked.within))
        : days,
    [asked.within],
  );
};

type Along = { asked: Asked; covering: Covering; scope: ScopedBy };

const thingInside = (
  { asked, covering, scope }: Along,
  { kind, id }: { kind: Kind; id: number },
): Period[] => {
  const { register, within } = asked;
  const { conditions, follows } = covering;
  const isNow = follows || scope === 'owner_now';
  if (kind === 'unit') return unitDays(asked, conditions, id);
  if (kind === 'position')
    return spotInside(asked, conditions, { positionId: id, employmentId: null, personId: null }).flatMap(
      (days) => register.rows('position', id).flatMap((row) => intersection(row, days) ?? []),
    );
  if (kind === 'person' && isNow) return personInside(asked, conditions, id);
  if (kind === 'person')
    return isOneself(conditions)
      ? personInside(asked, conditions, id)
      : spellsOf(register, id).flatMap((spell) => employmentInside(asked, conditions, spell.id));
  if (kind === 'employment') {
    const person = register.rows('employment', id)[0]?.values.personId;
    if (follows) return person === undefined ? [] : personInside(asked, conditions, person);
    return employmentInside(asked, conditions, id);
  }
  if (kind === 'placement')
    return register.rows('placement', id).flatMap((row) => {
      const common = intersection(row, within);
      if (!common) return [];
      const at = { ...asked, within: common };
      return follows
        ? thingInside({ asked: at, covering, scope }, { kind: 'employment', id: row.values.employmentId })
        : placementInside(at, conditions, row.values);
    });
  if (isAnchor(kind)) return [];
  // what belongs to something that itself belongs to somebody
  return register.rows(kind as SectionName, id).flatMap((base) => {
    const common = intersection(base, within);
    return common
      ? thingInside(
          { asked: { ...asked, within: common }, covering, scope },
          ownerOf(register.catalogue, base),
        )
      : [];
  });
};

/** Days of the period on which a row of a section lies inside what is covered. */
export const rowInside = (
  register: Register,
  row: Named,
  { covering, within, looker }: { covering: Covering; within: Period; looker: Looker },
): Period[] => {
  const { catalogue } = register;
  const asked = { register, within, looker };
  const scope = catalogue.scope(row.section);
  // a row that is being recorded need not be in the register: it says itself where it is
  if (row.section === 'placement' && !covering.follows)
    return placementInside(asked, covering.conditions, row.values as never);
  return thingInside({ asked, covering, scope }, ownerOf(catalogue, row));
};
