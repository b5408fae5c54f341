import { describe, expect, test } from '@jest/globals';
import { codeName, codeNamed, codeOptions } from './code-names';

describe('languages and countries by name', () => {
  test.each([
    ['en-GB', 'language', 'fi', 'Finnish'],
    ['de', 'language', 'fi', 'Finnisch'],
    ['de', 'region', 'EE', 'Estland'],
    ['en-GB', 'language', 'q!', 'q!'],
    ['en-GB', 'region', 'QX', 'QX'],
  ] as const)('%s: %s %s is %s', (locale, of, code, name) => {
    expect(codeName(locale, of, code)).toBe(name);
  });

  test.each([
    ['region', 'Finland', 'FI'],
    ['region', ' österreich', 'AT'],
    ['language', 'Norwegian Bokmål', 'nb'],
    ['language', 'Estnisch', 'et'],
    ['region', 'Atlantis', null],
  ] as const)('%s called %s: %s', (of, text, code) => {
    expect(codeNamed(of, text.trim())).toBe(code);
  });

  test('every country once: no old codes, no groups', () => {
    const countries = codeOptions('en-GB', 'region');
    const codes = countries.map(({ value }) => value);
    expect(codes).toEqual(expect.arrayContaining(['FI', 'SE', 'DE', 'GB', 'ZA']));
    for (const none of ['EU', 'ZZ', 'DD', 'SU', 'YU', 'UK']) expect(codes).not.toContain(none);
    // ISO 3166-1 has 249; the browser adds a few that are reserved
    expect(codes.length).toBeGreaterThanOrEqual(249);
    expect(codes.length).toBeLessThan(265);
    expect(new Set(countries.map(({ label }) => label)).size).toBe(codes.length);
  });

  test('languages are in the order of their names', () => {
    const labels = codeOptions('de', 'language').map(({ label }) => label);
    expect(labels).toEqual([...labels].sort((a, b) => a.localeCompare(b, 'de')));
    expect(labels).toEqual(expect.arrayContaining(['Estnisch', 'Finnisch', 'Schwedisch']));
  });
});
