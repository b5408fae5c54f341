import { expect, test } from '@jest/globals';
import { dayOfSerial } from './serial-day';

test.each([
  ['46388', 1900, '2027-01-01'],
  ['46388', 1904, '2031-01-02'],
  ['45351', 1900, '2024-02-29'],
  ['10000', 1904, '1931-05-19'],
  ['2027', 1900, '2027'],
  ['046388', 1900, '046388'],
  ['1.3.2027', 1900, '1.3.2027'],
  ['100000', 1900, '100000'],
] as const)('%s counted from %i is %s', (text, base, wanted) => {
  expect(dayOfSerial(text, base)).toBe(wanted);
});
