import type { UnitLine } from '@gremium/contract';

/** Units in the order of the tree, each with its depth. */
export const inTreeOrder = <U extends Pick<UnitLine, 'id' | 'parentId' | 'name'>>(
  units: readonly U[],
): (U & { depth: number })[] => {
  const children = new Map<number | null, U[]>();
  for (const unit of units) children.set(unit.parentId, [...(children.get(unit.parentId) ?? []), unit]);
  for (const siblings of children.values()) siblings.sort((a, b) => a.name.localeCompare(b.name));
  const walk = (parent: number | null, depth: number): (U & { depth: number })[] =>
    (children.get(parent) ?? []).flatMap((unit) => [{ ...unit, depth }, ...walk(unit.id, depth + 1)]);
  return walk(null, 0);
};
