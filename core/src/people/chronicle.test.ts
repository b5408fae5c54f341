// One person's ten events, worked out by hand from the rows.
import { describe, expect, test } from '@jest/globals';
import type { Bound, Row, SectionName, Values } from '@gremium/contract';
import { momentBefore } from '../time/calendar';
import { RowRegister } from '../time/register';
import { chronicle } from './chronicle';

const PERSON = 1;
const [FIRST, SECOND] = [10, 11];
let id = 100;
const row = <S extends SectionName>(
  section: S,
  thing: number,
  [from, until]: [string, string],
  values: Partial<Values<S>>,
): Row => {
  id += 1;
  return {
    id,
    lineage: id,
    section,
    thing,
    from: from as Bound,
    until: until as Bound,
    values: values as unknown as Values,
    entry: 7,
  };
};

const employment = (thing: number, period: [string, string], continuesId: number | null) =>
  row('employment', thing, period, { personId: PERSON, legalEntityId: thing, continuesId });
const placement = (thing: number, period: [string, string], positionId: number, employmentId = FIRST) =>
  row('placement', thing, period, { employmentId, positionId, kind: 'primary', hours: 3750, fullTime: 3750 });
const pay = (thing: number, period: [string, string], amount: string, employmentId = FIRST) =>
  row('pay', thing, period, { employmentId, kindId: 50, amount });

const told = (rows: Row[]): string[] =>
  chronicle(new RowRegister(rows), PERSON).map(
    ({ day, what, isEnd }) => `${day} ${what}${isEnd ? ' (end)' : ''}`,
  );

describe('the chronicle of a person', () => {
  test('tells joining, a move, a raise and leaving, latest first; on one day the heavier first', () => {
    expect(
      told([
        employment(FIRST, ['2024-01-01', '2026-01-01'], null),
        placement(20, ['2024-01-01', '2025-03-01'], 30),
        placement(21, ['2025-03-01', '2026-01-01'], 31),
        pay(40, ['2024-01-01', '2025-03-01'], '3000'),
        pay(40, ['2025-03-01', '2026-01-01'], '3200'),
      ]),
    ).toEqual([
      '2025-12-31 left (end)',
      '2025-03-01 moved',
      '2025-03-01 pay',
      '2024-01-01 joined',
      '2024-01-01 placed',
      '2024-01-01 pay',
    ]);
  });

  test('a continued employment is no leaving and no joining', () => {
    expect(
      told([
        employment(FIRST, ['2024-01-01', '2025-01-01'], null),
        employment(SECOND, ['2025-01-01', 'infinity'], FIRST),
      ]),
    ).toEqual(['2025-01-01 continued', '2024-01-01 joined']);
  });

  test('a share that changes within a placement is told as such; a second placement that ends alone is an end', () => {
    expect(
      told([
        employment(FIRST, ['2024-01-01', 'infinity'], null),
        placement(20, ['2024-01-01', '2025-06-01'], 30),
        placement(20, ['2025-06-01', 'infinity'], 30),
        row('placement', 22, ['2024-02-01', '2024-05-01'], {
          employmentId: FIRST,
          positionId: 33,
          kind: 'second',
        }),
      ]),
    ).toEqual([
      '2025-06-01 share',
      '2024-04-30 placement_ended (end)',
      '2024-02-01 placed',
      '2024-01-01 joined',
      '2024-01-01 placed',
    ]);
  });

  test('a fixed term and a running probation are dates ahead; names that always held are not told', () => {
    expect(
      told([
        row('person_name', PERSON, ['-infinity', '2025-05-05'], { family: 'Lind' }),
        row('person_name', PERSON, ['2025-05-05', 'infinity'], { family: 'Falk' }),
        employment(FIRST, ['2024-01-01', 'infinity'], null),
        row('contract', 60, ['2024-01-01', 'infinity'], {
          employmentId: FIRST,
          kindId: 51,
          fixedUntil: '2026-12-31' as never,
          probationUntil: '2024-06-30' as never,
          probation: 'running',
        }),
      ]),
    ).toEqual([
      '2026-12-31 fixed_end',
      '2025-05-05 named',
      '2024-06-30 probation_end',
      '2024-01-01 joined',
      '2024-01-01 contract',
    ]);
  });
});

describe('the moment before an entry', () => {
  test.each([
    ['2026-11-23T09:40:00.000005Z', '2026-11-23T09:40:00.000004Z'],
    ['2026-11-23T09:40:00.000000Z', '2026-11-23T09:39:59.999999Z'],
    ['2026-11-23T09:40:00Z', '2026-11-23T09:39:59.999999Z'],
    ['2026-03-01T00:00:00.000000Z', '2026-02-28T23:59:59.999999Z'],
  ])('of %s is %s', (moment, before) => {
    expect(momentBefore(moment as never)).toBe(before);
  });
});
