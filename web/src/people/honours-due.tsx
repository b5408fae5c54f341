import '../structure/steps.css';
import { type Day, type HonourDue, honourEndpoints } from '@gremium/contract';
import { addMonths } from '@gremium/core';
import { useQuery } from '@tanstack/react-query';
import { Button } from 'antd';
import { useTranslation } from 'react-i18next';
import { Link, useSearchParams } from 'react-router';
import { call } from '../api';
import { useLens, useSetParams, useTo } from '../frame/lens';
import { pathOf, useNameOfPage } from '../frame/pages';
import { useMay, useSession } from '../frame/session';
import { useStart } from '../movements/acts';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { useReferenceRegister } from '../time/time.queries';
import { readsOf } from '../time/touched';
import { useChosen } from '../ui/chosen';
import { DayInput, isDay } from '../ui/day-input';
import { Choice } from '../ui/field-input';
import { labelIn } from '../ui/field-value';
import { PlainTable } from '../ui/plain-table';
import { Problems } from '../ui/problems';
import { WhoMay } from './who-may';

const en = {
  lead: 'Who has the years of service for an honour by a day and does not hold it. Kinds of honours say for how many years they are given. Those chosen are given one kind at a time, as one entry.',
  by: 'Due by',
  honour: 'Honour',
  none: 'Nobody is due by then. Kinds of honours with years of service stand among the lists.',
  all: 'Chosen',
  who: 'Who',
  years: 'Years',
  due: 'Reached on',
  some: (count: string, shown: string) => `The first ${shown} of ${count}`,
  give: (count: number, shown: string) =>
    count === 1 ? 'Record it for 1 person' : `Record it for ${shown} people`,
  first: 'Choose an honour to record it for several people at once.',
};
const de: typeof en = {
  lead: 'Wer bis zu einem Tag die Dienstjahre für eine Ehrung hat und sie nicht besitzt. Die Arten von Ehrungen sagen, für wie viele Jahre es sie gibt. Wer gewählt ist, erhält eine Art auf einmal, als ein Eintrag.',
  by: 'Fällig bis',
  honour: 'Ehrung',
  none: 'Bis dahin ist niemand an der Reihe. Arten von Ehrungen mit Dienstjahren stehen in den Listen.',
  all: 'Gewählt',
  who: 'Wer',
  years: 'Jahre',
  due: 'Erreicht am',
  some: (count, shown) => `Die ersten ${shown} von ${count}`,
  give: (count, shown) => (count === 1 ? 'Für 1 Person erfassen' : `Für ${shown} Personen erfassen`),
  first: 'Wählen Sie eine Ehrung, um sie für mehrere Personen auf einmal zu erfassen.',
};

/** Who becomes due for an honour by service; those that are chosen get it by one order. */
export const HonoursDue = () => {
  const words = useWords({ en, de });
  const pageName = useNameOfPage('/people/honours');
  const { i18n } = useTranslation();
  const format = useFormat();
  const [params] = useSearchParams();
  const set = useSetParams();
  const { on, query } = useLens();
  const register = useReferenceRegister();
  const by = (params.get('by') ?? addMonths(on, 3)) as Day;
  const honour = params.get('honour');
  const asked = useQuery({
    queryKey: ['honours due', query, by, honour],
    queryFn: () =>
      call(honourEndpoints.honoursDue, {
        query: { ...query, by, ...(honour ? { honour: Number(honour) } : {}) },
      }),
    meta: readsOf('award', 'employment', 'person_name', 'list_entry', 'placement'),
  });
  const kinds = register
    ? [...register.allOn('list_entry', by)].filter(
        ({ values }) => values.list === 'honour' && values.flags.years !== undefined,
      )
    : [];
  const due = asked.data?.due ?? [];
  return (
    <main className="sheet templates">
      <div className="steps">
        <h1>{pageName}</h1>
        <p className="soft">{words.lead}</p>
        <label className="from" htmlFor="honours-by">
          <span>{words.by}</span>
          <DayInput
            id="honours-by"
            value={by}
            whenLeft
            onChange={(day) => (day === null || isDay(day)) && set({ by: day })}
          />
        </label>
        <label className="from" htmlFor="honours-kind">
          <span>{words.honour}</span>
          <Choice
            id="honours-kind"
            label={words.honour}
            options={kinds.map(({ thing, values }) => ({
              value: thing,
              label: values.label[i18n.language === 'de' ? 'de' : 'en'],
            }))}
            value={honour ? Number(honour) : null}
            onChange={(value) => set({ honour: value ? String(value) : null })}
          />
        </label>
        <Problems of={asked.error} />
        {asked.data && due.length === 0 && <p>{words.none}</p>}
        {asked.data && due.length > 0 && register && (
          <>
            {asked.data.count > due.length && (
              <p className="ochre">
                {words.some(format.number(asked.data.count), format.number(due.length))}
              </p>
            )}
            <Due
              key={due.map(({ personId, honourId }) => `${personId} ${honourId}`).join()}
              due={due}
              by={by}
              honour={honour ? Number(honour) : null}
              labelOf={(id) => labelIn(register, id, i18n.language)}
            />
          </>
        )}
      </div>
    </main>
  );
};

type DueProps = {
  due: readonly HonourDue[];
  by: Day;
  honour: number | null;
  labelOf: (id: number) => string;
};

const Due = ({ due, by, honour, labelOf }: DueProps) => {
  const words = useWords({ en, de });
  const format = useFormat();
  const to = useTo();
  const may = useMay();
  const start = useStart();
  const { organisationId } = useSession();
  const { chosen, box } = useChosen(due.map((line) => ({ ...line, id: line.personId })));
  const mayGive = may.edit('award') && honour !== null;
  const give = () =>
    start(
      'give_honour',
      { kind: 'organisation', id: organisationId ?? 0, name: '' },
      { personIds: chosen.map(({ personId }) => personId), honourId: honour },
      by,
      chosen.map(({ personId, name }) => ({ kind: 'person', id: personId, name })),
    );
  return (
    <>
      {!may.edit('award') && <WhoMay section="award" />}
      {may.edit('award') && honour === null && <p className="soft">{words.first}</p>}
      <PlainTable
        heads={[
          ...(mayGive ? [{ label: words.all }] : []),
          { label: words.who },
          { label: words.honour },
          { label: words.years, isNumber: true },
          { label: words.due, isShort: true },
        ]}
        rows={due.map((line) => ({
          key: `${line.personId} ${line.honourId}`,
          cells: [
            ...(mayGive ? [box({ id: line.personId, name: line.name })] : []),
            <div key="who">
              <Link to={to(pathOf('person', line.personId))}>{line.name}</Link>
              <div className="source">{[line.title, line.unit].filter(Boolean).join(', ')}</div>
            </div>,
            labelOf(line.honourId),
            format.number(line.years),
            format.day(line.due),
          ],
        }))}
      />
      {mayGive && (
        <p>
          <Button type="primary" disabled={chosen.length === 0} onClick={give}>
            {words.give(chosen.length, format.number(chosen.length))}
          </Button>
        </p>
      )}
    </>
  );
};
