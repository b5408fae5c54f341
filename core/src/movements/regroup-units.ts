// Units merged and split from a day on: what stands in them moves, and each knows where it went or came from.
import type { Bound, Row, ThingRef, Values } from '@gremium/contract';
import { unitChain } from '../structure/tree';
import { OPEN, addDays, isOn, later } from '../time/calendar';
import type { Draft } from '../time/draft';
import { problem, thing } from '../time/problem';
import type { Concerned, Decide } from './decide';
import { slip } from './place';
import { endUnit } from './unit';

const missing = (draft: Draft, id: number, day: Bound, field: string): null => {
  draft.problems.push(problem('reference_missing', { what: thing('unit', id), day }, field));
  return null;
};

type Held = Row<'position'> | Row<'unit'>;

// All that stands in a unit from a day on: positions, closed ones too, and units below.
const heldIn = ({ register }: Draft, unitId: number, from: Bound): Held[] => {
  const after = { from, until: OPEN };
  return [
    ...register.referrers('position', 'unitId', unitId, after),
    ...register.referrers('unit', 'parentId', unitId, after),
  ];
};

// Each version that says the old unit says the other one, from the day on.
const moveTo = (draft: Draft, rows: readonly Held[], unitId: number, from: Bound): void => {
  for (const row of rows) {
    const at = { from: later(row.from, from), until: row.until };
    if (row.section === 'position') draft.set('position', row.thing, { ...at, values: { unitId } });
    else draft.set('unit', row.thing, { ...at, values: { parentId: unitId } });
  }
};

const concernedBy = ({ register }: Draft, rows: readonly Held[], on: Bound): Concerned => {
  // a position is told from its like by who holds it
  const holderOf = (id: number) =>
    register.referrers('placement', 'positionId', id).find((row) => isOn(row, on));
  const whereOf = ({ kind, id }: ThingRef): ThingRef | null => {
    const held = kind === 'position' ? holderOf(id) : undefined;
    return held ? thing('placement', held.thing) : null;
  };
  // closed ones move along, and concern nobody
  const open = rows.filter((row) => row.section === 'unit' || row.values.standing !== 'closed');
  const things = new Map<number, ThingRef>(open.map((row) => [row.thing, thing(row.section, row.thing)]));
  return {
    count: things.size,
    lines: [...things.values()].map((what) => ({ what, where: whereOf(what), values: [] })),
  };
};

/**
 * Merges a unit into another from a day: its positions and the units below it move there, it closes the day before and names
 * the one that took it in. Refused into itself or into one below it (`unit_into_itself`).
 */
export const mergeUnit: Decide<'merge_unit'> = (draft, { unitId, intoId, firstDay: from }) => {
  const { register } = draft;
  const unit = register.at('unit', unitId, from);
  if (!unit) return missing(draft, unitId, from, 'unitId');
  if (!register.at('unit', intoId, from)) return missing(draft, intoId, from, 'intoId');
  if (unitChain(register, intoId, from).includes(unitId)) {
    draft.problems.push(problem('unit_into_itself', {}, 'intoId'));
    return null;
  }
  const held = heldIn(draft, unitId, from);
  moveTo(draft, held, intoId, from);
  const eve = addDays(from, -1);
  // one that begins that day only was never there: nothing says where it went
  if (register.at('unit', unitId, eve))
    draft.set('unit', unitId, { from: eve, until: from, values: { successorId: intoId } });
  endUnit(draft, unitId, from);
  return {
    things: { unitId: intoId },
    slip: [slip('successorId', intoId, 'typed', null, 'unit')],
    concerned: concernedBy(draft, held, from),
  };
};

/**
 * Splits a new unit off another from a day: it stands beside it, takes over what that says of itself (kind, place, entity,
 * rules of hiring), and the positions and units below that are named move into it.
 */
export const splitUnit: Decide<'split_unit'> = (draft, input) => {
  const { unitId, firstDay: from, name, positionIds, unitIds } = input;
  const { register } = draft;
  const unit = register.at('unit', unitId, from);
  if (!unit) return missing(draft, unitId, from, 'unitId');
  const held = heldIn(draft, unitId, from);
  const going = new Set([...positionIds, ...unitIds]);
  const stranger = [...going].find((id) => !held.some((row) => row.thing === id));
  if (stranger !== undefined) {
    const isPosition = positionIds.includes(stranger);
    const what = thing(isPosition ? 'position' : 'unit', stranger);
    draft.problems.push(
      problem('reference_missing', { what, day: from }, isPosition ? 'positionIds' : 'unitIds'),
    );
    return null;
  }
  const newUnitId = draft.newId();
  const values: Values<'unit'> = {
    ...unit,
    name,
    code: input.code ?? `U-${newUnitId}`,
    kindId: input.kindId ?? unit.kindId,
    // beside it; of the first of all, below it
    parentId: unit.parentId ?? unitId,
    headPositionId: null,
    successorId: null,
    predecessorId: unitId,
  };
  draft.begin('unit', newUnitId, { from, until: OPEN }, values);
  moveTo(
    draft,
    held.filter((row) => going.has(row.thing)),
    newUnitId,
    from,
  );
  return {
    things: { unitId: newUnitId },
    slip: [
      slip('name', name, 'typed', null, 'unit'),
      slip('code', values.code, input.code ? 'typed' : 'preset', null, 'unit'),
      slip('predecessorId', unitId, 'unit', null, 'unit'),
    ],
    concerned: concernedBy(draft, held, from),
  };
};
