// What a movement tells (values before and after) is what the register says before and after it, over generated histories.
import { describe, expect, test } from '@jest/globals';
import type { Day, MovementInput, MovementKind, SectionName, SlipValue } from '@gremium/contract';
import { type World, randomHistory } from '../../../demo/random-history';
import { laws } from '../laws';
import { addDays } from '../time/calendar';
import { Draft } from '../time/draft';
import { hasErrors } from '../time/problem';
import { isEqual } from '../time/timeline';
import { decisionOf } from './decisions';

type Told = { compared: number; refused: number };

const thingOf = (section: string, things: { positionId?: number; unitId?: number }): number =>
  (section === 'unit' ? things.unitId : things.positionId) ?? 0;

/** Decides a movement, compares all it tells with the register, and takes it back. */
const compare = <K extends MovementKind>(world: World, kind: K, input: MovementInput<K>, on: Day): Told => {
  const { register, newId } = world.history;
  const draft = new Draft(register, newId, newId());
  const moved = decisionOf(kind)(draft, input, { today: world.history.day, number: '1' });
  const { change } = draft;
  const isRefused =
    !moved ||
    hasErrors(draft.problems) ||
    laws(register, change).some(({ problem }) => problem.severity === 'error');
  const valueOf = ({ section, field }: SlipValue) => {
    const values = register.at(section as SectionName, thingOf(section ?? '', moved?.things ?? {}), on);
    return (values as Record<string, unknown> | undefined)?.[field] ?? null;
  };
  const told = (isRefused ? [] : moved.slip).filter(({ section }) =>
    ['position', 'position_limits', 'unit'].includes(section ?? ''),
  );
  const after = told.map(valueOf);
  draft.discard();
  const before = told.map(valueOf);
  for (const [i, value] of told.entries()) {
    expect([kind, value.field, after[i]]).toEqual([kind, value.field, value.after]);
    expect([kind, value.field, before[i]]).toEqual([kind, value.field, value.before]);
  }
  return { compared: told.length, refused: isRefused ? 1 : 0 };
};

const anyOf = (world: World, n: number): Told => {
  const { chance, positions, units, jobs, lists, history } = world;
  const firstDay = addDays(history.day, chance.int(-200, 200));
  const position = chance.pick(positions);
  const unit = chance.pick(units);
  const change = [
    { standing: chance.pick(['in_force', 'on_hold', 'closed'] as const) },
    { unitId: unit, title: `Title ${n}` },
    { places: chance.int(1, 4), fte: chance.is(0.3) ? null : chance.int(50, 400) },
    { reportsToId: chance.is(0.5) ? null : chance.pick(positions), hours: chance.int(100, 4000) },
  ];
  if (n % 4 === 0)
    return compare(
      world,
      'change_position',
      { positionId: position, firstDay, ...chance.pick(change) },
      firstDay,
    );
  if (n % 4 === 1) {
    const input = { firstDay, unitId: unit, jobId: jobs[0] as number, standing: 'in_force' as const };
    return compare(world, 'new_position', { ...input, places: chance.int(1, 3) }, firstDay);
  }
  if (n % 4 === 2) {
    const values = chance.pick([
      { name: `Name ${n}` },
      { parentId: chance.pick(units) },
      { headPositionId: position },
      { hiresNeedPosition: chance.is(0.5) },
    ]);
    return compare(world, 'change_unit', { unitId: unit, firstDay, ...values }, firstDay);
  }
  const kindId = lists['TEAM'] as number;
  return compare(world, 'new_unit', { firstDay, name: `Unit ${n}`, kindId, parentId: unit }, firstDay);
};

describe('movements of the structure', () => {
  test.each([11, 12, 13, 14])(
    'history %i: values told are those before and after, and taking it back leaves nothing',
    (seed) => {
      const world = randomHistory(seed, 80);
      const { register } = world.history;
      const rows = () => [...register.all('position'), ...register.all('unit')].map(({ id }) => id).sort();
      const before = rows();
      const sum = { compared: 0, refused: 0 };
      for (let n = 0; n < 200; n++) {
        const { compared, refused } = anyOf(world, n);
        sum.compared += compared;
        sum.refused += refused;
      }
      expect(isEqual(rows(), before)).toBe(true);
      // most are allowed, some are not: both ways were gone
      expect(sum.compared).toBeGreaterThan(200);
      expect(sum.refused).toBeGreaterThan(0);
    },
  );
});
