import { useDragging } from '../ui/use-dragging';
import type { Entry } from './list-entries';

/** Ids in their order with one of them moved to the place of another. */
export const movedTo = (ids: readonly number[], id: number, at: number): number[] => {
  const others = ids.filter((one) => one !== id);
  return [...others.slice(0, at), id, ...others.slice(at)];
};

/** What a line of a list needs so that it is put elsewhere: dragged, or by Alt and the arrow keys while something in it has the focus. */
export const useOrdering = (
  isOn: boolean,
  entries: readonly Entry[],
  onOrder: (ids: number[], name: string) => void,
) => {
  const ids = entries.filter(({ isRetired }) => !isRetired).map(({ id }) => id);
  const put = (entry: Entry, at: number) => {
    const from = ids.indexOf(entry.id);
    if (from < 0 || at < 0 || at >= ids.length || at === from) return;
    onOrder(movedTo(ids, entry.id, at), entry.name);
  };
  const dragging = useDragging<Entry>({
    mayTake: (dragged, onto) => dragged.id !== onto.id && ids.includes(onto.id),
    onDrop: (dragged, onto) => put(dragged, ids.indexOf(onto.id)),
  });
  return (entry: Entry): React.HTMLAttributes<HTMLElement> => {
    if (!isOn || entry.isRetired) return {};
    return {
      ...dragging.handlers(entry, true),
      onKeyDown: (event) => {
        const step = { ArrowUp: -1, ArrowDown: 1 }[event.key];
        if (!event.altKey || !step) return;
        event.preventDefault();
        put(entry, ids.indexOf(entry.id) + step);
      },
    };
  };
};
