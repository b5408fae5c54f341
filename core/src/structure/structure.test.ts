// Hand-worked examples on a small organisation: Company > Harbour > Terminal, with a head each.
import { beforeEach, describe, expect, test } from '@jest/globals';
import type { Bound, HireInput } from '@gremium/contract';
import { BEGINNING, day } from '../time/calendar';
import { hasErrors } from '../time/problem';
import { laws } from '../laws';
import { hire } from '../movements/hire';
import { leave } from '../movements/leave';
import { transfer } from '../movements/transfer';
import { exceeds, fraction, hundredths, sum } from './fraction';
import { managerOf, managerPosition } from './manager';
import { followAbsences } from '../people/absences';
import { sense } from '../people/sense';
import { positionState, vacancyOn } from './occupancy';
import { rollUp } from '../../test/roll-up-by-rows';
import { START, type SmallWorld, smallWorld } from '../../test/small-world';
import { monthly, yearly } from '../people/yearly';

let world: SmallWorld;
let { register, draft, units, entity, job, lists, position, hired, head }: SmallWorld = smallWorld();
beforeEach(() => {
  world = smallWorld();
  ({ register, draft, units, entity, job, lists, position, hired, head } = world);
});

const broken = () => laws(register, draft.change).map(({ problem }) => problem.code);

describe('shares', () => {
  test('three people at 12.5 of 37.5 hours are exactly 1.0 FTE', () => {
    const share = fraction(1250, 3750);
    expect(exceeds(sum([share, share, share]), fraction(1))).toBe(false);
    expect(hundredths(sum([share, share]))).toBe(67);
    expect(hundredths(fraction(1, 8))).toBe(13);
  });

  test('and fill a position of three places and 1.0 FTE; a fourth is refused', () => {
    const shared = position(units.terminal, 'Shared', {}, { places: 3, fte: 100 });
    for (const name of ['A', 'B', 'C']) hired(name, shared, '2024-02-01', { hours: 1250 });
    expect(positionState(register, shared, day('2024-02-01'))).toMatchObject({
      occupancy: 'filled',
      freePlaces: 0,
    });
    expect(positionState(register, shared, day('2024-01-31')).occupancy).toBe('vacant');
    expect(broken()).toEqual([]);
    hired('D', shared, '2024-03-01', { hours: 100 });
    expect(broken()).toEqual(['place_taken']);
  });
});

