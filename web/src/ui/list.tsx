import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef } from 'react';
import { Link, type To } from 'react-router';
import { useKeys } from '../frame/keys';
import { useGo } from '../frame/lens';

export type Item = {
  key: string;
  /** A heading between lines, or a line that opens a record. */
  group?: string;
  path?: string;
  to?: To;
  mark?: React.ReactNode;
  name: string;
  about?: React.ReactNode;
  end?: React.ReactNode;
  /** How deep it stands in a tree. */
  indent?: number;
};

type ListProps = {
  label: string;
  items: Item[];
  /** Path of the record that is open. */
  open: string;
  onEnd?: (() => void) | undefined;
  empty: React.ReactNode;
};

/** The list beside a record: virtual, keeps its place, j and k go to the next and the one before. */
export const RecordList = ({ label, items, open, onEnd, empty }: ListProps) => {
  const go = useGo();
  const box = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: items.length,
    getScrollElement: () => box.current,
    estimateSize: (i) => (items[i]?.group === undefined ? 54 : 24),
    getItemKey: (i) => items[i]?.key ?? i,
    overscan: 8,
  });
  const rows = items.filter(({ path }) => path !== undefined);
  const at = rows.findIndex(({ path }) => path === open);
  const move = (step: 1 | -1) => {
    const next = rows[at < 0 ? 0 : Math.min(rows.length - 1, Math.max(0, at + step))];
    if (next?.path) go(next.path, searchOf(next.to));
  };
  useKeys({ down: () => move(1), up: () => move(-1) });
  const index = items.findIndex(({ path }) => path === open);
  const wasOpened = useRef(false);
  useEffect(() => {
    if (index < 0) return;
    // only when another record is opened: the list keeps its place while records change
    const frame = requestAnimationFrame(() => {
      virtual.scrollToIndex(index, { align: wasOpened.current ? 'auto' : 'center' });
      wasOpened.current = true;
    });
    return () => cancelAnimationFrame(frame);
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [open, index >= 0]);
  const last = virtual.getVirtualItems().at(-1)?.index ?? 0;
  useEffect(() => {
    if (onEnd && last >= items.length - 20) onEnd();
  }, [onEnd, last, items.length]);
  if (items.length === 0) return <div className="empty">{empty}</div>;
  return (
    <div className="rows" ref={box} role="list" aria-label={label} tabIndex={-1}>
      <div role="presentation" style={{ height: virtual.getTotalSize(), position: 'relative' }}>
        {virtual.getVirtualItems().map(({ index: i, start, key }) => {
          const item = items[i] as Item;
          return (
            <div
              key={key}
              role="listitem"
              data-index={i}
              ref={virtual.measureElement}
              style={{ position: 'absolute', top: 0, left: 0, right: 0, transform: `translateY(${start}px)` }}
            >
              {item.group === undefined ? (
                <Link
                  className={item.path === open ? 'li on' : 'li'}
                  style={item.indent ? { paddingLeft: 16 + item.indent * 14 } : undefined}
                  to={item.to ?? ''}
                  aria-current={item.path === open ? 'true' : undefined}
                  // one stop for the tab key; j and k, or the arrows, go on from there
                  tabIndex={item.path === (at < 0 ? rows[0]?.path : open) ? 0 : -1}
                  onKeyDown={(event) => {
                    const step = { ArrowDown: 1 as const, ArrowUp: -1 as const }[event.key];
                    if (!step) return;
                    event.preventDefault();
                    move(step);
                  }}
                >
                  {item.mark}
                  <span className="a">{item.name}</span>
                  <span className="b">
                    <span>{item.about}</span>
                    <span className="n">{item.end}</span>
                  </span>
                </Link>
              ) : (
                <div className="lg">{item.group}</div>
              )}
            </div>
          );
        })}
      </div>
    </div>
  );
};

const searchOf = (to: To | undefined): Record<string, string> =>
  typeof to === 'object' ? Object.fromEntries(new URLSearchParams(to.search)) : {};

/** Lines with a heading wherever the group of a line differs from the one before. */
export const grouped = <T,>(
  things: readonly T[],
  groupOf: (thing: T) => string,
  itemOf: (thing: T) => Item,
): Item[] =>
  things.flatMap((thing, i) => {
    const group = groupOf(thing);
    const before = things[i - 1];
    const isNew = before === undefined || groupOf(before) !== group;
    return [...(isNew ? [{ key: `group ${group} ${i}`, group, name: '' }] : []), itemOf(thing)];
  });
