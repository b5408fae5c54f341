import type { Day, ListEntry, UsedIn } from '@gremium/contract';
import { addDays, lastDay } from '@gremium/core';
import { Button } from 'antd';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useSearchParams } from 'react-router';
import { useLens, useSetParams } from '../frame/lens';
import { useMay } from '../frame/session';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { SaidLine } from '../time/said-line';
import { EntryField } from '../ui/entry-field';
import { DayInput, isDay } from '../ui/day-input';
import { Choice } from '../ui/field-input';
import { Problems } from '../ui/problems';
import { EntryForm } from './entry-form';
import { EntryFrame } from './entry-frame';
import { type Done, useBasis, useListActs, useMoves, useUsedIn, useUses } from './list-acts';
import { useOrdering } from './ordering';
import { type Entry, type ListOf, useListName } from './list-entries';
import { listWords } from './list-words';
import { useFieldName } from '../ui/field-name';
import { useSectionName } from '../ui/section-name';

type Act = 'change' | 'retire' | 'merge' | 'replace' | 'uses';
type Open = { id: number; act: Act } | null;

/** One list: its entries with what they mean, since when, and how often they are used; added, changed, retired, merged. */
export const ListSheet = ({ of }: { of: ListOf }) => {
  const { list, entries } = of;
  const words = useWords(listWords);
  const { t, i18n } = useTranslation();
  const format = useFormat();
  const may = useMay();
  const nameOf = useListName();
  const set = useSetParams();
  const [params] = useSearchParams();
  const isAdding = params.has('add');
  const [open, setOpen] = useState<Open>(null);
  const [done, setDone] = useState<Done | null>(null);
  const acts = useListActs(list, (what) => {
    setDone(what);
    setOpen(null);
    if (what.act === 'add') set({ add: null });
  });
  const mayWrite = may.edit(list.kind);
  const uses = useUses(list.kind, mayWrite);
  const ordering = useOrdering(list.kind === 'list_entry' && mayWrite, entries, (ids, name) =>
    acts.order.mutate({ ids, name }),
  );
  const retired = entries.filter(({ isRetired }) => isRetired).length;
  const isEntry = list.kind === 'list_entry';
  const isGerman = i18n.language === 'de';
  return (
    <main className="record lists">
      <header className="recordhead">
        <div>
          <h1>{nameOf(list)}</h1>
          <p className="soft">{words.count(format.number(entries.length), retired)}</p>
        </div>
        {mayWrite && !isAdding && may.act('create') && (
          <Button onClick={() => set({ add: '1' })}>{words.add}</Button>
        )}
      </header>
      {done && <SaidLine text={words.done[done.act](done.name)} entry={done.entry} />}
      {isAdding && mayWrite && (
        <EntryForm
          list={list}
          error={acts.add.error}
          isBusy={acts.add.isPending}
          onSave={(draft) => acts.add.mutate(draft)}
          onLeave={() => set({ add: null })}
        />
      )}
      <Problems of={acts.order.error} />
      {isEntry && mayWrite && entries.length > 1 && <p className="source">{words.ordering}</p>}
      {entries.length === 0 ? (
        <p className="soft">{words.none}</p>
      ) : (
        <table className="register">
          <thead>
            <tr>
              <th scope="col">{words.code}</th>
              <th scope="col">{isEntry ? (isGerman ? words.german : words.label) : t('field.name')}</th>
              {isEntry && <th scope="col">{isGerman ? words.label : words.german}</th>}
              {isEntry && <th scope="col">{isGerman ? words.meaningGerman : words.meaning}</th>}
              {list.acts === 'leave' && <th scope="col">{words.class}</th>}
              <th scope="col">{words.first}</th>
              <th scope="col">{words.last}</th>
              {mayWrite && (
                <th scope="col" className="r">
                  {words.uses}
                </th>
              )}
              {mayWrite && <th scope="col" />}
            </tr>
          </thead>
          <tbody>
            {entries.map((entry) => (
              <EntryLines
                key={entry.id}
                {...{ of, entry, acts, mayWrite }}
                handlers={ordering(entry)}
                uses={uses.data ? (uses.data.get(entry.id)?.rows ?? 0) : null}
                open={open?.id === entry.id ? open.act : null}
                onOpen={(act) => {
                  setDone(null);
                  setOpen(act && { id: entry.id, act });
                }}
              />
            ))}
          </tbody>
        </table>
      )}
    </main>
  );
};

