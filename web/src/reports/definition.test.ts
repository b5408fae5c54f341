import { describe, expect, test } from '@jest/globals';
import type { ViewDefinition } from '@gremium/contract';
import { decodeView, encodeView, freshView } from './definition';

describe('a view in the address', () => {
  test('comes back as it was, letters of every kind included', () => {
    const view: ViewDefinition = {
      ...freshView('person_name'),
      condition: 'unit.name == "Häfen / Ærø + ?&="',
      columns: [{ field: 'person_name.name', label: 'Wer – Ünal' }],
    };
    expect(decodeView(encodeView(view))).toEqual(view);
    expect(encodeView(view)).toMatch(/^[\w-]+$/);
  });

  test('what is none is none', () => {
    for (const text of [null, '', 'abc', btoa('{"subject":"x"}'), btoa('[]')])
      expect(decodeView(text)).toBeNull();
  });

  test('a new report of each subject has a column', () => {
    for (const subject of ['person_name', 'position', 'contract', 'own.12'])
      expect(freshView(subject).columns.length).toBeGreaterThan(0);
  });
});