describe('occupancy', () => {
  test('half a share of a place with FTE left is filled for places, part filled with two places', () => {
    const one = position(units.terminal, 'One');
    const two = position(units.terminal, 'Two', {}, { places: 2, fte: 200 });
    hired('A', one, '2024-02-01', { hours: 1875 });
    hired('B', two, '2024-02-01');
    expect(positionState(register, one, day('2024-03-01')).occupancy).toBe('filled');
    const state = positionState(register, two, day('2024-03-01'));
    expect([state.occupancy, state.freePlaces, hundredths(state.freeFte!)]).toEqual(['part_filled', 1, 100]);
  });

  test('a handover of 14 days lets the next begin on the 14th day before the last, not earlier', () => {
    const place = position(units.terminal, 'Handover', {}, { handoverDays: 14 });
    hired('Old', place, '2024-02-01', { lastDay: day('2024-06-30') });
    hired('New', place, '2024-06-16');
    expect(broken()).toEqual([]);
    expect(positionState(register, place, day('2024-06-20')).holders).toHaveLength(2);
    expect(positionState(register, place, day('2024-06-20')).occupancy).toBe('filled');
    const other = position(units.terminal, 'Too early', {}, { handoverDays: 14 });
    hired('Older', other, '2024-02-01', { lastDay: day('2024-06-30') });
    hired('Newer', other, '2024-06-15');
    expect(broken()).toEqual(['place_taken']);
  });

  test('a place is vacant from the day after the last holder', () => {
    const place = position(units.terminal, 'Vacant');
    hired('A', place, '2024-02-01', { lastDay: day('2024-05-31') });
    expect(vacancyOn(register, place, day('2024-06-10'))).toEqual({ since: '2024-06-01', days: 10 });
    expect(vacancyOn(register, place, day('2024-05-31'))).toBeNull();
    expect(vacancyOn(register, place, day('2024-01-15'))).toEqual({ since: START, days: 15 });
  });

  test('days on hold are no days vacant: left 30 November, on hold from January to June, 10 July is day 41', () => {
    const place = position(units.terminal, 'Held up');
    hired('A', place, '2024-02-01', { lastDay: day('2024-11-30') });
    const put = (from: string, standing: 'on_hold' | 'in_force') =>
      draft.set('position', place, { from: day(from), values: { standing } });
    put('2025-01-01', 'on_hold');
    put('2025-07-01', 'in_force');
    expect(vacancyOn(register, place, day('2025-07-10'))).toEqual({ since: '2024-12-01', days: 41 });
    expect(vacancyOn(register, place, day('2025-03-01'))).toBeNull();
  });

  test('long absence keeps the place held; backfilled it is free for another', () => {
    const place = position(units.terminal, 'Away');
    const { placementId, employmentId } = hired('A', place, '2024-02-01');
    const kindId = draft.create('list_entry', BEGINNING, {
      list: 'absence_kind',
      code: 'PARENT',
      label: { en: 'Parent', de: 'Eltern' },
      flags: {},
    });
    draft.create('absence', day('2024-04-01'), { employmentId, kindId }, day('2024-07-01'));
    followAbsences(draft);
    expect(positionState(register, place, day('2024-05-01')).occupancy).toBe('filled');
    draft.set('placement', placementId, {
      from: day('2024-04-01'),
      until: day('2024-07-01'),
      values: { backfilled: true },
    });
    expect(positionState(register, place, day('2024-05-01')).occupancy).toBe('vacant');
    hired('B', place, '2024-04-01', { lastDay: day('2024-06-30') });
    expect(broken()).toEqual([]);
  });
});

describe('managers', () => {
  test('over the head of the unit, above for the head, by the explicit position first', () => {
    const [top, middle, clerk] = [
      position(units.company, 'Top'),
      position(units.harbour, 'Middle'),
      position(units.terminal, 'Clerk'),
    ];
    head(units.company, top);
    head(units.harbour, middle);
    expect([clerk, middle, top].map((id) => managerPosition(register, id, START))).toEqual([
      middle,
      top,
      null,
    ]);
    draft.set('position', clerk, { from: day('2024-06-01'), values: { reportsToId: top } });
    expect(managerPosition(register, clerk, day('2024-06-01'))).toBe(top);
    draft.set('position', top, { from: day('2024-09-01'), values: { standing: 'closed' } });
    expect(managerPosition(register, clerk, day('2024-09-01'))).toBe(middle);
  });

  test('a vacant manager is bridged, an acting one leads, nobody is their own manager', () => {
    const [top, middle, clerk] = [
      position(units.company, 'Top'),
      position(units.harbour, 'Middle'),
      position(units.terminal, 'Clerk'),
    ];
    head(units.company, top);
    head(units.harbour, middle);
    const boss = hired('Boss', top, '2024-01-01');
    const { personId, placementId } = hired('Clerk', clerk, '2024-01-01');
    const on = day('2024-02-01');
    expect(managerOf(register, personId, on)).toMatchObject({ personId: boss.personId, bridged: true });
    const lead = hired('Lead', middle, '2024-03-01');
    expect(managerOf(register, personId, day('2024-03-01'))).toMatchObject({
      personId: lead.personId,
      bridged: false,
    });
    const acting = {
      ...register.at('placement', placementId, on)!,
      kind: 'acting' as const,
      positionId: middle,
      hours: 0,
    };
    draft.create('placement', day('2024-04-01'), acting);
    const other = hired('Other', position(units.terminal, 'Clerk 2'), '2024-04-01');
    expect(managerOf(register, other.personId, day('2024-04-01'))?.personId).toBe(personId);
    // acting for one's own manager: oneself is skipped, the holder leads
    expect(managerOf(register, personId, day('2024-04-01'))?.personId).toBe(lead.personId);
  });

  test('a ring is refused, naming it', () => {
    const [a, b] = [position(units.harbour, 'A'), position(units.terminal, 'B')];
    draft.set('position', a, { from: START, values: { reportsToId: b } });
    expect(broken()).toEqual([]);
    draft.set('position', b, { from: day('2024-05-01'), values: { reportsToId: a } });
    const offence = laws(register, draft.change)[0]!;
    expect([offence.problem.code, offence.problem.params['day']]).toEqual(['reporting_ring', '2024-05-01']);
    draft.set('unit', units.company, { from: day('2025-01-01'), values: { parentId: units.terminal } });
    expect(broken()).toContain('unit_ring');
  });
});