type LineProps = {
  of: ListOf;
  entry: Entry;
  /** Null until they are counted. */
  uses: number | null;
  acts: ReturnType<typeof useListActs>;
  mayWrite: boolean;
  /** Of its line, for its place among the others. */
  handlers: React.HTMLAttributes<HTMLTableRowElement>;
  open: Act | null;
  onOpen: (act: Act | null) => void;
};

const ACTS = [
  ['change', 'changeOf'],
  ['retire', 'retireOf'],
  ['merge', 'mergeOf'],
  ['replace', 'replaceOf'],
] as const;

const EntryLines = ({ of, entry, uses, acts, mayWrite, handlers, open, onOpen }: LineProps) => {
  const { list } = of;
  const words = useWords(listWords);
  const { i18n } = useTranslation();
  const format = useFormat();
  const values = entry.row.values as unknown as ListEntry;
  const isGerman = i18n.language === 'de';
  const isEntry = list.kind === 'list_entry';
  const day = (bound: string) => (bound === '-infinity' || bound === 'infinity' ? '' : format.day(bound));
  const cells = isEntry
    ? [
        isGerman ? values.label.en : values.label.de,
        (isGerman ? values.meaning?.de : values.meaning?.en) ?? '',
      ]
    : [];
  const width = 6 + cells.length + (list.acts === 'leave' ? 1 : 0);
  return (
    <>
      <tr className={entry.isRetired ? 'retired' : undefined} {...handlers}>
        <td className="n soft">{entry.code}</td>
        <td>
          <b>{entry.name}</b>
        </td>
        {cells.map((cell, i) => (
          <td key={i} className={i === 1 ? 'soft' : undefined}>
            {cell}
          </td>
        ))}
        {list.acts === 'leave' && <td>{words.classes[values.flags.class ?? 'other']}</td>}
        <td>{day(entry.from)}</td>
        <td>{entry.until === 'infinity' ? '' : day(lastDay(entry) ?? 'infinity')}</td>
        {mayWrite && (
          <td className="r">
            {uses ? (
              <button
                type="button"
                className="figureopen n"
                aria-expanded={open === 'uses'}
                aria-label={`${format.number(uses)}, ${words.usedIn(entry.name)}`}
                onClick={() => onOpen(open === 'uses' ? null : 'uses')}
              >
                {format.number(uses)}
              </button>
            ) : (
              <span className="n soft">{uses === null ? '' : format.number(uses)}</span>
            )}
          </td>
        )}
        {mayWrite && (
          <td className="entryacts">
            {ACTS.map(([act, label]) => (
              <button
                key={act}
                type="button"
                className="textact"
                aria-label={words[label](entry.name)}
                onClick={() => onOpen(open === act ? null : act)}
              >
                {words[act]}
              </button>
            ))}
          </td>
        )}
      </tr>
      {open && (
        <tr className="opened">
          <td colSpan={width}>
            {open === 'uses' && <UsedInLines list={list} entry={entry} />}
            {open === 'change' && <Change {...{ list, entry, acts, onOpen }} />}
            {open === 'retire' && <Retire {...{ list, entry, acts, onOpen }} />}
            {(open === 'merge' || open === 'replace') && (
              <Move key={open} act={open} {...{ of, list, entry, acts, onOpen }} />
            )}
          </td>
        </tr>
      )}
    </>
  );
};

