// Amounts with their currency in cells, read and written back.
import { expect, test } from '@jest/globals';
import type { Day, PlainColumn } from '@gremium/contract';
import { BEGINNING } from '../time/calendar';
import type { LookUps } from './look-ups';
import { readPlainValue, writtenValue } from './plain-values';

const column: PlainColumn = {
  name: 'f1',
  is: 'field',
  field: 'f1',
  meta: { is: 'money' },
  required: false,
  clears: true,
};
const read = (text: string, decimal: ',' | '.' | null = null) => {
  const asked = {
    on: BEGINNING,
    lookUps: {} as LookUps,
    habit: { order: 'day_first' as const, decimal, today: '2026-11-23' as Day },
    wordsOf: () => [],
  };
  const found = readPlainValue(column, text, asked);
  return 'value' in found ? found.value : found.problem.code;
};

test('an amount with its currency before or after it, in whatever decimal sign, and written back as it is read', () => {
  expect(read('1.200,50 EUR', ',')).toEqual({ amount: '1200.5', currency: 'EUR' });
  expect(read('NOK 300')).toEqual({ amount: '300', currency: 'NOK' });
  expect(read('€ 12.40', '.')).toEqual({ amount: '12.4', currency: 'EUR' });
  expect(read('-5,00 sek', ',')).toEqual({ amount: '-5', currency: 'SEK' });
  expect(read('300')).toBe('value_invalid');
  expect(read('EUR')).toBe('value_invalid');
  const text = writtenValue(column, { amount: '1200.5', currency: 'EUR' }, () => null) as string;
  expect([text, read(text, '.')]).toEqual(['1200.5 EUR', { amount: '1200.5', currency: 'EUR' }]);
});
