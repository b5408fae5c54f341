import { describe, expect, test } from '@jest/globals';
import { inTreeOrder } from './tree-order';

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
