// Units merged and split, worked by hand on a small organisation.
import { beforeEach, describe, expect, test } from '@jest/globals';
import { type SmallWorld, smallWorld } from '../../test/small-world';
import { laws } from '../laws';
import { day } from '../time/calendar';
import { decisionOf } from './decisions';

let world: SmallWorld;
beforeEach(() => {
  world = smallWorld();
});

const given = { today: day('2025-05-05') };
const FROM = day('2026-01-01');
const EVE = day('2025-12-31');
const codes = () => world.draft.problems.map(({ code, field }) => [code, field]);
const broken = () => laws(world.register, world.draft.change).map(({ problem }) => problem.code);
const unitOf = (position: number, on: string) => world.register.at('position', position, day(on))?.unitId;

describe('merging', () => {
  const merge = (unitId: number, intoId: number) =>
    decisionOf('merge_unit')(world.draft, { unitId, intoId, firstDay: FROM }, given);

  test('takes positions and units below along, plans too; the unit closes the day before and says where it went', () => {
    const { units, unit, position, register, draft } = world;
    const quay = unit('Quay', units.company);
    const [here, planned] = [position(quay, 'Here'), position(units.company, 'Planned')];
    draft.set('position', planned, { from: day('2026-06-01'), values: { unitId: quay } });
    const below = unit('Below', quay);
    const moved = merge(quay, units.harbour);
    expect(broken()).toEqual([]);
    expect(moved?.concerned?.count).toBe(3);
    expect([unitOf(here, EVE), unitOf(here, FROM)]).toEqual([quay, units.harbour]);
    expect([unitOf(planned, '2026-05-31'), unitOf(planned, '2026-06-01')]).toEqual([
      units.company,
      units.harbour,
    ]);
    expect(register.at('unit', below, FROM)?.parentId).toBe(units.harbour);
    expect(register.at('unit', quay, EVE)?.successorId).toBe(units.harbour);
    expect(register.at('unit', quay, FROM)).toBeUndefined();
  });

  test('into itself or into one below it is refused', () => {
    const { units } = world;
    for (const into of [units.harbour, units.terminal]) {
      world.draft.problems.length = 0;
      expect(merge(units.harbour, into)).toBeNull();
      expect(codes()).toEqual([['unit_into_itself', 'intoId']]);
    }
  });

  test('of the first of all leaves nothing above the rest: refused by law, or in itself', () => {
    const { units } = world;
    expect(merge(units.company, units.harbour)).toBeNull();
  });
});

describe('splitting', () => {
  const split = (more: object = {}) =>
    decisionOf('split_unit')(
      world.draft,
      { unitId: world.units.harbour, firstDay: FROM, name: 'Quay', positionIds: [], unitIds: [], ...more },
      given,
    );

  test('makes a unit beside it with what is named; the rest stays, the past is as it was', () => {
    const { units, position, register, draft } = world;
    draft.set('unit', units.harbour, { from: day('2024-01-01'), values: { hiresNeedPosition: false } });
    const [goes, stays] = [position(units.harbour, 'Goes'), position(units.harbour, 'Stays')];
    const made = split({ positionIds: [goes], unitIds: [units.terminal] });
    const quay = made?.things.unitId as number;
    expect(broken()).toEqual([]);
    expect(register.at('unit', quay, FROM)).toMatchObject({
      name: 'Quay',
      parentId: units.company,
      predecessorId: units.harbour,
      hiresNeedPosition: false,
      headPositionId: null,
    });
    expect(register.at('unit', quay, EVE)).toBeUndefined();
    expect([unitOf(goes, EVE), unitOf(goes, FROM), unitOf(stays, FROM)]).toEqual([
      units.harbour,
      quay,
      units.harbour,
    ]);
    expect(register.at('unit', units.terminal, FROM)?.parentId).toBe(quay);
    // all that could go is shown, whatever was chosen
    expect(made?.concerned?.count).toBe(3);
  });

  test('of the first of all stands below it', () => {
    const made = split({ unitId: world.units.company });
    expect(broken()).toEqual([]);
    expect(world.register.at('unit', made?.things.unitId as number, FROM)?.parentId).toBe(
      world.units.company,
    );
  });

  test('does not take what stands elsewhere', () => {
    const other = world.position(world.units.company, 'Other');
    expect(split({ positionIds: [other] })).toBeNull();
    expect(codes()).toEqual([['reference_missing', 'positionIds']]);
  });
});
