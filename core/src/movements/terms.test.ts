// Terms of an employment, worked by hand: hours for good and for a time, contracts one after another, pay, an extension.
import { beforeEach, describe, expect, test } from '@jest/globals';
import type { MovementInput, MovementKind, Values } from '@gremium/contract';
import { type SmallWorld, smallWorld } from '../../test/small-world';
import { laws } from '../laws';
import { day } from '../time/calendar';
import { Draft } from '../time/draft';
import { decisionOf } from './decisions';
import type { Hired } from './hire';

const on = (text: string) => day(text);
let world: SmallWorld;
let ann: Hired;
let ids = 60_000;

const acted = <K extends MovementKind>(kind: K, input: MovementInput<K>) => {
  const draft = new Draft(world.register, () => ids++, 2);
  const moved = decisionOf(kind)(draft, input, { today: on('2026-06-15') });
  const problems = [...draft.problems, ...laws(world.register, draft.change).map(({ problem }) => problem)];
  return {
    moved,
    codes: problems.map(({ code }) => code),
    undo: () => draft.discard(),
    change: draft.change,
  };
};
const spoken = <S extends 'pay' | 'contract'>(section: S) =>
  world.register
    .referrers(section, 'employmentId', ann.employmentId)
    .map((row) => [row.from, row.until, row.values as Values<S>] as const)
    .sort(([a], [b]) => (a < b ? -1 : 1));
const amounts = () => spoken('pay').map(([from, until, { amount, basis }]) => [from, until, amount, basis]);
const hoursOn = (text: string) =>
  world.register
    .referrers('placement', 'employmentId', ann.employmentId)
    .find((row) => row.from <= text && text < row.until)?.values.hours;

beforeEach(() => {
  world = smallWorld();
  const { position, units, hired, lists } = world;
  ann = hired('A', position(units.terminal, 'Desk'), '2025-01-01', {
    contract: { kindId: lists.PERM },
    pay: [{ amount: '36000', kindId: lists.BASE, basis: 'year' }],
  } as never);
});
const of = () => ({ employmentId: ann.employmentId, reasonId: null });

describe('pay', () => {
  test('goes on as it was said, but for the amount: an amount a year stays one a year', () => {
    const { moved, codes } = acted('change_pay', {
      ...of(),
      firstDay: on('2026-07-01'),
      pay: [{ amount: '37200' }],
    });
    expect(codes).toEqual([]);
    expect(amounts()).toEqual([
      ['2025-01-01', '2026-07-01', '36000', 'year'],
      ['2026-07-01', 'infinity', '37200', 'year'],
    ]);
    expect(moved?.slip.find(({ field }) => field === 'amount')).toMatchObject({
      before: '36000',
      after: '37200',
    });
  });

  test('a later change that is planned stays with a word, stays by decision without one, or gives way', () => {
    acted('change_pay', { ...of(), firstDay: on('2027-01-01'), pay: [{ amount: '40000' }] });
    const raise = (laterOnes?: 'keep' | 'replace') =>
      acted('change_pay', {
        ...of(),
        firstDay: on('2026-07-01'),
        pay: [{ amount: '38000' }],
        ...(laterOnes ? { laterOnes } : {}),
      });
    const asked = raise();
    expect(asked.codes).toEqual(['later_versions']);
    asked.undo();
    const kept = raise('keep');
    expect(kept.codes).toEqual([]);
    expect(amounts().map(([, , amount]) => amount)).toEqual(['36000', '38000', '40000']);
    kept.undo();
    expect(raise('replace').codes).toEqual([]);
    expect(amounts().map(([, , amount]) => amount)).toEqual(['36000', '38000']);
  });

  test('another component stands beside base pay; once is once; nothing is paid to whoever is not there', () => {
    const { draft } = world;
    const kindId = draft.create('list_entry', '-infinity', {
      list: 'pay_kind',
      code: 'SEA',
      label: { en: 'Sea', de: 'See' },
      flags: {},
    });
    acted('change_pay', { ...of(), firstDay: on('2026-07-01'), pay: [{ kindId, amount: '150' }] });
    expect(amounts()).toEqual([
      ['2025-01-01', 'infinity', '36000', 'year'],
      ['2026-07-01', 'infinity', '150', 'month'],
    ]);
    expect(acted('pay_once', { ...of(), paidOn: on('2026-08-15'), kindId, amount: '500' }).codes).toEqual([]);
    const [paid] = world.register.referrers('one_off_payment', 'employmentId', ann.employmentId);
    expect(paid).toMatchObject({ from: '2026-08-15', values: { amount: '500', currency: 'EUR' } });
    for (const { codes } of [
      acted('pay_once', { ...of(), paidOn: on('2024-12-31'), kindId, amount: '500' }),
      acted('change_pay', { ...of(), firstDay: on('2024-12-31'), pay: [{ amount: '1' }] }),
    ])
      expect(codes).toEqual(['employment_unknown']);
  });
});

