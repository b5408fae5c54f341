// What kind of field a column becomes, by columns as offices write them.
import { describe, expect, test } from '@jest/globals';
import type { Day } from '@gremium/contract';
import { proposeField } from './propose-field';

const habits = { workbook: false, today: '2026-11-23' as Day };
const kindOf = (...cells: string[]) => proposeField(cells, habits).kind;

describe('the kind of a column', () => {
  test('days in whatever order and words', () => {
    expect(kindOf('1.2.2027', '28.02.2027', '')).toBe('day');
    expect(kindOf('2027-03-01', '2026-12-31')).toBe('day');
    expect(kindOf('12/31/2026', '01/15/2027')).toBe('day');
    expect(kindOf('1 Mar 2027', '3. Oktober 2026')).toBe('day');
  });

  test('numbers with decimal commas, groups and minus; not what begins with zeros', () => {
    expect(kindOf('1.234,50', '17,5', '-3')).toBe('number');
    expect(kindOf('1,234.50', '17.5')).toBe('number');
    expect(kindOf('42', '43', '44')).toBe('number');
    expect(kindOf('0042', '0117', '0200')).toBe('text');
  });

  test('yes or no in four spellings', () => {
    expect(kindOf('yes', 'no', 'Yes')).toBe('yes_no');
    expect(kindOf('Ja', 'nein', 'NEIN')).toBe('yes_no');
    expect(kindOf('x', '', 'X', '')).toBe('yes_no');
    expect(kindOf('1', '0', '0')).toBe('yes_no');
    expect(kindOf('J', 'N')).toBe('yes_no');
  });

  test('emails, links, phones', () => {
    expect(kindOf('a@b.example', 'ä.ö@c.example')).toBe('email');
    expect(kindOf('https://a.example/1', 'http://b.example')).toBe('link');
    expect(kindOf('+49 40 555-01', '+372 (5) 550 102')).toBe('phone');
  });

  test('several choices where cells name several, one where each names one; the writing that is most common', () => {
    const several = proposeField(
      ['German; English', 'english', 'Finnish, German', 'English;german', 'Finnish'],
      habits,
    );
    expect(several).toMatchObject({ kind: 'lists', said: 5, unfit: 0 });
    // three each of German and English, two of Finnish
    expect(several.choices).toEqual(['German', 'English', 'Finnish']);
    const one = proposeField(['Blau', 'rot', 'Blau', 'Rot', 'blau', 'Rot', ''], habits);
    expect(one).toEqual({ kind: 'list', choices: ['Blau', 'rot'], said: 6, unfit: 0 });
  });

  test('text where hardly anything comes twice, long text where it is long or has lines', () => {
    expect(kindOf('Locker 1', 'Locker 2', 'Locker 3', 'Locker 4')).toBe('text');
    expect(kindOf('short', 'x'.repeat(201))).toBe('long_text');
    expect(kindOf('two\nlines', 'one')).toBe('long_text');
    expect(kindOf('', '  ')).toBe('text');
  });

  test('a few that do not fit are counted, many make it another kind', () => {
    const days = Array.from({ length: 39 }, (_, i) => `${(i % 28) + 1}.3.2027`);
    expect(proposeField([...days, 'unknown'], habits)).toMatchObject({ kind: 'day', said: 40, unfit: 1 });
    expect(kindOf('1.3.2027', '2.3.2027', 'unknown', 'soon')).toBe('text');
  });
});
