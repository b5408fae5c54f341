import { expect, test } from '@jest/globals';
import { fold, searchName, sortName, spokenName } from './names';

const name = {
  given: 'Søren',
  middle: 'Åge',
  family: 'Weiß',
  prefix: 'von',
  birthName: 'Łącka',
  preferred: null,
  sortName: null,
  titleId: null,
};

test('names are folded for search by any part, accents and special letters aside', () => {
  expect(fold('  Ærø–Straße,  ŁÓDŹ ')).toBe('aero strasse lodz');
  expect(searchName(name)).toBe('soren age von weiss lacka');
  expect(fold('Õie.Mägi@vessmar.example')).toBe('oie.magi@vessmar.example');
});

test('a name is spoken by preferred or given name, sorted by family name; one name alone will do', () => {
  expect(spokenName({ ...name, preferred: 'Sø' })).toBe('Sø von Weiß');
  expect(sortName(name)).toBe('Weiß Søren Åge');
  expect(sortName({ ...name, family: null, middle: null })).toBe('Søren');
});
