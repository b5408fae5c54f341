// Decisions of movements, worked by hand on a small organisation; and what they say of reports, compared with a search.
import { beforeEach, describe, expect, test } from '@jest/globals';
import type { MovementInput, MovementKind } from '@gremium/contract';
import { randomHistory } from '../../../demo/random-history';
import { START, type SmallWorld, smallWorld } from '../../test/small-world';
import { laws } from '../laws';
import { changesOf } from '../people/chronicle';
import { directReports, managerPosition } from '../structure/manager';
import { day } from '../time/calendar';
import { byFrom } from '../time/calendar';
import { decisionOf } from './decisions';
import { effects } from './effects';

let world: SmallWorld;
beforeEach(() => {
  world = smallWorld();
});

const TODAY = day('2024-05-05');
const decide = <K extends MovementKind>(kind: K, input: MovementInput<K>) =>
  decisionOf(kind)(world.draft, input, { today: TODAY, number: '77' });
const codes = () => world.draft.problems.map(({ code }) => code);
const broken = () => laws(world.register, world.draft.change).map(({ problem }) => problem.code);
const on = (text: string) => day(text);

describe('leaving', () => {
  const leaves = (more: object = {}) => ({
    employmentId: 0,
    lastDay: on('2024-06-30'),
    reasonId: world.lists.LEFT,
    mayReturn: true,
    returnReason: null,
    ...more,
  });

  test('takes reports to the one that is named, and closes the position if asked to', () => {
    const { units, position, head, hired, register } = world;
    const lead = position(units.harbour, 'Lead');
    head(units.harbour, lead);
    const [a, b, deputy] = [
      position(units.harbour, 'A'),
      position(units.terminal, 'B'),
      position(units.harbour, 'Deputy'),
    ];
    expect(directReports(register, lead, on('2024-07-01')).sort()).toEqual([a, b, deputy].sort());
    const { employmentId } = hired('Leader', lead, '2024-02-01');
    const moved = decide('leave', leaves({ employmentId, positionAfter: 'closed', reportsToId: deputy }));
    expect(broken()).toEqual([]);
    expect(moved?.things).toMatchObject({ positionId: lead, employmentId });
    expect(register.at('position', lead, on('2024-06-30'))?.standing).toBe('in_force');
    expect(register.at('position', lead, on('2024-07-01'))?.standing).toBe('closed');
    for (const id of [a, b]) {
      expect(register.at('position', id, on('2024-06-30'))?.reportsToId).toBeNull();
      expect(managerPosition(register, id, on('2024-07-01'))).toBe(deputy);
    }
    // the deputy does not report to itself: nobody stands above it then
    expect(managerPosition(register, deputy, on('2024-07-01'))).toBeNull();
  });

  test('says until when there is access: the last day, or the day before today', () => {
    const { units, position, hired, register } = world;
    const accessOf = (id: number) => register.rows('employment', id).map(({ values }) => values.accessUntil);
    const first = hired('A', position(units.harbour, 'A'), '2024-02-01').employmentId;
    decide('leave', leaves({ employmentId: first }));
    expect(accessOf(first)).toEqual(['2024-06-30']);
    const second = hired('B', position(units.harbour, 'B'), '2024-02-01').employmentId;
    decide('leave', leaves({ employmentId: second, accessEnds: 'at_once' }));
    expect(accessOf(second)).toEqual(['2024-05-04']);
  });

  test('counts notice from the day after it, by who ends it', () => {
    const { units, position, hired, lists, draft } = world;
    const { employmentId } = hired('A', position(units.harbour, 'A'), '2024-02-01', {
      contract: { kindId: lists.PERM, noticeByEmployeeDays: 14, noticeByEmployerDays: 90 },
    });
    // 14 days from 16 June end on 30 June
    decide('leave', leaves({ employmentId, noticeOn: on('2024-06-16') }));
    expect(codes()).toEqual([]);
    draft.problems.length = 0;
    world = smallWorld();
    const again = world.hired('A', world.position(world.units.harbour, 'A'), '2024-02-01', {
      contract: { kindId: world.lists.PERM, noticeByEmployeeDays: 14, noticeByEmployerDays: 90 },
    });
    decide('leave', leaves({ employmentId: again.employmentId, noticeOn: on('2024-06-17') }));
    expect(world.draft.problems).toEqual([
      expect.objectContaining({ code: 'notice_short', params: { count: 14, earliest: '2024-07-01' } }),
    ]);
  });

  test('on a day without employment, or with days after the last one, is refused by field', () => {
    const { units, position, hired } = world;
    const { employmentId } = hired('A', position(units.harbour, 'A'), '2024-02-01');
    expect(decide('leave', leaves({ employmentId, lastDay: on('2024-01-31') }))).toBeNull();
    decide('leave', leaves({ employmentId, noticeOn: on('2024-07-01'), lastDayAtWork: on('2024-07-02') }));
    expect(world.draft.problems.map(({ code, field }) => [code, field])).toEqual([
      ['employment_unknown', 'lastDay'],
      ['day_after_last', 'noticeOn'],
      ['day_after_last', 'lastDayAtWork'],
    ]);
  });
});

