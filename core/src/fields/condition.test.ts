// Conditions over fields given by hand: three values, exact decimals, places of errors; picked ones and their text.
import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { fraction } from '../structure/fraction';
import { decimal } from '../people/yearly';
import { ConditionError, type Ground, compileCondition } from './condition';
import type { Cursor } from './cursor';
import type { ReportField, Value, ValueKind } from './field';
import { type Operand, type Simple, simpleOf, simpleText } from './simple';

type Row = Record<string, Value>;

const fieldOf = (id: string, kind: ValueKind, needs: string[] = ['person']): ReportField => ({
  id,
  section: 'person',
  name: id.split('.')[1] as string,
  kind,
  needs: needs as ReportField['needs'],
  read: (at) => (at as unknown as Row)[id] ?? null,
  source: () => 0,
});

const FIELDS = [
  fieldOf('grade.level', 'number'),
  fieldOf('pay.amount', 'exact', ['pay']),
  fieldOf('job.hours', 'hundredths'),
  fieldOf('contract.fixedUntil', 'day'),
  fieldOf('person.name', 'text'),
  fieldOf('person.member', 'yes_no'),
  fieldOf('unit.kindId', 'entry'),
];

const ground = (more: Partial<Ground> = {}): Ground => ({
  fields: new Map(FIELDS.map((field) => [field.id, field])),
  coding: { codeOf: (_field, id) => ({ 1: 'TEAM', 2: 'SITE' })[id] ?? null },
  on: '2027-03-01',
  today: '2026-11-23',
  hidden: () => null,
  ...more,
});
const ask = (text: string, row: Row, more: Partial<Ground> = {}) =>
  compileCondition(text, ground(more))(row as unknown as Cursor);
const wrong = (text: string, more: Partial<Ground> = {}): [string, unknown] => {
  try {
    compileCondition(text, ground(more));
  } catch (error) {
    if (error instanceof ConditionError) return [error.code, error.params];
    throw error;
  }
  throw new Error('nothing wrong');
};

describe('three values', () => {
  test('levels 3 4 5 5 6 7 8 – – 5 2 9: above 5 four match, three stand at the boundary, two have no value; not above 5 six', () => {
    const levels = [3, 4, 5, 5, 6, 7, 8, null, null, 5, 2, 9];
    const all = (text: string, more = {}) => levels.map((level) => ask(text, { 'grade.level': level }, more));
    const above = all('grade.level > 5');
    expect(above.filter((is) => is === true)).toHaveLength(4);
    expect(above.filter((is) => is === null)).toHaveLength(2);
    const nearly = all('grade.level > 5', { isInclusive: true });
    expect(nearly.filter((is, i) => is === true && above[i] === false)).toHaveLength(3);
    expect(all('!(grade.level > 5)').filter((is) => is === true)).toHaveLength(6);
    expect(all('!(grade.level > 5)', { isInclusive: true }).filter((is) => is === true)).toHaveLength(6);
  });

  test('no value || true is true, no value && false is false, the rest is no value', () => {
    const row = { 'grade.level': null, 'person.member': true };
    expect(ask('grade.level > 1 || person.member', row)).toBe(true);
    expect(ask('person.member || grade.level > 1', row)).toBe(true);
    expect(ask('grade.level > 1 && !person.member', row)).toBe(false);
    expect(ask('!person.member && grade.level > 1', row)).toBe(false);
    expect(ask('grade.level > 1 && person.member', row)).toBeNull();
    expect(ask('!(grade.level > 1)', row)).toBeNull();
    expect(ask('blank(grade.level)', row)).toBe(true);
    expect(ask('grade.level + 1 > 1', row)).toBeNull();
  });
});

