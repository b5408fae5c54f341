import './steps.css';
import { type Day, type StepLine, structureEndpoints } from '@gremium/contract';
import { addMonths } from '@gremium/core';
import { useQuery } from '@tanstack/react-query';
import { Button } from 'antd';
import { Link, useSearchParams } from 'react-router';
import { call } from '../api';
import { useLens, useSetParams, useTo } from '../frame/lens';
import { pathOf, useNameOfPage } from '../frame/pages';
import { useMay, useSession } from '../frame/session';
import { useStart } from '../movements/acts';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { readsOf } from '../time/touched';
import { useChosen } from '../ui/chosen';
import { DayInput, isDay } from '../ui/day-input';
import { PlainTable } from '../ui/plain-table';
import { Problems } from '../ui/problems';
import { Views } from '../ui/views';

const en = {
  lead: 'Who reaches the next step of their grade, each on the day of their own. What is chosen is applied as one entry.',
  by: 'Due by',
  none: 'Nobody reaches a next step by then. A grade says after how many months one comes; base pay says on which step somebody is.',
  all: 'All',
  who: 'Who',
  grade: 'Grade',
  step: 'Step',
  since: 'On it since',
  due: 'Next one on',
  pay: 'Pay then',
  same: 'stays',
  some: (count: string, shown: string) => `The first ${shown} of ${count}`,
  apply: (count: number, shown: string) => (count === 1 ? 'Apply 1 next step' : `Apply ${shown} next steps`),
  oneGrade: 'of one grade only',
  everyGrade: 'Of every grade',
};
const de: typeof en = {
  lead: 'Wer die nächste Stufe seiner Entgeltgruppe erreicht, jede Person an ihrem eigenen Tag. Was gewählt ist, wird als ein Eintrag angewendet.',
  by: 'Fällig bis',
  none: 'Bis dahin erreicht niemand eine weitere Stufe. Eine Entgeltgruppe sagt, nach wie vielen Monaten sie kommt; das Grundentgelt, auf welcher jemand ist.',
  all: 'Alle',
  who: 'Wer',
  grade: 'Entgeltgruppe',
  step: 'Stufe',
  since: 'Darauf seit',
  due: 'Nächste am',
  pay: 'Entgelt dann',
  same: 'bleibt',
  some: (count, shown) => `Die ersten ${shown} von ${count}`,
  apply: (count, shown) => (count === 1 ? '1 Stufenaufstieg anwenden' : `${shown} Stufenaufstiege anwenden`),
  oneGrade: 'nur einer Entgeltgruppe',
  everyGrade: 'Aller Entgeltgruppen',
};

/** Who reaches the next step of their grade by a day; those that are chosen are applied as one. */
export const Steps = () => {
  const words = useWords({ en, de });
  const pageName = useNameOfPage('/structure/steps');
  const format = useFormat();
  const [params] = useSearchParams();
  const set = useSetParams();
  const to = useTo();
  const { on, query } = useLens();
  const by = (params.get('by') ?? addMonths(on, 3)) as Day;
  const grade = params.get('grade');
  const due = useQuery({
    queryKey: ['steps', query, by, grade],
    queryFn: () =>
      call(structureEndpoints.stepsDue, {
        query: { ...query, by, ...(grade ? { grade: Number(grade) } : {}) },
      }),
    meta: readsOf('pay', 'placement', 'position', 'grade', 'grade_step', 'grade_step_pay', 'employment'),
  });
  const steps = due.data?.steps ?? [];
  return (
    <main className="sheet templates">
      <Views of="structure" />
      <div className="steps">
        <h1>{pageName}</h1>
        <p className="soft">{words.lead}</p>
        <label className="from" htmlFor="steps-by">
          <span>{words.by}</span>
          <DayInput
            id="steps-by"
            value={by}
            whenLeft
            onChange={(day) => (day === null || isDay(day)) && set({ by: day })}
          />
        </label>
        {grade && (
          <p>
            {words.oneGrade} · <Link to={to('/structure/steps', { by })}>{words.everyGrade}</Link>
          </p>
        )}
        <Problems of={due.error} />
        {due.data && steps.length === 0 && <p>{words.none}</p>}
        {due.data && steps.length > 0 && (
          <>
            {due.data.count > steps.length && (
              <p className="ochre">
                {words.some(format.number(due.data.count), format.number(steps.length))}
              </p>
            )}
            <Due key={steps.map(({ employmentId }) => employmentId).join()} {...{ steps, by }} />
          </>
        )}
      </div>
    </main>
  );
};

const Due = ({ steps, by }: { steps: readonly StepLine[]; by: Day }) => {
  const words = useWords({ en, de });
  const format = useFormat();
  const to = useTo();
  const may = useMay();
  const start = useStart();
  const { organisationId } = useSession();
  const { chosen, box } = useChosen(steps.map((line) => ({ ...line, id: line.employmentId })));
  const apply = () =>
    start(
      'apply_steps',
      { kind: 'organisation', id: organisationId ?? 0, name: '' },
      { employmentIds: chosen.map(({ employmentId }) => employmentId) },
      by,
    );
  return (
    <>
      <PlainTable
        heads={[
          ...(may.edit('pay') ? [{ label: words.all }] : []),
          { label: words.who },
          { label: words.grade },
          { label: words.step, isNumber: true },
          { label: words.since },
          { label: words.due },
          { label: words.pay, isNumber: true },
        ]}
        rows={steps.map((line) => ({
          key: line.employmentId,
          cells: [
            ...(may.edit('pay') ? [box({ id: line.employmentId, name: line.name })] : []),
            <div key="who">
              <Link to={to(pathOf('person', line.personId))}>{line.name}</Link>
              <div className="source">{line.title}</div>
            </div>,
            line.grade,
            `${line.step} → ${line.step + 1}`,
            format.day(line.since),
            format.day(line.due),
            line.amount === null
              ? words.same
              : `${format.amount(line.before)} → ${format.amount(line.amount)} ${line.currency}`,
          ],
        }))}
      />
      {may.edit('pay') && (
        <p>
          <Button type="primary" disabled={chosen.length === 0} onClick={apply}>
            {words.apply(chosen.length, format.number(chosen.length))}
          </Button>
        </p>
      )}
    </>
  );
};
