import { describe, expect, test } from '@jest/globals';
import type { Day } from '@gremium/contract';
import { readPlain } from '@gremium/core';
import { fieldsOf } from './fields';
import { type Typed, readAmount, readHours, readTyped } from './typed';

const said = (read: Typed): string =>
  'value' in read ? String(read.value) : read.problem.code === 'number_ambiguous' ? 'asked' : 'refused';

const inFile = (text: string): string => {
  const { said: cells, faults } = readPlain(
    { pay: text },
    { orders: new Map(), decimals: new Map(), today: '2026-11-23' as Day },
  );
  if (faults.length === 0) return cells.pay ?? '';
  return faults[0]?.problem.code === 'number_ambiguous' ? 'asked' : 'refused';
};

const amount = fieldsOf('pay').find(({ name }) => name === 'amount')!;

describe('an amount', () => {
  test.each([
    // as typed, in English, in German, alone in a file
    ['2650', '2650', '2650', '2650'],
    ['26,400', '26400', 'asked', 'asked'],
    ['26.400', 'asked', '26400', 'asked'],
    ['2,650', '2650', 'asked', 'asked'],
    ['2.650', 'asked', '2650', 'asked'],
    ['2,650.00', '2650', '2650', '2650'],
    ['2.650,00', '2650', '2650', '2650'],
    ['2 650', '2650', '2650', '2650'],
    ['2\u00a0650,5', '2650.5', '2650.5', '2650.5'],
    ['2’650.50', '2650.5', '2650.5', '2650.5'],
    ["2'650", '2650', '2650', '2650'],
    ['26,4', '26.4', '26.4', '26.4'],
    ['26.40', '26.4', '26.4', '26.4'],
    ['1,234,567', '1234567', '1234567', '1234567'],
    ['1.234.567,89', '1234567.89', '1234567.89', '1234567.89'],
    ['0,750', '0.75', '0.75', '0.75'],
    ['-120,50', '-120.5', '-120.5', '-120.5'],
    ['2650,', 'refused', 'refused', 'refused'],
    ['2650 EUR', 'refused', 'refused', 'refused'],
    ['about 2650', 'refused', 'refused', 'refused'],
    ['26.4.00', 'refused', 'refused', 'refused'],
    ['12345678901234', 'refused', 'refused', 'refused'],
  ])(
    '%p is %s in English, %s in German, %s in a file; the same in slip and section',
    (text, english, german, file) => {
      expect([said(readAmount(text, 'en')), said(readAmount(text, 'de')), inFile(text)]).toEqual([
        english,
        german,
        file,
      ]);
      expect([said(readTyped(amount, text, 'en')), said(readTyped(amount, text, 'de'))]).toEqual([
        english,
        german,
      ]);
    },
  );

  test.each(['abc', '0', '0,00', '-8', '169', ''])('%p is no number of hours', (text) => {
    expect([said(readHours(text, 'en')), said(readHours(text, 'de'))]).toEqual(['refused', 'refused']);
  });
});
