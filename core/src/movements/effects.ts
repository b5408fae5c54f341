import type { Bound, Change, Problem } from '@gremium/contract';
import type { Register } from '../time/register';
import { isOn } from '../time/calendar';
import { problem, thing } from '../time/problem';
import { personOf } from '../people/employments';
import { type Fraction, ZERO, hundredths, isZero, minus, plus } from '../structure/fraction';
import { managerAbove } from '../structure/manager';
import { contractedShare } from '../structure/occupancy';
import { type Mark, markOf } from '../structure/mark';

/**
 * What a movement does on a day beside its values, as notes: marks of positions that change, FTE of units (hundredths,
 * signed), and whom its person then reports to. Leaves the register as it was; a change that does not fit it gives none.
 */
export const effects = (register: Register, change: Change, on: Bound): Problem[] => {
  const fits = change.superseded.every((row) =>
    register.rows(row.section, row.thing).some(({ id }) => id === row.id),
  );
  if (!fits) return [];
  const positions = positionsOf(change);
  const marksBefore = new Map(positions.map((id) => [id, markOf(register, id, on)]));
  const fteBefore = fteOf(register, positions, on);
  register.apply(change);
  const found = [
    ...marks(register, marksBefore, on),
    ...fteChanges(fteBefore, fteOf(register, positions, on)),
    ...reportsTo(register, change, on),
    ...continuations(change, on),
  ];
  register.revert(change);
  return found;
};

const positionsOf = ({ recorded, superseded }: Change): number[] => {
  const rows = [...superseded, ...recorded].filter(({ section }) => section === 'placement');
  return [...new Set(rows.map(({ values }) => (values as { positionId: number }).positionId))];
};

const marks = (register: Register, before: Map<number, Mark | undefined>, on: Bound): Problem[] =>
  [...before].flatMap(([id, was]) => {
    const is = markOf(register, id, on);
    if (is === was || is === undefined) return [];
    return [problem('effect_mark', { position: thing('position', id), was: was ?? 'new', is })];
  });

const fteOf = (register: Register, positions: readonly number[], on: Bound): Map<number, Fraction> => {
  const units = new Map<number, Fraction>();
  for (const id of positions) {
    const unitId = register.at('position', id, on)?.unitId;
    if (unitId === undefined) continue;
    const rows = register.referrers('placement', 'positionId', id).filter((row) => isOn(row, on));
    const fte = rows.map(({ values }) => contractedShare(values)).reduce(plus, ZERO);
    units.set(unitId, plus(units.get(unitId) ?? ZERO, fte));
  }
  return units;
};

const fteChanges = (before: Map<number, Fraction>, after: Map<number, Fraction>): Problem[] =>
  [...after].flatMap(([unitId, fte]) => {
    const by = minus(fte, before.get(unitId) ?? ZERO);
    return isZero(by)
      ? []
      : [problem('effect_fte', { unit: thing('unit', unitId), hundredths: hundredths(by) })];
  });

const reportsTo = (register: Register, { recorded }: Change, on: Bound): Problem[] => {
  const row = recorded.find(({ section, ...period }) => section === 'placement' && isOn(period, on));
  if (!row) return [];
  const values = register.at('placement', row.thing, on);
  const person = values && personOf(register, values, on);
  if (!values || person === undefined) return [];
  const manager = managerAbove(register, values.positionId, on, person);
  if (!manager) return [problem('effect_no_manager')];
  const params = {
    manager: thing('person', manager.personId),
    position: thing('position', manager.positionId),
    bridged: manager.bridged ? 'yes' : 'no',
  };
  return [problem('effect_reports_to', params)];
};

const continuations = ({ recorded }: Change, on: Bound): Problem[] =>
  recorded.flatMap(({ section, from, values }) => {
    const { continuesId, legalEntityId } = values as { continuesId?: number | null; legalEntityId?: number };
    if (section !== 'employment' || from !== on || !continuesId || !legalEntityId) return [];
    return [problem('effect_continued', { entity: thing('legal_entity', legalEntityId) })];
  });
