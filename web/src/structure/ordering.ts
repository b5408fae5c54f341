import { useState } from 'react';
import type { Entry } from './list-entries';

/** Ids in their order with one of them moved to the place of another. */
export const movedTo = (ids: readonly number[], id: number, at: number): number[] => {
  const others = ids.filter((one) => one !== id);
  return [...others.slice(0, at), id, ...others.slice(at)];
};

type Handlers = React.HTMLAttributes<HTMLTableRowElement>;

/** What a line of a list needs so that it is put elsewhere: dragged, or by Alt and the arrow keys while something in it has the focus. */
export const useOrdering = (
  isOn: boolean,
  entries: readonly Entry[],
  onOrder: (ids: number[], name: string) => void,
) => {
  const [dragged, setDragged] = useState<Entry | null>(null);
  const ids = entries.filter(({ isRetired }) => !isRetired).map(({ id }) => id);
  const put = (entry: Entry, at: number) => {
    const from = ids.indexOf(entry.id);
    if (from < 0 || at < 0 || at >= ids.length || at === from) return;
    onOrder(movedTo(ids, entry.id, at), entry.name);
  };
  return (entry: Entry): Handlers => {
    if (!isOn || entry.isRetired) return {};
    return {
      draggable: true,
      onDragStart: (event) => {
        event.dataTransfer.effectAllowed = 'move';
        event.dataTransfer.setData('text/plain', entry.name);
        setDragged(entry);
      },
      onDragOver: (event) => {
        if (dragged && dragged.id !== entry.id) event.preventDefault();
      },
      onDragEnd: () => setDragged(null),
      onDrop: (event) => {
        event.preventDefault();
        if (dragged) put(dragged, ids.indexOf(entry.id));
        setDragged(null);
      },
      onKeyDown: (event) => {
        const step = { ArrowUp: -1, ArrowDown: 1 }[event.key];
        if (!event.altKey || !step) return;
        event.preventDefault();
        put(entry, ids.indexOf(entry.id) + step);
      },
    };
  };
};