const UsedInLines = ({ list, entry }: { list: ListOf['list']; entry: Entry }) => {
  const words = useWords(listWords);
  const { t } = useTranslation();
  const format = useFormat();
  const nameOfField = useFieldName();
  const nameOfSection = useSectionName();
  const found = useUsedIn(list.kind, entry.id);
  const said = ({ section, field, rows, later }: UsedIn): string =>
    `${nameOfSection(section)}, ${nameOfField(section, field)}: ${format.number(rows)}, ${words.later(format.number(later))}`;
  if (found.isPending) return <p className="soft">{t('waiting')}</p>;
  const places = found.data?.places ?? [];
  return <p>{places.length === 0 ? words.unused : places.map(said).join(' · ')}</p>;
};

type ActProps = Pick<LineProps, 'entry' | 'acts' | 'onOpen'> & { list: ListOf['list'] };

const Change = ({ list, entry, acts, onOpen }: ActProps) => {
  const basis = useBasis(list.kind, entry.id);
  return (
    <EntryForm
      list={list}
      row={entry.row}
      error={acts.change.error}
      isBusy={basis === undefined || acts.change.isPending}
      onSave={({ values }) => acts.change.mutate({ entry, basis: basis ?? 0, values })}
      onLeave={() => onOpen(null)}
    />
  );
};

const Retire = ({ list, entry, acts, onOpen }: ActProps) => {
  const words = useWords(listWords);
  const { today } = useLens();
  const basis = useBasis(list.kind, entry.id);
  const [day, setDay] = useState<string | null>(today);
  return (
    <EntryFrame
      lead={words.lead.retire}
      submit={words.submit.retire}
      isReady={isDay(day) && basis !== undefined}
      isBusy={acts.retire.isPending}
      error={acts.retire.error}
      onSubmit={() => acts.retire.mutate({ entry, basis: basis as number, lastDay: day as Day })}
      onLeave={() => onOpen(null)}
    >
      <div className="entryfields">
        <EntryField label={words.lastDay}>
          <DayInput id="retire-day" label={words.lastDay} value={day} onChange={setDay} />
        </EntryField>
      </div>
    </EntryFrame>
  );
};

const Move = ({
  act,
  of,
  list,
  entry,
  acts,
  onOpen,
}: ActProps & { act: 'merge' | 'replace'; of: ListOf }) => {
  const words = useWords(listWords);
  const format = useFormat();
  const { today } = useLens();
  const [to, setTo] = useState<number | null>(null);
  const [day, setDay] = useState<string | null>(act === 'replace' ? addDays(today, 1) : null);
  const hasDay = act === 'merge' || isDay(day);
  const looked = useMoves(list.kind, { from: entry.id, to, day: isDay(day) ? day : null }, hasDay);
  const target = of.entries.find(({ id }) => id === to);
  const problems = looked.data?.problems ?? [];
  const label = act === 'merge' ? words.into : words.by;
  return (
    <EntryFrame
      lead={words.lead[act]}
      submit={words.submit[act]}
      isReady={to !== null && hasDay && looked.data !== undefined}
      isBusy={acts.move.isPending}
      error={acts.move.error ?? looked.error}
      onSubmit={() => acts.move.mutate({ entry, to: to as number, day: day as Day | null })}
      onLeave={() => onOpen(null)}
    >
      <div className="entryfields">
        <EntryField id="move-to" label={label}>
          <Choice
            id="move-to"
            label={label}
            value={to}
            onChange={(next) => setTo(next as number | null)}
            options={of.entries
              .filter(({ id, isRetired }) => id !== entry.id && !isRetired)
              .map(({ id, name, code }) => ({ value: id, label: `${name} (${code})` }))}
          />
        </EntryField>
        {act === 'replace' && (
          <EntryField label={words.from}>
            <DayInput id="move-day" label={words.from} value={day} onChange={setDay} />
          </EntryField>
        )}
      </div>
      {target && looked.data && problems.length === 0 && (
        <p role="status">
          <b className="ochre">
            {words.moves(looked.data.rows, format.number(looked.data.rows), entry.name, target.name)}
          </b>
        </p>
      )}
    </EntryFrame>
  );
};
