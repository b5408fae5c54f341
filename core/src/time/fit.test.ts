import { describe, expect, test } from '@jest/globals';
import { beginsWords, fitOf } from './fit';

describe('how well a text fits', () => {
  const harbour = { name: 'tallinn harbour', code: 'u-3710', beside: 'harbours' };

  test.each([
    ['u-3710', 0],
    ['3710', 0],
    ['tall', 1],
    ['tallinn harb', 1],
    ['harb', 2],
    ['harb tall', 2],
    ['tallinn harbours', 3],
    ['u-37', 3],
    ['arbour', 4],
    ['linn harb', 4],
  ])('%s', (text, fit) => expect(fitOf(text.split(' '), harbour)).toBe(fit));

  test('parts of words are words', () => {
    expect(beginsWords(['marie'], 'anne-marie saar')).toBe(true);
    expect(beginsWords(['anne-m'], 'anne-marie saar')).toBe(true);
    expect(beginsWords(['arie'], 'anne-marie saar')).toBe(false);
    expect(beginsWords(['marie', 'x'], 'anne-marie saar')).toBe(false);
  });
});
