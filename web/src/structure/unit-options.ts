import { treeOf } from '@gremium/core';
import { useMemo } from 'react';
import { useUnits } from '../time/time.queries';

/** Units in the order of the tree as choices, indented by depth. */
export const useUnitOptions = (whole: string): { value: string; label: string }[] => {
  const units = useUnits();
  return useMemo(() => {
    const lines = (units ?? []).map(({ thing, values }) => ({
      id: thing,
      name: String(values['name']),
      parentId: values['parentId'] as number | null,
    }));
    return [
      { value: '', label: whole },
      ...treeOf(lines).lines.map(({ unit: { id, name }, depth }) => ({
        value: String(id),
        label: `${' '.repeat(depth * 2)}${name}`,
      })),
    ];
  }, [units, whole]);
};
