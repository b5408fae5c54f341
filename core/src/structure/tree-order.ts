// Units as a tree that is read from top to bottom.

type Unit = { id: number; parentId: number | null; name: string };

/** Where a line of the tree stands: how many units are above it, whether any are below. */
export type TreeLine<U> = { unit: U; depth: number; hasBelow: boolean };

/** Lines of a tree in the order of reading, and how many levels there are. */
export type Tree<U> = { lines: TreeLine<U>[]; levels: number };

const collator = new Intl.Collator('en');

/**
 * Units in the order of the tree, siblings by name: all, or those that are not below a folded one. Units whose parent is not
 * among them stand at the top. Levels are those of the whole tree.
 */
export const treeOf = <U extends Unit>(
  units: readonly U[],
  isOpen: (unit: U, depth: number) => boolean = () => true,
): Tree<U> => {
  const ids = new Set(units.map(({ id }) => id));
  const below = new Map<number | null, U[]>();
  for (const unit of units) {
    const parent = unit.parentId !== null && ids.has(unit.parentId) ? unit.parentId : null;
    const siblings = below.get(parent);
    if (siblings) siblings.push(unit);
    else below.set(parent, [unit]);
  }
  const lines: TreeLine<U>[] = [];
  const walk = (siblings: readonly U[], depth: number): void => {
    const named = siblings.map((unit) => ({ unit, name: unit.name }));
    named.sort((a, b) => collator.compare(a.name, b.name) || a.unit.id - b.unit.id);
    for (const { unit } of named) {
      const children = below.get(unit.id);
      lines.push({ unit, depth, hasBelow: children !== undefined });
      if (children && isOpen(unit, depth)) walk(children, depth + 1);
    }
  };
  walk(below.get(null) ?? [], 0);
  let levels = 0;
  for (let level: readonly U[] = below.get(null) ?? []; level.length > 0; levels++)
    level = level.flatMap(({ id }) => below.get(id) ?? []);
  return { lines, levels };
};
