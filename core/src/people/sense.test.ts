import { describe, expect, test } from '@jest/globals';
import type { Bound, Change, Row, SectionName } from '@gremium/contract';
import { RowRegister } from '../time/register';
import { freshRows, sense } from './sense';

const [PERSON, OTHER, EMPLOYMENT, OLD, PAY, BASE, ENTITY] = [1, 2, 3, 4, 5, 6, 7];
let id = 100;
const row = (
  section: SectionName,
  thing: number,
  values: object,
  from = '-infinity',
  until = 'infinity',
): Row =>
  ({
    id: ++id,
    lineage: id,
    section,
    thing,
    from: from as Bound,
    until: until as Bound,
    values,
    entry: 1,
  }) as Row;

const employment = (thing: number, personId: number, from: string, until = 'infinity') =>
  row(
    'employment',
    thing,
    { personId, legalEntityId: ENTITY, workerTypeId: 8, markedMain: false, continuesId: null },
    from,
    until,
  );
const name = (thing: number, given: string, family: string) =>
  row('person_name', thing, {
    given,
    family,
    middle: null,
    prefix: null,
    birthName: null,
    preferred: null,
    sortName: null,
  });
const person = (thing: number, birthDate: string | null, more = {}) =>
  row('person', thing, { number: String(thing), birthDate, ...more });
const pay = (amount: string, from: string, until = 'infinity', more = {}) =>
  row(
    'pay',
    PAY,
    {
      employmentId: EMPLOYMENT,
      kindId: BASE,
      amount,
      currency: 'EUR',
      basis: 'month',
      rate: 'full_time',
      reasonId: null,
      ...more,
    },
    from,
    until,
  );
const ground = [
  row('list_entry', BASE, {
    list: 'pay_kind',
    code: 'BASE',
    flags: { base: true },
    label: { en: 'B', de: 'B' },
  }),
  row('legal_entity', ENTITY, { code: 'E', name: 'E', currency: 'EUR', country: 'FI' }),
  employment(EMPLOYMENT, PERSON, '2020-01-01'),
];

/** Codes found after a change; what it supersedes stood there before. */
const codes = (change: Change, others: Row[] = []): string[] => {
  const register = new RowRegister([...ground, ...others, ...change.superseded]);
  register.apply(change);
  return sense(register, change, { twins: true, today: '2026-11-23' as never }).problems.map(
    ({ code }) => code,
  );
};

describe('pay', () => {
  test.each([
    // half as much again and half of it are still meant; a cent beyond is asked
    ['3000', '4500', []],
    ['3000', '4500.01', ['pay_jump']],
    ['3000', '1500', []],
    ['3000', '1499.99', ['pay_jump']],
    ['3000', '0', ['pay_not_positive']],
    ['3000', '-5', ['pay_not_positive']],
  ])('from %s to %s: %j', (was, is, expected) => {
    const before = pay(was, '2026-01-01');
    const change = {
      superseded: [before],
      recorded: [pay(was, '2026-01-01', '2027-01-01'), pay(is, '2027-01-01')],
    };
    expect(codes(change)).toEqual(expected);
  });

  test('of somebody new is unlikely below one and above ten thousand an hour, whatever it is for', () => {
    const said = (amount: string, basis: string) =>
      codes({ superseded: [], recorded: [pay(amount, '2026-01-01', 'infinity', { basis })] });
    // 40 hours a week: a month has 52 × 40 ÷ 12 = 173.33 hours
    expect([said('26.40', 'month'), said('173.34', 'month'), said('173.33', 'month')]).toEqual([
      ['pay_unlikely'],
      [],
      ['pay_unlikely'],
    ]);
    expect([said('0.99', 'hour'), said('1', 'hour'), said('10000.01', 'hour')]).toEqual([
      ['pay_unlikely'],
      [],
      ['pay_unlikely'],
    ]);
  });

  test('in another currency than the legal entity pays in is asked once, not with every later change', () => {
    const kroner = pay('3000', '2026-01-01', 'infinity', { currency: 'SEK' });
    expect(codes({ superseded: [], recorded: [kroner] })).toEqual(['pay_currency']);
    const reasoned = pay('3000', '2026-01-01', 'infinity', { currency: 'SEK', reasonId: 9 });
    expect(codes({ superseded: [kroner], recorded: [reasoned] })).toEqual([]);
  });

  test('that is only cut says nothing new', () => {
    const before = pay('3000', '2026-01-01');
    const cut = pay('3000', '2026-01-01', '2026-07-01');
    expect(freshRows({ superseded: [before], recorded: [cut] })).toEqual([]);
  });
});

