import type { ImportOut, RowStatus } from '@gremium/contract';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { useTo } from '../frame/lens';
import { useMay } from '../frame/session';
import { useFormat } from '../texts/format';
import { ImportRows } from './import-rows';
import { Step } from './import-step';

const STATUSES: RowStatus[] = ['new', 'changed', 'refused', 'left_out', 'same'];

/** What became of an import: the entry, the way to undo it, and each row with whom it wrote. */
export const ImportResult = ({ of }: { of: ImportOut }) => {
  const { t } = useTranslation('files');
  const format = useFormat();
  const to = useTo();
  const may = useMay();
  const { state, counts, entry, undoneBy, id } = of;
  const written = (counts?.new ?? 0) + (counts?.changed ?? 0);
  const refused = counts?.refused ?? 0;
  if (entry === null)
    return (
      <Step number={4} name={t('result.head')} look="done">
        {t('result.cancelled')}
      </Step>
    );
  return (
    <Step
      number={4}
      name={t('result.head')}
      look="done"
      act={
        state === 'written' &&
        may.act('undo') && (
          <Link className="textact" to={to(`/files/imports/${id}`, { undo: String(entry) })}>
            {t('result.undo')}
          </Link>
        )
      }
    >
      <p>
        <b>{t('result.written', { count: written, shown: format.number(written), entry })}</b>{' '}
        {refused > 0 && t('result.refused', { count: refused, shown: format.number(refused) })}{' '}
        {undoneBy !== null && <span className="ochre">{t('result.undone', { entry: undoneBy })}</span>}{' '}
        {may.act('journal') && <Link to={to(`/setup/journal/${entry}`)}>{t('result.journal')}</Link>}
      </p>
      <ResultRows of={of} />
    </Step>
  );
};

const ResultRows = ({ of: { id, counts } }: { of: ImportOut }) => {
  const { t } = useTranslation('files');
  const format = useFormat();
  const there = STATUSES.filter((status) => (counts?.[status] ?? 0) > 0);
  const [status, setStatus] = useState<RowStatus>(there[0] ?? 'new');
  return (
    <>
      <div className="resultchips" role="group" aria-label={t('result.head')}>
        {there.map((one) => (
          <button
            key={one}
            type="button"
            className={one === status ? 'chip on' : 'chip'}
            aria-pressed={one === status}
            onClick={() => setStatus(one)}
          >
            {t(`result.status.${one}`)} <span className="n">{format.number(counts?.[one] ?? 0)}</span>
          </button>
        ))}
      </div>
      <ImportRows id={id} status={status} />
    </>
  );
};
