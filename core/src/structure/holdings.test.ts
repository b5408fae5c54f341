import { describe, expect, test } from '@jest/globals';
import type { Bound, Row } from '@gremium/contract';
import { RowRegister } from '../time/register';
import { statusOf } from '../people/status';
import { holdings, stackedHoldings, vacancies } from './holdings';

let id = 0;
const row = (section: Row['section'], thing: number, from: string, until: string, values: object): Row => ({
  id: ++id,
  lineage: id,
  section,
  thing,
  from: from as Bound,
  until: until as Bound,
  values: { lentHours: 0, awayHours: 0, backfilled: false, ...values } as unknown as Row['values'],
  entry: 1,
});
const placement = (thing: number, [from, until]: [string, string], employmentId: number, hours: number) =>
  row('placement', thing, from, until, {
    employmentId,
    positionId: 5,
    kind: 'primary',
    hours,
    fullTime: 4000,
  });
const employment = (thing: number, personId: number) =>
  row('employment', thing, '2020-01-01', 'infinity', { personId });

describe('holdings of a position', () => {
  test('join what one person held on and on with the same share, over two employments too; a change of share parts them', () => {
    const register = new RowRegister([
      employment(10, 1),
      employment(11, 1),
      employment(12, 2),
      placement(20, ['2020-01-01', '2021-01-01'], 10, 4000),
      placement(21, ['2021-01-01', '2022-01-01'], 11, 4000),
      placement(21, ['2022-01-01', '2023-01-01'], 11, 2000),
      placement(22, ['2022-01-01', '2023-01-01'], 12, 2000),
    ]);
    expect(
      holdings(register, 5).map(({ from, until, values }) => `${from} ${until} ${values.hours}`),
    ).toEqual(['2020-01-01 2022-01-01 4000', '2022-01-01 2023-01-01 2000', '2022-01-01 2023-01-01 2000']);
  });

  test('do not join across a gap', () => {
    const register = new RowRegister([
      employment(10, 1),
      placement(20, ['2020-01-01', '2021-01-01'], 10, 4000),
      placement(21, ['2021-01-02', '2022-01-01'], 10, 4000),
    ]);
    expect(holdings(register, 5)).toHaveLength(2);
  });
});

const limits = (handoverDays: number) =>
  row('position_limits', 5, '2020-01-01', 'infinity', { places: 1, fte: 100, handoverDays });
const stack = (rows: Row[]) =>
  stackedHoldings(new RowRegister(rows), 5, '2022-01-01' as Bound).map(
    ({ row: { from }, share, foot }) => `${from} ${foot}+${share}`,
  );

describe('holdings side by side', () => {
  const rows = [
    employment(10, 1),
    employment(12, 2),
    placement(20, ['2020-01-01', '2021-01-11'], 10, 4000),
    placement(22, ['2021-01-01', 'infinity'], 12, 2000),
  ];

  test('stand on each other; a leaver in a handover carries nobody', () => {
    expect(stack([...rows, limits(0)])).toEqual(['2020-01-01 0+100', '2021-01-01 100+50']);
    expect(stack([...rows, limits(14)])).toEqual(['2020-01-01 0+100', '2021-01-01 0+50']);
  });

  test('acting takes up nothing', () => {
    const acting = row('placement', 23, '2021-06-01', '2021-07-01', {
      employmentId: 10,
      positionId: 5,
      kind: 'acting',
      hours: 4000,
      fullTime: 4000,
    });
    expect(stack([...rows, acting, limits(14)])).toHaveLength(2);
  });
});

describe('vacancies', () => {
  test('are the days in force that nobody holds; on hold and planned are none', () => {
    const register = new RowRegister([
      row('position', 5, '2020-01-01', '2020-03-01', { standing: 'planned', unitId: 1, jobId: 1 }),
      row('position', 5, '2020-03-01', '2022-01-01', { standing: 'in_force', unitId: 1, jobId: 1 }),
      row('position', 5, '2022-01-01', 'infinity', { standing: 'on_hold', unitId: 1, jobId: 1 }),
      employment(10, 1),
      placement(20, ['2020-05-01', '2021-01-01'], 10, 4000),
      placement(21, ['2021-02-01', '2021-12-01'], 10, 4000),
    ]);
    expect(vacancies(register, 5).map(({ from, until }) => `${from} ${until}`)).toEqual([
      '2020-03-01 2020-05-01',
      '2021-01-01 2021-02-01',
      '2021-12-01 2022-01-01',
    ]);
  });
});

describe('the status of a person', () => {
  const away = row('placement', 21, '2021-01-01', '2021-02-01', {
    employmentId: 30,
    positionId: 5,
    kind: 'primary',
    hours: 4000,
    fullTime: 4000,
    awayHours: 4000,
  });
  const register = new RowRegister([
    row('employment', 30, '2020-01-01', '2022-01-01', { personId: 1, markedMain: false }),
    placement(21, ['2020-01-01', '2021-01-01'], 30, 4000),
    away,
    placement(21, ['2021-02-01', '2022-01-01'], 30, 4000),
  ]);
  test.each([
    ['2019-12-31', 'coming'],
    ['2020-01-01', 'at_work'],
    ['2021-01-15', 'away'],
    ['2021-12-31', 'at_work'],
    ['2022-01-01', 'left'],
  ])('on %s is %s', (on, status) => {
    expect(statusOf(register, 1, on as Bound)).toBe(status);
  });
});
