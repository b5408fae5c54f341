import { describe, expect, test } from '@jest/globals';
import { movedTo } from './ordering';

describe('an entry moved to the place of another', () => {
  test.each([
    ['down, behind the one it was put on', 1, 2, [2, 3, 1, 4]],
    ['up, before the one it was put on', 4, 1, [1, 4, 2, 3]],
    ['to the first place', 3, 0, [3, 1, 2, 4]],
    ['to the last', 1, 3, [2, 3, 4, 1]],
  ])('%s', (_, id, at, expected) => {
    expect(movedTo([1, 2, 3, 4], id, at)).toEqual(expected);
  });
});