describe('values', () => {
  test('decimals are exact, of literals too', () => {
    const row = { 'pay.amount': decimal('0.3') };
    expect(ask('pay.amount == 0.1 + 0.2', row)).toBe(true);
    expect(ask('pay.amount * 3 == 0.9', row)).toBe(true);
    expect(ask('pay.amount / 3 == 0.1', row)).toBe(true);
    expect(ask('1 / pay.amount > 3.3333', row)).toBe(true);
    expect(ask('pay.amount / 0 > 1', row)).toBeNull();
    expect(ask('-pay.amount < -0.2999', row)).toBe(true);
    expect(ask('pay.amount >= 0.3000', row)).toBe(true);
  });

  test('hundredths are what people say: 37.5 hours', () => {
    expect(ask('job.hours == 37.5', { 'job.hours': 3750 })).toBe(true);
    expect(ask('job.hours < 38', { 'job.hours': 3750 })).toBe(true);
    expect(ask('job.hours in [30, 37.5]', { 'job.hours': 3750 })).toBe(true);
  });

  test('days: on, today, days added, days between', () => {
    const row = { 'contract.fixedUntil': '2027-03-31' };
    expect(ask('contract.fixedUntil < on + 31', row)).toBe(true);
    expect(ask('contract.fixedUntil < on + 30', row)).toBe(false);
    expect(ask('contract.fixedUntil <= on + 30', row)).toBe(true);
    expect(ask('contract.fixedUntil >= day("2027-03-31")', row)).toBe(true);
    expect(ask('days(on, contract.fixedUntil) == 30', row)).toBe(true);
    expect(ask('months(today, contract.fixedUntil) == 4', row)).toBe(true);
    expect(ask('contract.fixedUntil > today - 1', row)).toBe(true);
  });

  test('texts, choices by their codes, one of several', () => {
    const row = { 'person.name': 'Ünal Åström', 'unit.kindId': 2 };
    expect(ask('person.name.contains("åst")', row)).toBe(true);
    expect(ask('person.name.startsWith("ü")', row)).toBe(true);
    expect(ask('unit.kindId == "SITE"', row)).toBe(true);
    expect(ask('unit.kindId in ["TEAM", "SITE"]', row)).toBe(true);
    expect(ask('unit.kindId != "SITE" ? true : person.name == "x"', row)).toBe(false);
  });
});

describe('what is wrong', () => {
  test('is said with the place and what is expected', () => {
    expect(wrong('grade.level > ')).toEqual(['condition_unread', { at: 15, near: '' }]);
    expect(wrong('grade.level ?? 5')).toEqual(['condition_unread', { at: 14, near: '? 5' }]);
    expect(wrong('grade.level > "five"')).toEqual(['condition_type', { at: 15, expected: 'number' }]);
    expect(wrong('person.name && true')).toEqual(['condition_type', { at: 1, expected: 'yes_no' }]);
    expect(wrong('true && pay.colour > 1')).toEqual(['field_unknown', { at: 9, field: 'pay.colour' }]);
    expect(wrong('sum(grade.level) > 1')).toEqual(['condition_function', { at: 1, name: 'sum' }]);
    expect(wrong('contract.fixedUntil < day("2027-13-01")')[0]).toBe('condition_type');
    expect(wrong('grade.level')).toEqual(['condition_type', { at: 1, expected: 'yes_no' }]);
  });

  test('a field that is not the viewer’s is refused with its section, wherever it stands', () => {
    const hidden: Ground['hidden'] = ({ needs }) => (needs.includes('pay') ? 'pay' : null);
    for (const text of [
      'pay.amount > 1',
      'true || pay.amount > 1',
      '!blank(pay.amount)',
      'pay.amount in [1]',
    ])
      expect(wrong(text, { hidden })[0]).toBe('field_hidden');
  });
});

describe('picked conditions', () => {
  const operand: fc.Arbitrary<Operand> = fc.oneof(
    fc.string({ maxLength: 12 }).filter((text) => !text.includes('\\') && text === text.trim()),
    fc.integer({ min: -500, max: 500 }),
    fc.boolean(),
    fc.constantFrom(
      { day: 'on' },
      { day: 'today' },
      { day: 'on+30' },
      { day: 'today-7' },
      { day: '2027-06-01' },
    ),
  );
  const part = fc.record({
    field: fc.constantFrom('grade.level', 'person.name', 'own.12.f34'),
    by: fc.constantFrom(
      'is',
      'is_not',
      'above',
      'from',
      'below',
      'to',
      'one_of',
      'blank',
      'given',
    ) as fc.Arbitrary<'is'>,
    values: fc.array(operand, { minLength: 1, maxLength: 1 }),
  });

  test('are read back from their text as they were picked', () => {
    fc.assert(
      fc.property(fc.array(part, { minLength: 1, maxLength: 4 }), fc.boolean(), (parts, all) => {
        const asked: Simple = {
          all: parts.length === 1 ? true : all,
          parts: parts.map((one) =>
            (one.by as string) === 'blank' || (one.by as string) === 'given' ? { ...one, values: [] } : one,
          ),
        };
        expect(simpleOf(simpleText(asked))).toEqual(asked);
      }),
      { numRuns: 200 },
    );
  });

  test('more than that stays a text', () => {
    expect(simpleOf('grade.level > 5 && (person.member || blank(person.name))')).toBeNull();
    expect(simpleOf('grade.level + 1 > 5')).toBeNull();
    expect(simpleOf('  ')).toEqual({ all: true, parts: [] });
    expect(
      simpleText({ all: true, parts: [{ field: 'person.name', by: 'contains', values: ['a"b'] }] }),
    ).toBe('person.name.contains("a\\"b")');
    expect(fraction(1, 2)).toEqual({ num: 1n, den: 2n });
  });
});
