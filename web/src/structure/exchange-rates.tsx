import type { Day, Row } from '@gremium/contract';
import { type Register, byFrom, isBefore, isOn } from '@gremium/core';
import { Button } from 'antd';
import { useState } from 'react';
import { useLens } from '../frame/lens';
import { useMay } from '../frame/session';
import { useFormat, useReading } from '../texts/format';
import { useWords } from '../texts/words';
import { type Said, SaidLine } from '../time/said-line';
import { EntryField } from '../ui/entry-field';
import { DayInput, isDay } from '../ui/day-input';
import { PlainTable } from '../ui/plain-table';
import { ThingInputs, isThingReady, readThing, useTypedThing } from '../ui/thing-inputs';
import { useCalendarActs } from './calendar-acts';
import { EntryFrame } from './entry-frame';
import { useBasis } from './list-acts';
import { organisationWords } from './organisation-words';

type RatesProps = { register: Register; currency: string };
type Acts = ReturnType<typeof useCalendarActs>;

/** What other currencies are worth in the organisation's own on the day looked at, with the rates before. */
export const ExchangeRates = ({ register, currency }: RatesProps) => {
  const words = useWords(organisationWords);
  const format = useFormat();
  const may = useMay();
  const { on } = useLens();
  const [open, setOpen] = useState<number | 'add' | null>(null);
  const [said, setSaid] = useState<Said | null>(null);
  const acts = useCalendarActs((what) => {
    setSaid(what);
    setOpen(null);
  });
  const ids = [...new Set([...register.all('exchange_rate')].map(({ thing }) => thing))];
  const lines = ids
    .map((id) => ({ id, versions: [...register.rows('exchange_rate', id)].sort(byFrom) }))
    .sort((a, b) => codeOf(a.versions).localeCompare(codeOf(b.versions)));
  const mayEdit = may.edit('exchange_rate') && may.act('create');
  const since = ({ from }: Row): string => (from === '-infinity' ? words.always : format.day(from));
  return (
    <section className="block" id="section-exchange_rate">
      <h2>{words.rates}</h2>
      {said && <SaidLine {...said} />}
      <p className="soft">{lines.length === 0 ? words.noRates : words.ratesLead(currency)}</p>
      {lines.length > 0 && (
        <PlainTable
          heads={[
            { label: words.currency },
            { label: words.rate, isNumber: true },
            { label: words.since },
            { label: words.earlier },
            { label: '' },
          ]}
          rows={lines.map(({ id, versions }) => {
            const now = versions.find((version) => isOn(version, on));
            const before = versions.filter(({ from }) => !now || isBefore(from, now.from));
            return {
              key: id,
              cells: [
                codeOf(versions),
                now ? format.amount(now.values.rate) : '–',
                now ? since(now) : '',
                before
                  .slice(-3)
                  .map((version) => `${format.amount(version.values.rate)} (${since(version)})`)
                  .join(' · '),
                mayEdit && (
                  <button
                    key="new"
                    type="button"
                    className="textact nowrap"
                    aria-label={words.newRateOf(codeOf(versions))}
                    onClick={() => setOpen(open === id ? null : id)}
                  >
                    {words.newRate}
                  </button>
                ),
              ],
            };
          })}
        />
      )}
      {typeof open === 'number' && (
        <NewRate
          key={open}
          id={open}
          code={codeOf(lines.find(({ id }) => id === open)?.versions ?? [])}
          acts={acts}
          onLeave={() => setOpen(null)}
        />
      )}
      {mayEdit && (
        <p className="rowacts">
          <Button onClick={() => setOpen(open === 'add' ? null : 'add')}>{words.addRate}</Button>
        </p>
      )}
      {open === 'add' && <AddRate acts={acts} onLeave={() => setOpen(null)} />}
    </section>
  );
};

const codeOf = (versions: readonly Row<'exchange_rate'>[]): string => versions.at(-1)?.values.code ?? '';

const AddRate = ({ acts, onLeave }: { acts: Acts; onLeave: () => void }) => {
  const words = useWords(organisationWords);
  const reading = useReading();
  const [typed, set] = useTypedThing();
  const [from, setFrom] = useState<string | null>(null);
  return (
    <EntryFrame
      lead={words.addRate}
      submit={words.add}
      isReady={isThingReady('exchange_rate', typed) && (from === null || isDay(from))}
      isBusy={acts.addRate.isPending}
      error={acts.addRate.error}
      onLeave={onLeave}
      onSubmit={() => {
        const values = readThing('exchange_rate', typed, reading);
        acts.addRate.mutate({
          values,
          from: from as Day | null,
          said: words.rateDone(String(values['code']).toUpperCase()),
        });
      }}
    >
      <div className="entryfields">
        <ThingInputs section="exchange_rate" {...{ typed, set }} />
        <EntryField id="rate-from" label={words.fromOptional}>
          <DayInput id="rate-from" label={words.fromOptional} value={from} onChange={setFrom} />
        </EntryField>
      </div>
    </EntryFrame>
  );
};

const NewRate = ({
  id,
  code,
  acts,
  onLeave,
}: {
  id: number;
  code: string;
  acts: Acts;
  onLeave: () => void;
}) => {
  const words = useWords(organisationWords);
  const reading = useReading();
  const { on } = useLens();
  const basis = useBasis('exchange_rate', id);
  const [typed, set] = useTypedThing(() => ({ code }));
  const [from, setFrom] = useState<string | null>(on);
  return (
    <EntryFrame
      lead={words.newRateOf(code)}
      submit={words.save}
      isReady={isThingReady('exchange_rate', typed) && isDay(from) && basis !== undefined}
      isBusy={acts.newRate.isPending}
      error={acts.newRate.error}
      onLeave={onLeave}
      onSubmit={() =>
        acts.newRate.mutate({
          id,
          from: from as Day,
          basis: basis ?? 0,
          rate: readThing('exchange_rate', typed, reading)['rate'],
          said: words.rateDone(code),
        })
      }
    >
      <div className="entryfields">
        <ThingInputs section="exchange_rate" only={['rate']} {...{ typed, set }} />
        <EntryField id="rate-from" label={words.from}>
          <DayInput id="rate-from" label={words.from} value={from} onChange={setFrom} />
        </EntryField>
      </div>
    </EntryFrame>
  );
};
