import type { Bound, Change, Problem, Row } from '@gremium/contract';
import type { Register } from '../time/register';
import { isOn } from '../time/calendar';
import { problem, thing } from '../time/problem';
import { personOf } from '../people/employments';
import { type Fraction, ZERO, hundredths, isZero, minus, plus } from '../structure/fraction';
import { directReports, leaderOf, managerAbove } from '../structure/manager';
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
  const ledBefore = ledOf(register, positions, on);
  const moved = movedUnits(register, change, on);
  register.apply(change);
  const found = [
    ...marks(register, marksBefore, on),
    ...fteChanges(fteBefore, fteOf(register, positions, on)),
    ...reportsTo(register, change, on),
    ...reportsChanged(register, ledBefore, on),
    ...moved.flatMap((unitId) => branch(register, unitId, on)),
    ...continuations(change, on),
  ];
  register.revert(change);
  return found;
};

const positionsOf = ({ recorded, superseded }: Change): number[] => {
  const ids = [...superseded, ...recorded].flatMap(({ section, thing: id, values }) => {
    if (section === 'placement') return (values as { positionId: number }).positionId;
    return section === 'position' || section === 'position_limits' ? id : [];
  });
  return [...new Set(ids)];
};

// Who reported to each position that somebody led.
const ledOf = (register: Register, positions: readonly number[], on: Bound): Map<number, number[]> =>
  new Map(
    positions
      .filter((id) => leaderOf(register, id, on))
      .map((id) => [id, directReports(register, id, on)] as const)
      .filter(([, reports]) => reports.length > 0),
  );

// Where nobody leads any more, whom those then report to who reported there.
const reportsChanged = (register: Register, before: Map<number, number[]>, on: Bound): Problem[] =>
  [...before].flatMap(([id, reports]) => {
    if (leaderOf(register, id, on)) return [];
    const counts = new Map<number | null, number>();
    for (const report of reports) {
      const manager = managerAbove(register, report, on, 0)?.personId ?? null;
      counts.set(manager, (counts.get(manager) ?? 0) + 1);
    }
    return [...counts].map(([manager, count]) =>
      manager === null
        ? problem('effect_no_reports_to', { count })
        : problem('effect_reports', { count, manager: thing('person', manager) }),
    );
  });

// Units that come below another one.
const movedUnits = (register: Register, { recorded }: Change, on: Bound): number[] => {
  const moved = recorded.filter(
    (row) =>
      row.section === 'unit' &&
      isOn(row, on) &&
      register.at('unit', row.thing, on) !== undefined &&
      register.at('unit', row.thing, on)?.parentId !== (row.values as { parentId: number | null }).parentId,
  );
  return [...new Set(moved.map((row) => row.thing))];
};

const branch = (register: Register, unitId: number, on: Bound): Problem[] => {
  let positions = 0;
  // a set, as a change that is to be refused may have made a ring
  const all = new Set([unitId]);
  for (const id of all) {
    const here = register.referrers('position', 'unitId', id);
    positions += here.filter((row) => isOn(row, on) && row.values.standing !== 'closed').length;
    for (const row of register.referrers('unit', 'parentId', id)) if (isOn(row, on)) all.add(row.thing);
  }
  return [problem('effect_branch', { units: all.size, positions })];
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

// Of whoever comes to a place; of those who stay where they are nothing is said.
const reportsTo = (register: Register, { recorded, superseded }: Change, on: Bound): Problem[] => {
  const placeOf = ({ values }: Row): number => (values as { positionId: number }).positionId;
  const stays = (row: Row): boolean =>
    superseded.some((old) => old.thing === row.thing && isOn(old, on) && placeOf(old) === placeOf(row));
  const row = recorded.find((one) => one.section === 'placement' && isOn(one, on) && !stays(one));
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
