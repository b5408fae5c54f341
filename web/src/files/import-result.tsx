import type { ImportOut, RowStatus } from '@gremium/contract';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { useTo } from '../frame/lens';
import { useMay } from '../frame/session';
import { useFormat } from '../texts/format';
import { useSentence } from '../ui/problems';
import { useFieldLabel } from './import-field-label';
import { useImportRows } from './files.queries';
import { Step } from './import-step';

const SHOWN = 200;
const STATUSES: RowStatus[] = ['new', 'changed', 'refused', 'same'];

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
  const to = useTo();
  const sentence = useSentence();
  const labelOf = useFieldLabel();
  const there = STATUSES.filter((status) => (counts?.[status] ?? 0) > 0);
  const [status, setStatus] = useState<RowStatus>(there[0] ?? 'new');
  const rows = useImportRows(id, status, SHOWN);
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
      <ul className="resultrows">
        {rows.data?.rows.map(({ row, personId, person, faults, cells }) => (
          <li key={row}>
            <span className="n soft">{row}</span>
            <span>
              {personId !== null && person !== null ? (
                <Link className="serif" to={to(`/people/${personId}`)}>
                  {person}
                </Link>
              ) : (
                <span className="soft">
                  {personId === null ? cells.filter(Boolean).slice(0, 4).join(' · ') : t('result.hidden')}
                </span>
              )}
              {faults.map(({ field, problem }) => (
                <span key={problem.code} className="source">
                  {' '}
                  {field === null ? '' : `${labelOf(field)}: `}
                  {sentence(problem)}
                </span>
              ))}
            </span>
          </li>
        ))}
      </ul>
      {(rows.data?.total ?? 0) > SHOWN && (
        <p className="source">
          {t('repair.more', { shown: format.number(SHOWN), total: format.number(rows.data?.total ?? 0) })}
        </p>
      )}
    </>
  );
};
