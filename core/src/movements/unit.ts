// A unit begins, changes from a day on (its branch moves along), or closes.
import { type Bound, UnitSaid } from '@gremium/contract';
import { hiresNeedPosition } from '../structure/tree';
import { OPEN, addDays, isBefore, isOn } from '../time/calendar';
import type { Draft } from '../time/draft';
import { problem, thing } from '../time/problem';
import type { Concerned, Decide } from './decide';
import { endOwned, slip } from './place';
import { changed, compared, said } from './position';

const FIELDS = Object.keys(UnitSaid.shape) as (keyof typeof UnitSaid.shape)[];

/** Begins a unit below another one. */
export const newUnit: Decide<'new_unit'> = (draft, input) => {
  const { firstDay: from, parentId } = input;
  if (parentId !== null && !draft.register.at('unit', parentId, from)) {
    const params = { what: thing('unit', parentId), day: from };
    draft.problems.push(problem('reference_missing', params, 'parentId'));
    return null;
  }
  const unitId = draft.newId();
  const { parentId: above, ...given } = said(input, FIELDS);
  const code = input.code ?? `U-${unitId}`;
  const values = { ...given, name: input.name, kindId: input.kindId, code };
  draft.begin('unit', unitId, { from, until: OPEN }, { ...values, parentId });
  const told = compared('unit', undefined, { ...given, ...(above ? { parentId: above } : {}), code });
  return {
    things: { unitId },
    slip: told.map((one) =>
      one.field === 'code' && !input.code ? { ...one, source: 'preset' as const } : one,
    ),
  };
};

/** Changes a unit from a day on; what is not said stays. Rings are refused by law, naming the path. */
export const changeUnit: Decide<'change_unit'> = (draft, input) => {
  const { unitId, firstDay: from } = input;
  const before = draft.register.at('unit', unitId, from);
  if (!before) {
    draft.problems.push(problem('reference_missing', { what: thing('unit', unitId), day: from }, 'unitId'));
    return null;
  }
  const values = changed(said(input, FIELDS), before);
  const ruled = rulesOf(draft, unitId, from);
  if (Object.keys(values).length > 0) draft.set('unit', unitId, { from, values });
  const rule =
    values.hiresNeedPosition === undefined ? {} : { concerned: underOtherRule(draft, ruled, from) };
  return { things: { unitId }, slip: compared('unit', before, values), ...rule };
};

// Whether hires need a position, of a unit and all below it on a day.
const rulesOf = ({ register }: Draft, unitId: number, on: Bound): Map<number, boolean> => {
  const rules = new Map<number, boolean>();
  const open = [unitId];
  for (let at = open.pop(); at !== undefined; at = open.pop()) {
    if (rules.has(at)) continue;
    rules.set(at, hiresNeedPosition(register, at, on));
    for (const row of register.referrers('unit', 'parentId', at)) if (isOn(row, on)) open.push(row.thing);
  }
  return rules;
};

// Who works, from that day on or from a later one, where hires go by the other rule now: nothing of them changes.
const underOtherRule = ({ register }: Draft, before: ReadonlyMap<number, boolean>, on: Bound): Concerned => {
  const lines = [...before]
    .filter(([id, was]) => hiresNeedPosition(register, id, on) !== was)
    .flatMap(([id]) => register.referrers('position', 'unitId', id, { from: on, until: OPEN }))
    .flatMap(({ thing: positionId }) =>
      register.referrers('placement', 'positionId', positionId, { from: on, until: OPEN }).map((row) => ({
        what: thing('placement', row.thing),
        where: thing('position', positionId),
        values: [],
      })),
    );
  const each = [...new Map(lines.map((line) => [line.what.id, line])).values()];
  return { count: each.length, lines: each };
};

/** Closes a unit after its last day (`unit_not_empty` names what still stands in it). */
export const closeUnit: Decide<'close_unit'> = (draft, { unitId, lastDay }) => {
  const { register } = draft;
  const from = addDays(lastDay, 1);
  if (!register.at('unit', unitId, lastDay)) {
    draft.problems.push(
      problem('reference_missing', { what: thing('unit', unitId), day: lastDay }, 'lastDay'),
    );
    return null;
  }
  const later = { from, until: 'infinity' as const };
  const units = register.referrers('unit', 'parentId', unitId, later).map((row) => thing('unit', row.thing));
  const positions = register
    .referrers('position', 'unitId', unitId, later)
    .filter(({ values }) => values.standing !== 'closed')
    .map((row) => thing('position', row.thing));
  const standing = distinct([...units, ...positions]);
  if (standing.length > 0) {
    const params = { what: standing.slice(0, MOST_NAMED), count: standing.length };
    draft.problems.push(problem('unit_not_empty', params, 'lastDay'));
    return null;
  }
  endUnit(draft, unitId, from);
  return { things: { unitId }, slip: [slip('lastDay', lastDay, 'typed')] };
};

/** Ends a unit before a day, with what belongs to it. */
export const endUnit = (draft: Draft, unitId: number, from: Bound): void => {
  endOwned(draft, 'unit', unitId, from);
  for (const name of draft.register.catalogue.of('unit'))
    if (draft.register.rows(name, unitId).some((row) => isBefore(from, row.until)))
      draft.cutFrom(name, unitId, from);
};

const MOST_NAMED = 8;

const distinct = <T extends { id: number }>(things: readonly T[]): T[] => [
  ...new Map(things.map((one) => [one.id, one])).values(),
];
