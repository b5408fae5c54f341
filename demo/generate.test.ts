import { describe, expect, test } from '@jest/globals';
import { day, markOf } from '@gremium/core';
import { byDimension, headcountOn } from '../core/test/flows-by-rows';
import { allPresences } from '../core/test/presence-by-rows';
import { makeHistory } from '../demo/make';

const anchor = day('2026-11-23');

describe('the generator', () => {
  const { register, entries } = makeHistory(anchor, 1250, true);

  test('makes the same history from the same seed', () => {
    expect(JSON.stringify(makeHistory(anchor).entries)).toBe(JSON.stringify(entries));
  });

  test('makes an organisation of the size and the difficulties that the demo promises', () => {
    const here = headcountOn(allPresences(register), anchor, byDimension('whole')).get(0) ?? 0;
    expect(here).toBeGreaterThan(1100);
    expect(here).toBeLessThan(1400);
    expect([...register.things('unit')].length).toBeGreaterThan(180);
    const marks = [...register.allOn('position', anchor)].map(({ thing }) => markOf(register, thing, anchor));
    const count = (mark: string) => marks.filter((found) => found === mark).length;
    expect(count('vacant') + count('part_filled')).toBeGreaterThan(60);
    expect(count('on_hold')).toBeGreaterThan(5);
    // one, by right
    expect(count('over_held')).toBe(1);
    const kinds = new Set([...register.allOn('placement', anchor)].map(({ values }) => values.kind));
    expect([...kinds].sort()).toEqual(['acting', 'cover', 'primary', 'temporary']);
    const moments = entries.map(({ moment }) => moment);
    expect(moments).toEqual([...moments].sort());
  });
});