describe('hours and contract', () => {
  test('hours for a time are what they were again after the last day', () => {
    const terms = { ...of(), firstDay: on('2026-09-01'), lastDay: on('2026-12-31'), hours: 2250 };
    expect(acted('change_terms', terms).codes).toEqual([]);
    expect(['2026-08-31', '2026-09-01', '2026-12-31', '2027-01-01'].map(hoursOn)).toEqual([
      3750, 2250, 2250, 3750,
    ]);
  });

  test('more than the position has room for is refused, above by right with a reason and a day', () => {
    const more = { ...of(), firstDay: on('2026-09-01'), hours: 4500 };
    const refused = acted('change_terms', more);
    expect(refused.codes).toEqual(expect.arrayContaining(['fte_taken']));
    refused.undo();
    const above = { aboveReason: 'Court', reviewOn: on('2026-12-01') };
    const byRight = acted('change_terms', { ...more, above }).codes;
    expect(byRight).toContain('over_by_right');
    expect(byRight).not.toContain('fte_taken');
  });

  test('another kind of contract follows the one there is; the same kind says something else from the day', () => {
    const { draft, lists } = world;
    const FIXED = draft.create('list_entry', '-infinity', {
      list: 'contract_kind',
      code: 'FIXED',
      label: { en: 'Fixed', de: 'Befristet' },
      flags: {},
    });
    acted('change_terms', {
      ...of(),
      firstDay: on('2026-03-01'),
      contract: { probation: 'passed' },
    });
    acted('change_terms', {
      ...of(),
      firstDay: on('2026-09-01'),
      contract: { kindId: FIXED, fixedUntil: on('2027-08-31') },
    });
    expect(
      spoken('contract').map(([from, until, { kindId, fixedUntil, probation }]) => [
        ...[from, until, kindId, fixedUntil, probation],
      ]),
    ).toEqual([
      ['2025-01-01', '2026-03-01', lists.PERM, null, null],
      ['2026-03-01', '2026-09-01', lists.PERM, null, 'passed'],
      ['2026-09-01', 'infinity', FIXED, '2027-08-31', null],
    ]);
  });

  test('nothing said, days turned round, and hours beyond the last day are refused', () => {
    expect(acted('change_terms', { ...of(), firstDay: on('2026-09-01') }).codes).toEqual(['value_missing']);
    const turned = { ...of(), firstDay: on('2026-09-01'), lastDay: on('2026-08-31'), hours: 2250 };
    expect(acted('change_terms', turned).codes).toEqual(['period']);
    acted('leave', {
      employmentId: ann.employmentId,
      lastDay: on('2026-10-31'),
      reasonId: world.lists.LEFT,
      mayReturn: true,
      returnReason: null,
    });
    const beyond = { ...of(), firstDay: on('2026-09-01'), lastDay: on('2026-11-30'), hours: 2250 };
    expect(acted('change_terms', beyond).codes).toEqual(['return_after_end']);
  });
});

describe('an extension', () => {
  const bea = (lastDay: string) =>
    world.hired('B', world.position(world.units.terminal, 'Season'), '2026-01-01', {
      lastDay: on(lastDay),
      contract: { kindId: world.lists.PERM, fixedUntil: on(lastDay) },
      pay: [{ amount: '3000', kindId: world.lists.BASE }],
    } as never);

  test('place, contract and pay go on to the new last day, or for good', () => {
    const { employmentId } = bea('2026-06-30');
    const ends = () =>
      (['placement', 'contract', 'pay'] as const).map((section) =>
        world.register
          .referrers(section, 'employmentId', employmentId)
          .map(({ until }) => until)
          .sort()
          .at(-1),
      );
    const longer = acted('extend', { employmentId, lastDay: on('2026-12-31') });
    expect(longer.codes).toEqual([]);
    expect(ends()).toEqual(['2027-01-01', '2027-01-01', '2027-01-01']);
    const fixed = world.register.referrers('contract', 'employmentId', employmentId);
    expect(fixed.map(({ from, values }) => [from, values.fixedUntil])).toEqual([
      ['2026-01-01', '2026-06-30'],
      ['2026-07-01', '2026-12-31'],
    ]);
    expect(acted('extend', { employmentId, lastDay: null }).codes).toEqual([]);
    expect(ends()).toEqual(['infinity', 'infinity', 'infinity']);
    expect(acted('extend', { employmentId, lastDay: on('2030-01-01') }).codes).toEqual(['nothing_to_extend']);
  });

  test('not to an earlier day, not into a place that somebody else takes, not where a leaving is recorded', () => {
    const { employmentId, positionId } = bea('2026-06-30');
    expect(acted('extend', { employmentId, lastDay: on('2026-05-31') }).codes).toEqual(['period']);
    world.hired('C', positionId, '2026-09-01');
    const taken = acted('extend', { employmentId, lastDay: on('2026-12-31') });
    expect(taken.codes).toContain('place_taken');
    taken.undo();
    expect(acted('extend', { employmentId, lastDay: on('2026-08-31') }).codes).toEqual([]);
    acted('leave', {
      employmentId: ann.employmentId,
      lastDay: on('2026-10-31'),
      reasonId: world.lists.LEFT,
      mayReturn: true,
      returnReason: null,
    });
    const left = acted('extend', { employmentId: ann.employmentId, lastDay: on('2027-10-31') });
    expect(left.codes).toEqual(['nothing_to_extend']);
  });
});