describe('movements', () => {
  test('a transfer to another legal entity continues the employment with its terms', () => {
    const [here, there] = [
      position(units.harbour, 'Here'),
      position(units.terminal, 'There', { legalEntityId: entity.ee }),
    ];
    const pay = [
      {
        kindId: lists['BASE']!,
        amount: '3000',
        currency: 'EUR',
        basis: 'month' as const,
        rate: 'full_time' as const,
      },
    ];
    const { personId, employmentId } = hired('A', here, '2024-02-01', { pay });
    const done = transfer(draft, {
      personId,
      positionId: there,
      firstDay: day('2024-09-01'),
      reasonId: null,
    })!;
    expect([done.continued, register.rows('employment', employmentId)[0]!.until]).toEqual([
      true,
      '2024-09-01',
    ]);
    expect(register.at('employment', done.employmentId, day('2024-09-01'))).toMatchObject({
      continuesId: employmentId,
      legalEntityId: entity.ee,
      seniorityDate: '2024-02-01',
    });
    expect(register.referrers('pay', 'employmentId', done.employmentId).map(({ from }) => from)).toEqual([
      '2024-09-01',
    ]);
    expect(broken()).toEqual([]);
  });

  test('where hires need no position one is made, and closes the day after its holder has left', () => {
    draft.set('unit', units.terminal, { from: START, values: { hiresNeedPosition: false } });
    const done = hired('A', undefined as never, '2024-02-01', { unitId: units.terminal, jobId: job });
    expect(register.at('position', done.positionId, day('2024-02-01'))).toMatchObject({
      madeOnHire: true,
      standing: 'in_force',
    });
    leave(draft, {
      employmentId: done.employmentId,
      lastDay: day('2024-08-31'),
      reasonId: lists['LEFT']!,
      mayReturn: true,
      returnReason: null,
    });
    const standing = (on: Bound) => register.at('position', done.positionId, on)?.standing;
    expect([standing(day('2024-08-31')), standing(day('2024-09-01'))]).toEqual(['in_force', 'closed']);
    expect(broken()).toEqual([]);
    hired('B', undefined as never, '2024-02-01', { unitId: units.harbour, jobId: job });
    expect(draft.problems.map(({ code }) => code)).toEqual(['hires_need_position']);
  });

  test('hiring into a position that is not in force, or twice into one legal entity, is refused', () => {
    const planned = position(units.terminal, 'Planned', { standing: 'planned' });
    hired('A', planned, '2024-02-01');
    expect(broken()).toEqual(['position_not_in_force']);
    const [one, two] = [position(units.terminal, 'P1'), position(units.terminal, 'P2')];
    const { personId } = hired('B', one, '2024-02-01');
    hire(draft, {
      person: { id: personId },
      positionId: two,
      firstDay: day('2024-05-01'),
      pay: [],
      reasonId: null,
    } as HireInput);
    expect(hasErrors(draft.problems)).toBe(true);
    expect(draft.problems.at(-1)?.code).toBe('person_employed');
  });
});

