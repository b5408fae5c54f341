import { useState } from 'react';

type Handlers = React.HTMLAttributes<HTMLElement>;

type Dragging<T> = {
  /** Whether what is taken up may be put down on another one. */
  mayTake: (dragged: T, onto: T) => boolean;
  onDrop: (dragged: T, onto: T) => void;
};

/** Lines that are dragged onto each other: the one taken up, the one it is over, and what each line needs for it. */
export const useDragging = <T extends { id: number; name: string }>({ mayTake, onDrop }: Dragging<T>) => {
  const [lifted, setLifted] = useState<T | null>(null);
  const [over, setOver] = useState<number | null>(null);
  const end = () => {
    setLifted(null);
    setOver(null);
  };
  const drop = (onto: T) => {
    if (lifted && mayTake(lifted, onto)) onDrop(lifted, onto);
    end();
  };
  const handlers = (line: T, mayLift: boolean): Handlers => ({
    draggable: mayLift,
    onDragStart: (event) => {
      event.dataTransfer.effectAllowed = 'move';
      event.dataTransfer.setData('text/plain', line.name);
      setLifted(line);
    },
    onDragOver: (event) => {
      if (!lifted || !mayTake(lifted, line)) return;
      event.preventDefault();
      setOver(line.id);
    },
    onDragEnd: end,
    onDrop: (event) => {
      event.preventDefault();
      drop(line);
    },
  });
  return { lifted, over, lift: setLifted, end, drop, handlers };
};
