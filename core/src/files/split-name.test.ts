import { expect, test } from '@jest/globals';
import { splitName } from './split-name';

test.each([
  ['Anna Berg', 'Anna', 'Berg'],
  ['Berg, Anna', 'Anna', 'Berg'],
  ['van der Berg, Anna Maria', 'Anna Maria', 'van der Berg'],
  ['Anna van der Berg', 'Anna', 'van der Berg'],
  ['Anna Maria Øvrebø', 'Anna Maria', 'Øvrebø'],
  ['Jean-Luc de La Tour', 'Jean-Luc', 'de La Tour'],
  ['Li', '', 'Li'],
  ['  Åsa   Öberg ', 'Åsa', 'Öberg'],
  ['Von Thun', 'Von', 'Thun'],
  ['', '', ''],
])('%s', (text, given, family) => expect(splitName(text)).toEqual([given, family]));