describe('coming', () => {
  test('a hire says what it took from where; somebody new gets the number that is given', () => {
    const { units, position, lists, entity, register } = world;
    const positionId = position(units.harbour, 'A', { hours: 3000 });
    const moved = decide('hire', {
      person: { name: { given: 'New' }, contacts: [{ kind: 'phone', value: '+000 22222' }] },
      firstDay: on('2024-02-01'),
      positionId,
      contract: {},
      pay: [{ amount: '3000' }],
      reasonId: null,
    });
    const told = moved?.slip.map(({ section, field, after, source }) => [
      section ?? '',
      field,
      after,
      source,
    ]);
    expect(told).toEqual(
      expect.arrayContaining([
        ['', 'hours', 3000, 'position'],
        ['', 'fullTime', 3750, 'organisation'],
        ['', 'legalEntityId', entity.fi, 'unit'],
        ['', 'workerTypeId', lists.EMP, 'job'],
        ['contract', 'kindId', lists.PERM, 'preset'],
        ['pay', 'amount', '3000', 'typed'],
        ['pay', 'currency', 'EUR', 'legal_entity'],
      ]),
    );
    expect(register.rows('person', moved?.things.personId ?? 0)[0]?.values.number).toBe('77');
    expect(broken()).toEqual([]);
  });

  test('a bar to returning holds to its last day, and for ever without one', () => {
    const { units, position, hired } = world;
    const [first, second] = [position(units.harbour, 'A'), position(units.harbour, 'B')];
    const { employmentId, personId } = hired('A', first, '2024-02-01');
    const leaving = { employmentId, lastDay: on('2024-06-30'), reasonId: world.lists.LEFT, mayReturn: false };
    decide('leave', { ...leaving, returnReason: 'no', returnBarredUntil: on('2024-12-31') });
    const back = { personId, positionId: second, pay: [], reasonId: null };
    decide('rehire', { ...back, firstDay: on('2025-01-01') });
    expect(codes()).toEqual([]);
    world = smallWorld();
    const again = world.hired('A', world.position(world.units.harbour, 'A'), '2024-02-01');
    decide('leave', {
      ...leaving,
      employmentId: again.employmentId,
      reasonId: world.lists.LEFT,
      returnReason: 'no',
    });
    const other = world.position(world.units.harbour, 'B');
    decide('rehire', { ...back, personId: again.personId, positionId: other, firstDay: on('2030-01-01') });
    expect(codes()).toEqual(['return_barred']);
  });
});

