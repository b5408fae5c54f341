import type { PersonLine } from '@gremium/contract';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useLayoutEffect, useRef, useState } from 'react';
import { Link, type To } from 'react-router';
import { useLens } from '../frame/lens';
import { pathOf } from '../frame/pages';
import { listViewWords } from '../lists/list-view-words';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { Monogram } from '../ui/monogram';
import { useStatusSaid } from './status-said';

type CardsProps = {
  label: string;
  lines: readonly PersonLine[];
  to: (line: PersonLine) => To;
  onEnd: () => void;
};

const CARD = { width: 250, height: 104 };

/** People as cards: photo, title, unit, place, since when. */
export const PeopleCards = ({ label, lines, to, onEnd }: CardsProps) => {
  const box = useRef<HTMLDivElement>(null);
  const [across, setAcross] = useState(4);
  useLayoutEffect(() => {
    const element = box.current;
    if (!element) return;
    const watch = new ResizeObserver(([seen]) =>
      setAcross(Math.max(1, Math.floor((seen?.contentRect.width ?? 1000) / CARD.width))),
    );
    watch.observe(element);
    return () => watch.disconnect();
  }, []);
  const virtual = useVirtualizer({
    count: Math.ceil(lines.length / across),
    getScrollElement: () => box.current,
    estimateSize: () => CARD.height,
    overscan: 4,
  });
  const rows = virtual.getVirtualItems();
  const last = rows.at(-1)?.index ?? 0;
  useEffect(() => {
    if ((last + 8) * across >= lines.length) onEnd();
  }, [last, across, lines.length, onEnd]);
  return (
    <div className="cards" ref={box} role="list" aria-label={label}>
      <div role="presentation" style={{ height: virtual.getTotalSize(), position: 'relative' }}>
        {rows.map(({ index, start, key }) => (
          <div
            key={key}
            role="presentation"
            className="cardrow"
            data-index={index}
            ref={virtual.measureElement}
            style={{
              gridTemplateColumns: `repeat(${across}, minmax(0, 1fr))`,
              transform: `translateY(${start}px)`,
            }}
          >
            {lines.slice(index * across, (index + 1) * across).map((line) => (
              <PersonCard key={line.id} line={line} to={to(line)} />
            ))}
          </div>
        ))}
      </div>
    </div>
  );
};

const PersonCard = ({ line, to }: { line: PersonLine; to: To }) => {
  const words = useWords(listViewWords);
  const format = useFormat();
  const endOf = useStatusSaid();
  return (
    <div role="listitem">
      <Link className="card" to={to}>
        <Photo line={line} />
        <span className="a">{line.name}</span>
        <span>{line.title}</span>
        <span className="soft">{[line.unit, line.location].filter(Boolean).join(', ')}</span>
        <span className="soft n">
          {line.since && line.status !== 'coming' && line.status !== 'left'
            ? words.since(format.day(line.since))
            : endOf(line)}
        </span>
      </Link>
    </div>
  );
};

const Photo = ({ line: { id, name, picture } }: { line: PersonLine }) => {
  const { known } = useLens();
  if (!picture) return <Monogram name={name} size={56} />;
  const query = new URLSearchParams({ of: picture, ...(known ? { recordedBy: known } : {}) });
  return (
    <img
      className="portrait"
      src={`/api${pathOf('person', id)}/photo?${query}`}
      alt=""
      width={56}
      height={56}
    />
  );
};
