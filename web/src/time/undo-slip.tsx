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
import { useEntrySaid } from './entry-said';
import { useUndoPlan } from './time.queries';
import { refreshTouched } from './touched';

type Plan = ReturnType<typeof useUndoPlan>;
type Planned = NonNullable<Plan['data']>['entries'];

const useUndo = (number: number, entries: Planned, reason: string) => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: () =>
      call(journalEndpoints.undo, {
        params: { number },
        body: { plan: entries.map((entry) => entry.number), ...(reason ? { reason } : {}) },
      }),
    onSuccess: ({ touched }) => refreshTouched(queries, touched),
  });
};

/** The plan of an undo, in order, and the act: all of it or nothing. */
export const UndoSlip = ({ number }: { number: number }) => {
  const { t } = useTranslation();
  const [reason, setReason] = useState('');
  const plan = useUndoPlan(number);
  const entries = plan.data?.entries ?? [];
  const undo = useUndo(number, entries, reason);
  if (undo.data) return <Undone entry={undo.data.entry ?? 0} count={entries.length} />;
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
        <PlanLines plan={plan} />
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
      <UndoFoot plan={plan} undo={undo} />
    </>
  );
};

const PlanLines = ({ plan }: { plan: Plan }) => {
  const { t } = useTranslation();
  const sentence = useSentence();
  const { entries = [], problems = [] } = plan.data ?? {};
  return (
    <>
      {plan.isPending && <p className="waiting">{t('undo.waiting')}</p>}
      {plan.isSuccess && problems.length === 0 && (
        <>
          <p>{t('undo.order', { count: entries.length })}</p>
          <ol className="undo-plan">
            {entries.map((entry) => (
              <PlanLine key={entry.number} entry={entry} />
            ))}
          </ol>
        </>
      )}
      {problems.map((problem) => (
        <p key={problem.code} className="problem" role="alert">
          ! {sentence(problem)}
        </p>
      ))}
    </>
  );
};

const PlanLine = ({ entry }: { entry: Planned[number] }) => {
  const { t } = useTranslation();
  const format = useFormat();
  const saidOf = useEntrySaid();
  const { number, moment, account, rows } = entry;
  return (
    <li>
      <b>{saidOf(entry)}</b>
      <div className="source">
        {t('undo.line', { number, at: format.moment(moment), who: account, count: rows })}
      </div>
    </li>
  );
};

const UndoFoot = ({ plan, undo }: { plan: Plan; undo: ReturnType<typeof useUndo> }) => {
  const { t } = useTranslation();
  const set = useSetParams();
  const { known } = useLens();
  const { entries = [], problems = [] } = plan.data ?? {};
  return (
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
        <Button type="text" onClick={() => set({ undo: null })}>
          {t('undo.leave')}
        </Button>
      </div>
    </footer>
  );
};

const Undone = ({ entry, count }: { entry: number; count: number }) => {
  const { t } = useTranslation();
  const set = useSetParams();
  const to = useTo();
  return (
    <>
      <header className="sliphead" role="status">
        <div className="kind">
          <span className="moss">✓ {t('undo.done')}</span>
          <span className="soft">{t('slip.entryNumber', { number: entry })}</span>
        </div>
        <h2>{t('undo.title')}</h2>
      </header>
      <div className="slipbody">
        <p>{t('undo.result', { count })}</p>
        <p className="soft">{t('undo.notUnsent')}</p>
        <ul className="ways">
          <li>
            <Link to={to(`/setup/journal/${entry}`, { undo: null })}>{t('slip.toEntry')}</Link>
          </li>
        </ul>
      </div>
      <footer className="slipfoot">
        <div className="acts">
          <Button type="primary" autoFocus onClick={() => set({ undo: null })}>
            {t('slip.close')}
          </Button>
        </div>
      </footer>
    </>
  );
};