describe('people', () => {
  test('a birth date out of reason is asked where it is said, not where something else is', () => {
    expect(codes({ superseded: [], recorded: [person(PERSON, '1893-05-01')] })).toEqual([
      'birth_date_unlikely',
    ]);
    const change = {
      superseded: [person(PERSON, '1893-05-01')],
      recorded: [person(PERSON, '1893-05-01', { gender: 'female' })],
    };
    expect(codes(change)).toEqual([]);
  });

  test.each([
    ['Jürgen', 'Groß', 'Jurgen', 'Gross', true],
    ['Maija', 'Virtanen', 'Virtanen', 'Maija', true],
    ['Maija', 'Virtanen', 'Maija', 'Virtamen', true],
    ['Maija', 'Virtanen', 'Matti', 'Virtanen', false],
    ['Bo', 'Li', 'Bo', 'Lu', true],
  ])('%s %s and %s %s, born on one day, are alike: %p', (given, family, otherGiven, otherFamily, alike) => {
    const known = [
      person(OTHER, '1990-04-02'),
      name(OTHER, otherGiven, otherFamily),
      employment(OLD, OTHER, '2015-01-01'),
    ];
    const recorded = [person(PERSON, '1990-04-02'), name(PERSON, given, family)];
    expect(codes({ superseded: [], recorded }, known)).toEqual(alike ? ['twin_birth'] : []);
  });

  test('who left before and is met again seems to return', () => {
    const known = [
      person(OTHER, '1990-04-02'),
      name(OTHER, 'Maija', 'Virtanen'),
      employment(OLD, OTHER, '2015-01-01', '2018-01-01'),
    ];
    const recorded = [person(PERSON, '1990-04-02'), name(PERSON, 'Maija', 'Virtanen')];
    expect(codes({ superseded: [], recorded }, known)).toEqual(['twin_returns']);
  });
});

describe('somebody who begins', () => {
  const [SEA, UNIT, POSITION, PLACEMENT] = [20, 21, 22, 23];
  const ages = [
    row('least_age', 30, { country: 'FI', workerTypeId: null, atSea: false, age: 15 }),
    row('least_age', 31, { country: null, workerTypeId: 8, atSea: false, age: 17 }),
    row('least_age', 32, { country: null, workerTypeId: null, atSea: true, age: 18 }),
  ];
  const place = (kind: number) => [
    row('list_entry', SEA, { list: 'unit_kind', code: 'VESSEL', flags: { atSea: true } }),
    row('unit', UNIT, { parentId: null, kindId: kind, locationId: null }),
    row('position', POSITION, { unitId: UNIT, jobId: 1, hours: null, standing: 'in_force' }),
    row('placement', PLACEMENT, {
      employmentId: EMPLOYMENT,
      positionId: POSITION,
      kind: 'primary',
      hours: 4000,
    }),
  ];
  const born = (birthDate: string, others: Row[] = []) =>
    codes({ superseded: [], recorded: [person(PERSON, birthDate)] }, others);

  test('is not born after today, nor after the first day', () => {
    expect(born('2026-11-24')).toEqual(['birth_date_ahead']);
    expect(born('2020-01-02')).toEqual(['birth_date_after_first']);
  });

  test('is old enough by the row that says most: at sea, then by worker type, then by country', () => {
    // 1 January 2020: 14 years and a day, 15, 17 and 18 years old
    expect([
      born('2005-12-31'),
      born('2005-12-31', ages.slice(0, 1)),
      born('2005-01-01', ages.slice(0, 1)),
    ]).toEqual([[], ['too_young'], []]);
    expect([born('2003-01-02', ages), born('2003-01-01', ages)]).toEqual([['too_young'], []]);
    expect([
      born('2003-01-01', [...ages, ...place(SEA)]),
      born('2002-01-01', [...ages, ...place(SEA)]),
    ]).toEqual([['too_young'], []]);
    expect(born('2003-01-01', [...ages, ...place(99)])).toEqual([]);
    expect([born('2006-01-02', ages), born('1929-01-01', ages)]).toEqual([
      ['birth_date_unlikely'],
      ['birth_date_unlikely'],
    ]);
  });

  test('more than two years ahead is asked about, once', () => {
    const far = (from: string) => codes({ superseded: [], recorded: [employment(40, 41, from)] });
    expect([far('2028-11-23'), far('2028-11-24')]).toEqual([[], ['first_day_far']]);
    const old = employment(40, 41, '2028-12-01');
    expect(
      codes({ superseded: [old], recorded: [{ ...old, id: 9999, until: '2029-12-01' as Bound }] }),
    ).toEqual([]);
  });

  test('comes back and is asked about with the birth date that is known', () => {
    const known = [person(OTHER, '2010-01-01'), ...ages];
    expect(codes({ superseded: [], recorded: [employment(OLD, OTHER, '2026-06-01')] }, known)).toEqual([
      'too_young',
    ]);
  });
});

describe('an honour', () => {
  const honour = (code: string, flags = {}) => row('list_entry', 50, { list: 'honour', code, flags });
  const given = (awardedOn: string, orderKind: string | null, flags = {}) =>
    codes(
      {
        superseded: [],
        recorded: [row('award', 51, { personId: PERSON, honourId: 50, awardedOn, orderKind })],
      },
      [honour('H', flags)],
    );

  test('of ours is not given before somebody was here; one earned elsewhere is welcome', () => {
    expect([given('2019-12-31', 'internal'), given('2020-01-01', 'internal')]).toEqual([
      ['honour_before_us'],
      [],
    ]);
    expect([
      given('2019-12-31', 'state'),
      given('2019-12-31', null),
      given('2019-12-31', null, { years: 10 }),
    ]).toEqual([[], [], ['honour_before_us']]);
  });

  test('is not dated after today', () => {
    expect([given('2026-11-23', 'state'), given('2026-11-24', 'state')]).toEqual([[], ['honour_ahead']]);
  });
});
