import { type Day, type Moved, movementOf } from '@gremium/contract';
import { Button } from 'antd';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { useSetParams, useTo } from '../frame/lens';
import { useMay } from '../frame/session';
import { pathOf } from '../frame/pages';
import { useFormat } from '../texts/format';
import type { Showing } from '../ui/field-value';
import { Effects, holdsFrom } from './checks';
import { ConcernedLines } from './concerned';
import type { SlipWords } from './slip-declared';
import { SlipValues } from './slip-values';

type ResultProps = {
  moved: Moved;
  title: string;
  day: string | undefined;
  words: SlipWords;
  showing: Showing;
  hasBefore: boolean;
  returns?: boolean;
  undoneBy: number | null;
};

/** What was done: each value with its source, from when, that nobody is asked, and where to look at it. */
export const SlipResult = ({
  moved,
  title,
  day = '',
  words,
  showing,
  hasBefore,
  returns = false,
  undoneBy,
}: ResultProps) => {
  const { t } = useTranslation();
  const format = useFormat();
  const { isLast } = movementOf(moved.kind).day;
  return (
    <>
      <header className="sliphead" role="status">
        <div className="kind">
          {undoneBy === null ? (
            <span className="moss">✓ {t('slip.saved')}</span>
          ) : (
            <span className="ochre">! {t('slip.undone', { number: undoneBy })}</span>
          )}
          <span className="soft">{t('slip.entryNumber', { number: moved.entry ?? 0 })}</span>
        </div>
        <h2>{title}</h2>
        <p>{t(isLast ? 'slip.lastDayDone' : 'slip.inEffect', { day: format.day(day) })}</p>
      </header>
      <div className="slipbody">
        <SlipValues {...{ moved, showing, words, hasBefore, returns }} />
        {moved.concerned && moved.concerned.count > 0 && (
          <ConcernedLines of={moved.concerned} showing={showing} />
        )}
        {day && <Effects effects={moved.effects} day={holdsFrom(moved.kind, day as Day)} />}
        <Ways moved={moved} day={day} />
      </div>
      <ResultFoot entry={moved.entry ?? 0} isUndone={undoneBy !== null} />
    </>
  );
};

const Ways = ({ moved, day }: { moved: Moved; day: string }) => {
  const { t } = useTranslation();
  const to = useTo();
  const { personId, positionId, unitId, jobId, entry } = moved;
  const record = (kind: 'person' | 'position' | 'unit' | 'job', id: number | null, label: string) =>
    id === null ? [] : [{ path: pathOf(kind, id), label }];
  const ways = [
    ...record('person', personId, t('slip.toPerson')),
    ...record('position', positionId, t('slip.toPosition')),
    ...record('unit', unitId, t('slip.toUnit')),
    ...record('job', jobId, t('slip.toJob')),
    { path: '/structure/outline', label: t('slip.toOutline') },
  ];
  return (
    <ul className="ways">
      {ways.map(({ path, label }) => (
        <li key={path}>
          <Link to={to(path, { slip: null, on: day })}>{label}</Link>
        </li>
      ))}
      <li>
        <Link to={to(`/setup/journal/${entry ?? 0}`, { slip: null })}>{t('slip.toEntry')}</Link>
      </li>
    </ul>
  );
};

const ResultFoot = ({ entry, isUndone }: { entry: number; isUndone: boolean }) => {
  const { t } = useTranslation();
  const set = useSetParams();
  const may = useMay();
  return (
    <footer className="slipfoot">
      <div className="acts">
        <Button type="primary" autoFocus onClick={() => set({ slip: null })}>
          {t('slip.close')}
        </Button>
        {!isUndone && may.act('undo') && (
          <Button type="text" onClick={() => set({ slip: null, undo: String(entry) })}>
            {t('undo.act')}
          </Button>
        )}
      </div>
    </footer>
  );
};
