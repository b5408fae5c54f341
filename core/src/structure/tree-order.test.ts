import { describe, expect, test } from '@jest/globals';
import { treeOf } from './tree-order';

const UNITS = [
  { id: 3, parentId: 1, name: 'Harbours' },
  { id: 4, parentId: 3, name: 'Turku' },
  { id: 1, parentId: null, name: 'Company' },
  { id: 2, parentId: 1, name: 'Fleet' },
  { id: 5, parentId: 3, name: 'Kiel' },
  { id: 6, parentId: 3, name: 'kiel' },
];

const read = (tree: ReturnType<typeof treeOf<(typeof UNITS)[number]>>) =>
  tree.lines.map(({ unit, depth, hasBelow }) => `${depth} ${unit.name}${hasBelow ? ' +' : ''}`);

describe('units in the order of the tree', () => {
  test('stand below their parent, siblings by name, each with its depth and whether any are below', () => {
    const tree = treeOf(UNITS);
    expect(read(tree)).toEqual(['0 Company +', '1 Fleet', '1 Harbours +', '2 kiel', '2 Kiel', '2 Turku']);
    expect(tree.levels).toBe(3);
  });

  test('below a folded one nothing stands, but it is counted among the levels', () => {
    const tree = treeOf(UNITS, ({ name }) => name !== 'Harbours');
    expect(read(tree)).toEqual(['0 Company +', '1 Fleet', '1 Harbours +']);
    expect(tree.levels).toBe(3);
  });

  test('a unit whose parent is not among them stands at the top; none are no levels', () => {
    expect(read(treeOf(UNITS.filter(({ id }) => id > 2)))).toEqual([
      '0 Harbours +',
      '1 kiel',
      '1 Kiel',
      '1 Turku',
    ]);
    expect(treeOf([])).toEqual({ lines: [], levels: 0 });
  });
});