describe('warnings of a hire', () => {
  const pay = (amount: string, rate: 'full_time' | 'actual' = 'full_time') => [
    { kindId: lists['BASE']!, amount, currency: 'EUR', basis: 'month' as const, rate },
  ];

  test('pay outside the range of the grade is said, its bounds are inside, part-time pay is compared at full time', () => {
    const gradeId = draft.create('grade', BEGINNING, { code: 'G', name: 'G', level: 1, steps: 1 });
    const range = { minimum: '2450', middle: '2880', maximum: '3310', currency: 'EUR', fullTime: 3750 };
    draft.create('grade_range', BEGINNING, { gradeId, ...range });
    const said = (amount: string, rate?: 'actual', hours?: number) => {
      const before = draft.change.recorded.length;
      const place = position(units.terminal, `Paid ${draft.newId()}`, { gradeId });
      hired(`Paid ${draft.newId()}`, place, '2024-02-01', {
        pay: pay(amount, rate),
        ...(hours ? { hours } : {}),
      });
      const change = { recorded: draft.change.recorded.slice(before), superseded: [] };
      return sense(register, change, { twins: false, today: '2026-11-23' as never }).problems.map(
        ({ code }) => code,
      );
    };
    expect([said('2450'), said('3310'), said('2449.99'), said('3310.01')]).toEqual([
      [],
      [],
      ['pay_outside_range'],
      ['pay_outside_range'],
    ]);
    // half time: 1,500 is 3,000 at full time; 1,700 is 3,400
    expect([said('1500', 'actual', 1875), said('1700', 'actual', 1875)]).toEqual([[], ['pay_outside_range']]);
  });

  test('hiring into a unit that has units below it asks whether one of them is meant', () => {
    draft.set('unit', units.company, { from: START, values: { hiresNeedPosition: false } });
    hired('A', undefined as never, '2024-02-01', { unitId: units.harbour, jobId: job });
    expect(draft.problems.map(({ code, severity }) => [code, severity])).toEqual([
      ['unit_has_sub_units', 'warning'],
    ]);
    expect(draft.problems[0]!.params['units']).toEqual([{ kind: 'unit', id: units.terminal }]);
  });
});

describe('roll-ups', () => {
  test('sum own figures over the branch; span and cost are worked out by hand', () => {
    const [top, middle] = [position(units.company, 'Top'), position(units.harbour, 'Middle')];
    const clerks = [position(units.terminal, 'C1'), position(units.terminal, 'C2')] as const;
    head(units.company, top);
    head(units.harbour, middle);
    const pay = (amount: string) => [
      {
        kindId: lists['BASE']!,
        amount,
        currency: 'EUR',
        basis: 'month' as const,
        rate: 'full_time' as const,
      },
    ];
    hired('Top', top, '2024-01-01', { pay: pay('5000') });
    hired('Middle', middle, '2024-01-01', { pay: pay('4000') });
    hired('Clerk', clerks[0], '2024-01-01', { hours: 1875, pay: pay('3000.50') });
    const figures = rollUp(register, day('2024-06-01'));
    const { own, branch } = figures.get(units.company)!;
    expect([own.people, branch.people, hundredths(branch.fte), branch.depth]).toEqual([1, 3, 250, 3]);
    expect(branch.marks).toMatchObject({ filled: 3, vacant: 1 });
    expect([branch.managers, branch.reports, branch.freePlaces]).toEqual([2, 2, 1]);
    // 12 × 5000 + 12 × 4000 + 12 × 3000.50 ÷ 2 = 126,003
    expect(hundredths(branch.cost.get('EUR')!)).toBe(12_600_300);
    expect(hundredths(yearly({ amount: '20', basis: 'hour' }, { fullTime: 3750, days: 500 }))).toBe(
      3_900_000,
    );
    // thirteen months are paid; a bonus of 250.50 four times; a month in its range is a month, however many are paid
    expect(
      hundredths(yearly({ amount: '3000', basis: 'month', timesAYear: 13 }, { fullTime: 3750, days: 500 })),
    ).toBe(3_900_000);
    expect(
      hundredths(yearly({ amount: '250.50', basis: 'time', timesAYear: 4 }, { fullTime: 3750, days: 500 })),
    ).toBe(100_200);
    expect(
      hundredths(monthly({ amount: '3000', basis: 'month', timesAYear: 13 }, { fullTime: 3750, days: 500 })),
    ).toBe(300_000);
    expect(hundredths(monthly({ amount: '36000', basis: 'year' }, { fullTime: 3750, days: 500 }))).toBe(
      300_000,
    );
  });
});
