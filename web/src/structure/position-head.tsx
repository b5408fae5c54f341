import type { Values } from '@gremium/contract';
import { nextStandings, vacancyOn } from '@gremium/core';
import { Button } from 'antd';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { useLens, useTo } from '../frame/lens';
import { pathOf } from '../frame/pages';
import { useMay } from '../frame/session';
import { useStart } from '../movements/acts';
import { useFormat } from '../texts/format';
import { Managers } from '../ui/managers';
import { type MarkName, OccupancyMark } from '../ui/occupancy-mark';
import type { LoadedPosition } from './position-record';

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
      <Standings id={loaded.id} position={position} />
      {cannot && <p className="soft">{t('position.noHire', { standing: t(`mark.${mark}`) })}</p>}
    </header>
  );
};

// A change of standing alone is begun with one press.
const Standings = ({ id, position }: { id: number; position: Values<'position'> }) => {
  const { t } = useTranslation();
  const may = useMay();
  const start = useStart();
  if (!may.edit('position')) return null;
  return (
    <p className="standings">
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

const Notes = ({ loaded: { id, register }, position }: Pick<HeadProps, 'loaded' | 'position'>) => {
  const { t } = useTranslation();
  const format = useFormat();
  const { on, isToday } = useLens();
  const vacancy = vacancyOn(register, id, on);
  return (
    <p className="notes">
      <span className={`standing ${position.standing}`}>{t(`mark.${position.standing}`)}</span>
      {vacancy && (
        <span className="standing vacant">
          {t('position.vacantSince', { day: format.day(vacancy.since) })}
          {vacancy.days !== null && `, ${t('position.vacantDays', { count: vacancy.days })}`}
        </span>
      )}
      {!isToday && <span className="standing time">{t('position.figuresOf', { day: format.day(on) })}</span>}
    </p>
  );
};
