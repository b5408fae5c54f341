import { describe, expect, test } from '@jest/globals';
import type { Bound, Row } from '@gremium/contract';
import { Register } from '@gremium/core';
import { holdings } from './holdings';
import { inTreeOrder } from './tree-order';

let id = 0;
const row = (section: Row['section'], thing: number, from: string, until: string, values: object): Row => ({
  id: ++id,
  lineage: id,
  section,
  thing,
  from: from as Bound,
  until: until as Bound,
  values: values as Row['values'],
  entry: 1,
});
const placement = (thing: number, [from, until]: [string, string], employmentId: number, hours: number) =>
  row('placement', thing, from, until, {
    employmentId,
    positionId: 5,
    kind: 'primary',
    hours,
    fullTime: 4000,
  });
const employment = (thing: number, personId: number) =>
  row('employment', thing, '2020-01-01', 'infinity', { personId });

describe('holdings of a position', () => {
  test('join what one person held on and on with the same share, over two employments too; a change of share parts them', () => {
    const register = new Register([
      employment(10, 1),
      employment(11, 1),
      employment(12, 2),
      placement(20, ['2020-01-01', '2021-01-01'], 10, 4000),
      placement(21, ['2021-01-01', '2022-01-01'], 11, 4000),
      placement(21, ['2022-01-01', '2023-01-01'], 11, 2000),
      placement(22, ['2022-01-01', '2023-01-01'], 12, 2000),
    ]);
    expect(
      holdings(register, 5).map(({ from, until, values }) => `${from} ${until} ${values.hours}`),
    ).toEqual(['2020-01-01 2022-01-01 4000', '2022-01-01 2023-01-01 2000', '2022-01-01 2023-01-01 2000']);
  });

  test('do not join across a gap', () => {
    const register = new Register([
      employment(10, 1),
      placement(20, ['2020-01-01', '2021-01-01'], 10, 4000),
      placement(21, ['2021-01-02', '2022-01-01'], 10, 4000),
    ]);
    expect(holdings(register, 5)).toHaveLength(2);
  });
});

describe('units in the order of the tree', () => {
  test('stand below their parent, siblings by name, each with its depth', () => {
    const units = [
      { id: 3, parentId: 1, name: 'Harbours' },
      { id: 4, parentId: 3, name: 'Turku' },
      { id: 1, parentId: null, name: 'Company' },
      { id: 2, parentId: 1, name: 'Fleet' },
      { id: 5, parentId: 3, name: 'Kiel' },
    ];
    expect(inTreeOrder(units).map(({ name, depth }) => `${depth} ${name}`)).toEqual([
      '0 Company',
      '1 Fleet',
      '1 Harbours',
      '2 Kiel',
      '2 Turku',
    ]);
  });
});
