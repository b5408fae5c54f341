import { describe, expect, test } from '@jest/globals';
import { matchColumns } from './match-columns';

describe('columns', () => {
  test('are matched by name, by label in either language, by other names, with marks or without, each field once', () => {
    const headings = [
      'Vorname *',
      'LAST NAME',
      'E-Mail',
      'e mail',
      'Eintritt',
      'Avdelning',
      'Locker',
      'legalEntity',
    ];
    expect(matchColumns(headings, new Map()).map(({ field }) => field)).toEqual([
      'given',
      'family',
      'email',
      null,
      'firstDay',
      'unit',
      null,
      'legalEntity',
    ]);
  });

  test('what was chosen for a heading before goes first, also that it is not taken in', () => {
    const memory = new Map<string, 'phone' | null>([
      ['locker', 'phone'],
      ['e mail', null],
    ]);
    expect(matchColumns(['Locker', 'E-Mail'], memory)).toEqual([
      { field: 'phone', how: 'memory' },
      { field: null, how: null },
    ]);
  });
});
