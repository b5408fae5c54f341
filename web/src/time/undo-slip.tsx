import { journalEndpoints } from '@gremium/contract';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Button, Input } from 'antd';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { call } from '../api';
import { useLens, useSetParams, useTo } from '../frame/lens';
import { useFormat } from '../texts/format';
import { Problems, useSentence } from '../ui/problems';
import { useEntryName } from './entry-name';
import { useUndoPlan } from './time.queries';
import { refreshTouched } from './touched';

/** The plan of an undo, in order, and the act: all of it or nothing. */
export const UndoSlip = ({ number }: { number: number }) => {
  const { t } = useTranslation();
  const { known } = useLens();
  const format = useFormat();
  const sentence = useSentence();
  const set = useSetParams();
  const to = useTo();
  const queries = useQueryClient();
  const [reason, setReason] = useState('');
  const plan = useUndoPlan(number);
  const nameOfEntry = useEntryName();
  const entries = plan.data?.entries ?? [];
  const problems = plan.data?.problems ?? [];
  const undo = useMutation({
    mutationFn: () =>
      call(journalEndpoints.undo, {
        params: { number },
        body: { plan: entries.map((entry) => entry.number), ...(reason ? { reason } : {}) },
      }),
    onSuccess: ({ touched }) => refreshTouched(queries, touched),
  });
  const close = () => set({ undo: null });
  if (undo.data)
    return (
      <>
        <header className="sliphead" role="status">
          <div className="kind">
            <span className="moss">✓ {t('undo.done')}</span>
            <span className="soft">{t('slip.entryNumber', { number: undo.data.entry ?? 0 })}</span>
          </div>
          <h2>{t('undo.title')}</h2>
        </header>
        <div className="slipbody">
          <p>{t('undo.result', { count: entries.length })}</p>
          <p className="soft">{t('undo.notUnsent')}</p>
          <ul className="ways">
            <li>
              <Link to={to(`/setup/journal/${undo.data.entry ?? 0}`, { undo: null })}>
                {t('slip.toEntry')}
              </Link>
            </li>
          </ul>
        </div>
        <footer className="slipfoot">
          <div className="acts">
            <Button type="primary" autoFocus onClick={close}>
              {t('slip.close')}
            </Button>
          </div>
        </footer>
      </>
    );
  return (
    <>
      <header className="sliphead">
        <div className="kind">
          <span>{t('undo.act')}</span>
        </div>
        <h2>{t('undo.title')}</h2>
        <p className="soft">{t('undo.lead', { number })}</p>
      </header>
      <div className="slipbody" aria-busy={plan.isFetching}>
        <Problems of={plan.error ?? undo.error} />
        {plan.isPending && <p className="waiting">{t('undo.waiting')}</p>}
        {plan.isSuccess && problems.length === 0 && (
          <>
            <p>{t('undo.order', { count: entries.length })}</p>
            <ol className="undo-plan">
              {entries.map((entry) => (
                <li key={entry.number}>
                  <b>{nameOfEntry(entry.kind)}</b>{' '}
                  <span className="serif">{entry.about.map(({ name }) => name).join(', ')}</span>
                  <div className="source">
                    {t('undo.line', {
                      number: entry.number,
                      at: format.moment(entry.moment),
                      who: entry.account,
                      count: entry.rows,
                    })}
                    {entry.reason ? ` · ${entry.reason}` : ''}
                  </div>
                </li>
              ))}
            </ol>
          </>
        )}
        {problems.map((problem) => (
          <p key={problem.code} className="problem" role="alert">
            ! {sentence(problem)}
          </p>
        ))}
        <div className="slipfield">
          <label htmlFor="undo-reason">{t('edit.reason')}</label>
          <Input
            id="undo-reason"
            className="line-input"
            variant="underlined"
            value={reason}
            onChange={(event) => setReason(event.target.value)}
          />
        </div>
      </div>
      <footer className="slipfoot">
        {known && <p className="ochre">! {t('lens.pastOnly')}</p>}
        <div className="acts">
          <Button
            type="primary"
            disabled={!plan.isSuccess || problems.length > 0 || known !== null}
            loading={undo.isPending}
            onClick={() => undo.mutate()}
          >
            {t('undo.submit', { count: entries.length })}
          </Button>
          <Button type="text" onClick={close}>
            {t('undo.leave')}
          </Button>
        </div>
      </footer>
    </>
  );
};