describe('positions and units', () => {
  test('a new position takes from its job what is not said; a change writes only what differs, and calls it its own', () => {
    const { units, job, register } = world;
    const made = decide('new_position', {
      firstDay: START,
      unitId: units.terminal,
      jobId: job,
      standing: 'in_force',
      title: 'Own title',
    });
    const positionId = made?.things.positionId as number;
    expect(register.at('position', positionId, START)).toMatchObject({
      title: 'Own title',
      sources: { gradeId: 'job', hours: 'job' },
    });
    expect(register.at('position_limits', positionId, START)).toEqual({
      places: 1,
      fte: 100,
      handoverDays: 0,
    });
    const changed = decide('change_position', {
      positionId,
      firstDay: on('2024-03-01'),
      title: 'Own title',
      hours: 2000,
      places: 3,
      fte: null,
    });
    expect(changed?.slip.map(({ field, before, after }) => [field, before, after])).toEqual([
      ['hours', null, 2000],
      ['places', 1, 3],
      ['fte', 100, null],
    ]);
    expect(register.at('position', positionId, on('2024-02-29'))?.hours).toBeNull();
    expect(register.at('position', positionId, on('2024-03-01'))).toMatchObject({
      hours: 2000,
      sources: { gradeId: 'job', hours: 'own' },
    });
    expect(changesOf(register, 'position', positionId).map(({ day: at, what }) => [at, what])).toEqual([
      ['2024-03-01', 'changed'],
      ['2024-03-01', 'changed'],
      ['2024-01-01', 'recorded'],
      ['2024-01-01', 'recorded'],
    ]);
  });

  test('a unit that moves takes its branch; below itself it is a ring, with the path', () => {
    const { units, register, draft } = world;
    const made = decide('new_unit', {
      firstDay: START,
      name: 'Yard',
      kindId: world.lists.TEAM,
      parentId: units.company,
    });
    const yard = made?.things.unitId as number;
    const { change } = draft;
    draft.discard();
    register.apply(change);
    decide('change_unit', { unitId: units.harbour, firstDay: on('2024-03-01'), parentId: yard });
    expect(broken()).toEqual([]);
    const moving = draft.change;
    draft.discard();
    const told = effects(register, moving, on('2024-03-01'));
    expect(told.find(({ code }) => code === 'effect_branch')?.params).toEqual({ units: 2, positions: 0 });
    decide('change_unit', { unitId: units.harbour, firstDay: on('2024-03-01'), parentId: units.terminal });
    const [ring] = laws(register, draft.change).map(({ problem }) => problem);
    expect(ring?.code).toBe('unit_ring');
    expect((ring?.params['path'] as { id: number }[]).map(({ id }) => id).sort()).toEqual(
      [units.harbour, units.terminal].sort(),
    );
    // what it would do is worked out all the same, though the tree has no end
    const looping = draft.change;
    draft.discard();
    expect(effects(register, looping, on('2024-03-01')).map(({ code }) => code)).toEqual(['effect_branch']);
  });

  test('a unit closes only when nothing stands in it: closed positions may', () => {
    const { units, position, register } = world;
    const id = position(units.terminal, 'A');
    expect(decide('close_unit', { unitId: units.terminal, lastDay: on('2024-03-31') })).toBeNull();
    expect(codes()).toEqual(['unit_not_empty']);
    world.draft.problems.length = 0;
    decide('change_position', { positionId: id, firstDay: on('2024-04-01'), standing: 'closed' });
    expect(decide('close_unit', { unitId: units.terminal, lastDay: on('2024-03-31') })?.things.unitId).toBe(
      units.terminal,
    );
    expect(register.at('unit', units.terminal, on('2024-03-31'))).toBeDefined();
    expect(register.at('unit', units.terminal, on('2024-04-01'))).toBeUndefined();
    expect(broken()).toEqual([]);
  });
});

describe('over generated histories', () => {
  test('direct reports are those who have the position as their manager', () => {
    let found = 0;
    for (let seed = 1; seed <= 8; seed++) {
      const { history, positions } = randomHistory(seed, 120);
      const { register } = history;
      const days = [...register.all('position')].map(({ from }) => from).sort();
      for (const at of days.filter((_, i) => i % 3 === 0))
        for (const id of positions) {
          const searched = positions.filter(
            (other) =>
              other !== id &&
              (register.at('position', other, at)?.standing ?? 'closed') !== 'closed' &&
              managerPosition(register, other, at) === id,
          );
          const reports = directReports(register, id, at).filter((other) => positions.includes(other));
          found += searched.length;
          expect([...reports].sort()).toEqual([...searched].sort());
        }
    }
    expect(found).toBeGreaterThan(50);
  });

  test('what is told of a position is each of its versions once', () => {
    const { history, positions } = randomHistory(9, 120);
    for (const id of positions) {
      const rows = [...history.register.rows('position', id)].sort(byFrom);
      const told = changesOf(history.register, 'position', id).filter(
        ({ row }) => row.section === 'position',
      );
      expect(told.filter(({ what }) => what !== 'ended').map(({ day: at }) => at)).toEqual(
        rows.map(({ from }) => from).reverse(),
      );
    }
  });
});
