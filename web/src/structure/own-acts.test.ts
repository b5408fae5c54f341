// Where an own field is put: by a place of its own where there is room, else all places anew.
import { expect, test } from '@jest/globals';
import { freeCode, placesFor } from './own-acts';

const at = (...places: number[]) => places.map((place, i) => ({ id: i + 1, row: i + 1, values: { place } }));

test('before another one, in the middle between its neighbours; last, ten after the last', () => {
  expect(placesFor(at(0, 10, 20), 3, 1)).toEqual([
    { id: 3, place: 0 },
    { id: 1, place: 10 },
    { id: 2, place: 20 },
  ]);
  expect(placesFor(at(0, 10, 20), 1, 3)).toEqual([{ id: 1, place: 15 }]);
  expect(placesFor(at(0, 10, 20), 1, null)).toEqual([{ id: 1, place: 30 }]);
});

test('without room all are counted anew, and only those are written that change', () => {
  // first, third, second of places 0, 1, 2: 0 stays where it is
  expect(placesFor(at(0, 1, 2), 3, 2)).toEqual([
    { id: 3, place: 10 },
    { id: 2, place: 20 },
  ]);
});

test('choices of all own fields are one list: one called alike gets a code of its own', () => {
  expect(freeCode('Rot', new Set())).toBe('ROT');
  expect(freeCode('Rot', new Set(['ROT', 'ROT-2']))).toBe('ROT-3');
});
