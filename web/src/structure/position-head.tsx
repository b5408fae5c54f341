import type { Row, Values } from '@gremium/contract';
import {
  type Register,
  byFrom,
  isBefore,
  isOn,
  nextStandings,
  personOf,
  spanOf,
  vacancyOn,
} from '@gremium/core';
import { Button } from 'antd';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { useLens, useTo } from '../frame/lens';
import { pathOf } from '../frame/pages';
import { useMay } from '../frame/session';
import { useStart } from '../movements/acts';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { Managers } from '../ui/managers';
import { type MarkName, OccupancyMark } from '../ui/occupancy-mark';
import type { LoadedPosition } from './position-record';
import { positionWords } from './position-words';

type HeadProps = {
  loaded: LoadedPosition;
  position: Values<'position'>;
  mark: MarkName;
  isOpen: boolean;
  acts: React.ReactNode;
};

/** What the position is, where it stands, since when it is vacant, and what can be begun. */
export const PositionHead = ({ loaded, position, mark, isOpen, acts }: HeadProps) => {
  const { t } = useTranslation();
  const to = useTo();
  const cannot = !isOpen && (mark === 'planned' || mark === 'on_hold' || mark === 'closed');
  return (
    <header className="recordhead">
      <div className="title">
        <OccupancyMark mark={mark} size={18} />
        <h1>{position.title}</h1>
        <span className="soft n">{position.code}</span>
      </div>
      <p>
        <Link to={to(pathOf('unit', position.unitId))}>{loaded.nameOf('unit', position.unitId)}</Link>
      </p>
      <Managers of={loaded.record.managers} />
      <Notes {...{ loaded, position }} />
      {acts}
      <Standings id={loaded.id} position={position} isTop={!loaded.record.hasManager} />
      {cannot && <p className="soft">{t('position.noHire', { standing: t(`mark.${mark}`) })}</p>}
    </header>
  );
};

// A change of standing alone is begun with one press.
type StandingsProps = { id: number; position: Values<'position'>; isTop: boolean };

const Standings = ({ id, position, isTop }: StandingsProps) => {
  const words = useWords(positionWords);
  const { t } = useTranslation();
  const may = useMay();
  const start = useStart();
  if (!may.edit('position')) return null;
  return (
    <p className="standings">
      {isTop && !position.confirmedTop && position.standing !== 'closed' && (
        <Button
          type="text"
          size="small"
          onClick={() =>
            start(
              'change_position',
              { kind: 'position', id, name: position.title },
              { positionId: id, confirmedTop: true },
            )
          }
        >
          {words.confirm}
        </Button>
      )}
      {nextStandings[position.standing].map((standing) => (
        <Button
          key={standing}
          type="text"
          size="small"
          onClick={() =>
            start(
              'change_position',
              { kind: 'position', id, name: position.title },
              { positionId: id, standing },
            )
          }
        >
          {t(`position.become.${standing}`)}
        </Button>
      ))}
    </p>
  );
};

// Whoever begins, not a later version of somebody who holds it already.
const isFirst = (register: Register, row: Row<'placement'>): boolean =>
  spanOf(register.rows('placement', row.thing))?.from === row.from;

const Notes = ({
  loaded: { id, register, record, nameOf },
  position,
}: Pick<HeadProps, 'loaded' | 'position'>) => {
  const { t } = useTranslation();
  const format = useFormat();
  const words = useWords(positionWords);
  const { on, isToday, today } = useLens();
  const vacancy = vacancyOn(register, id, on);
  const reviews = register
    .referrers('placement', 'positionId', id)
    .flatMap((row) => (isOn(row, on) ? (row.values.reviewOn ?? []) : []))
    .sort();
  const next = register
    .referrers('placement', 'positionId', id)
    .filter((row) => isBefore(on, row.from) && isFirst(register, row))
    .sort(byFrom)[0];
  const newcomer = next && personOf(register, next.values, next.from);
  const isTop = !record.hasManager && !position.confirmedTop && position.standing !== 'closed';
  return (
    <p className="notes">
      <span className={`standing ${position.standing}`}>{t(`mark.${position.standing}`)}</span>
      {vacancy && (
        <span className="standing vacant">
          {t('position.vacantSince', { day: format.day(vacancy.since) })}
          {vacancy.days !== null && `, ${t('position.vacantDays', { count: vacancy.days })}`}
        </span>
      )}
      {next && newcomer !== undefined && nameOf('person', newcomer) !== '' && (
        <span className="standing time">
          {words.comes(nameOf('person', newcomer), format.day(next.from))}
        </span>
      )}
      {reviews[0] && (
        <span className="standing vacant">
          {(reviews[0] <= today ? words.reviewDue : words.review)(format.day(reviews[0]))}
        </span>
      )}
      {isTop && <span className="standing vacant">! {words.top}</span>}
      {position.confirmedTop && !record.hasManager && <span className="standing">{words.confirmed}</span>}
      {!isToday && <span className="standing time">{t('position.figuresOf', { day: format.day(on) })}</span>}
    </p>
  );
};
