import type { PositionLine } from '@gremium/contract';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { useTo } from '../frame/lens';
import { pathOf } from '../frame/pages';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { useHeldSaid } from './held-said';
import { positionLineWords } from './position-line-words';
import { type MarkName, OccupancyMark } from '../ui/occupancy-mark';
import { PlainTable } from '../ui/plain-table';

type LinesProps = { lines: readonly PositionLine[]; count?: number; unitOf?: (id: number) => string };

/** Positions as a table: mark, title, who holds it, what is held and free. */
export const PositionLines = ({ lines, count = lines.length, unitOf }: LinesProps) => {
  const words = useWords(positionLineWords);
  const { t } = useTranslation();
  const format = useFormat();
  const heldSaid = useHeldSaid();
  return (
    <section className="block">
      <h2>
        {words.positions}
        <span className="since">
          {count > lines.length
            ? words.some(format.number(count), format.number(lines.length))
            : words.all(count, format.number(count))}
        </span>
      </h2>
      {lines.length === 0 ? (
        <p className="soft">{words.none}</p>
      ) : (
        <PlainTable
          heads={[
            { label: t('field.positionId') },
            ...(unitOf ? [{ label: t('field.unitId') }] : []),
            { label: t('position.holder') },
            { label: words.held, isNumber: true },
          ]}
          rows={lines.map((line) => ({
            key: line.id,
            cells: [
              <Title key="title" line={line} />,
              ...(unitOf ? [unitOf(line.unitId)] : []),
              <Holding key="holders" line={line} />,
              heldSaid({ ...line, holders: line.holders.length }),
            ],
          }))}
        />
      )}
    </section>
  );
};

const Title = ({ line: { id, mark, title, code } }: { line: PositionLine }) => {
  const to = useTo();
  return (
    <span className="marked">
      <OccupancyMark mark={mark as MarkName} /> <Link to={to(pathOf('position', id))}>{title}</Link>{' '}
      <span className="soft n">{code}</span>
    </span>
  );
};

const Holding = ({ line: { holders, names, mark, vacantSince } }: { line: PositionLine }) => {
  const { t } = useTranslation();
  const format = useFormat();
  if (mark === 'planned' || mark === 'closed') return t(`mark.${mark}`);
  if (holders.length === 0)
    return (
      <span className="ochre">
        {vacantSince ? t('position.vacantSince', { day: format.day(vacantSince) }) : t('mark.vacant')}
      </span>
    );
  const more = holders.length - names.length;
  return `${names.join(', ')}${more > 0 ? ` ${t('outline.more', { count: more })}` : ''}`;
};
