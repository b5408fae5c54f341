// Lines of a table of which all are chosen until somebody leaves one out.
import { Checkbox } from 'antd';
import { useState } from 'react';

type Line = { id: number; name: string };

/** Which lines are chosen, and the box of one. */
export const useChosen = <L extends Line>(lines: readonly L[]) => {
  const [left, setLeft] = useState<ReadonlySet<number>>(new Set());
  const toggle = (id: number) => {
    const next = new Set(left);
    if (!next.delete(id)) next.add(id);
    setLeft(next);
  };
  return {
    chosen: lines.filter(({ id }) => !left.has(id)),
    box: ({ id, name }: Line) => (
      <Checkbox key="chosen" aria-label={name} checked={!left.has(id)} onChange={() => toggle(id)} />
    ),
  };
};
