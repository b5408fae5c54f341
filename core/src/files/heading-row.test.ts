import { describe, expect, test } from '@jest/globals';
import { headingRowOf, sheetOf } from './heading-row';

const sheet = (...rows: string[][]) => rows.map((cells, i) => ({ row: i + 1, cells }));

describe('the row of the headings', () => {
  test('is the first with known headings, below titles', () => {
    const rows = sheet(
      ['Personalliste, Stand 1. Januar 2027'],
      ['Büro Hamburg', '', ''],
      ['Vorname', 'Nachname', 'Eintritt', 'Bemerkung'],
      ['Anna', 'Berg', '1.1.2027', 'Name, Vorname'],
    );
    expect(headingRowOf(rows)).toBe(3);
  });

  test('is the first of several cells where none is known, and the first at all where there is one column', () => {
    expect(headingRowOf(sheet(['A title'], ['Kolom A', 'Kolom B'], ['1', '2']))).toBe(2);
    expect(headingRowOf(sheet(['Kolom'], ['x']))).toBe(1);
    expect(headingRowOf([])).toBeNull();
  });

  test('of sheets the first that has one is meant', () => {
    const cover = sheet(['Read me']);
    expect(sheetOf([cover, sheet(['Email', 'Family name']), sheet(['Email', 'Family name', 'Unit'])])).toBe(
      1,
    );
    expect(sheetOf([[], cover])).toBe(1);
    expect(sheetOf([[], []])).toBeNull();
  });
});
