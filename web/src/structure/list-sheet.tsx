import type { ListEntry, UsedIn } from '@gremium/contract';
import { addDays, lastDay } from '@gremium/core';
import { Button } from 'antd';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, useSearchParams } from 'react-router';
import { useLens, useSetParams, useTo } from '../frame/lens';
import { useMay } from '../frame/session';
import type { Texts } from '../texts/en';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { Choice, DayInput } from '../ui/field-input';
import { Problems } from '../ui/problems';
import { EntryForm } from './entry-form';
import { type Done, useListActs, useMoves, useUsedIn, useUses } from './list-acts';
import type { Entry, ListOf } from './list-entries';
import { listWords } from './list-words';

type Act = 'change' | 'retire' | 'merge' | 'replace' | 'uses';
type Open = { id: number; act: Act } | null;

/** One list: its entries with what they mean, since when, and how often they are used; added, changed, retired, merged. */
export const ListSheet = ({ of }: { of: ListOf }) => {
  const { list, entries } = of;
  const words = useWords(listWords);
  const { t, i18n } = useTranslation();
  const format = useFormat();
  const may = useMay();
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
  const retired = entries.filter(({ isRetired }) => isRetired).length;
  const isEntry = list.kind === 'list_entry';
  return (
    <main className="record lists">
      <header className="recordhead">
        <div>
          <h1>{i18n.language === 'de' ? list.name.de : list.name.en}</h1>
          <p className="soft">{words.count(format.number(entries.length), retired)}</p>
        </div>
        {mayWrite && !isAdding && may.act('create') && (
          <Button onClick={() => set({ add: '1' })}>{words.add}</Button>
        )}
      </header>
      {done && <DoneLine done={done} />}
      {isAdding && mayWrite && (
        <EntryForm
          list={list}
          error={acts.add.error}
          isBusy={acts.add.isPending}
          onSave={(draft) => acts.add.mutate(draft)}
          onLeave={() => set({ add: null })}
        />
      )}
      {entries.length === 0 ? (
        <p className="soft">{words.none}</p>
      ) : (
        <table className="register">
          <thead>
            <tr>
              <th scope="col">{words.code}</th>
              <th scope="col">{i18n.language === 'de' || !isEntry ? t('field.name') : words.label}</th>
              {isEntry && <th scope="col">{i18n.language === 'de' ? words.label : words.german}</th>}
              {isEntry && <th scope="col">{words.meaning}</th>}
              {list.acts === 'leave' && <th scope="col">{words.class}</th>}
              <th scope="col">{words.first}</th>
              <th scope="col">{words.last}</th>
              <th scope="col" className="r">
                {words.uses}
              </th>
              <th scope="col" />
            </tr>
          </thead>
          <tbody>
            {entries.map((entry) => (
              <EntryLines
                key={entry.id}
                {...{ of, entry, acts, mayWrite }}
                uses={uses.data?.get(entry.id)?.rows ?? 0}
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

const DoneLine = ({ done: { act, name, entry } }: { done: Done }) => {
  const words = useWords(listWords);
  const { t } = useTranslation();
  const to = useTo();
  const set = useSetParams();
  const may = useMay();
  return (
    <div className="savedline" role="status">
      <span className="moss">✓</span> {words.saved(words.done[act](name))}{' '}
      {entry !== null && may.act('journal') && (
        <Link to={to(`/setup/journal/${entry}`)}>{t('slip.entryNumber', { number: entry })}</Link>
      )}
      {entry !== null && may.act('undo') && (
        <>
          {' · '}
          <button type="button" className="textact" onClick={() => set({ undo: String(entry), slip: null })}>
            {t('undo.word')}
          </button>
        </>
      )}
    </div>
  );
};

type LineProps = {
  of: ListOf;
  entry: Entry;
  uses: number;
  acts: ReturnType<typeof useListActs>;
  mayWrite: boolean;
  open: Act | null;
  onOpen: (act: Act | null) => void;
};

const ACTS = [
  ['change', 'changeOf'],
  ['retire', 'retireOf'],
  ['merge', 'mergeOf'],
  ['replace', 'replaceOf'],
] as const;

const EntryLines = ({ of, entry, uses, acts, mayWrite, open, onOpen }: LineProps) => {
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
      <tr className={entry.isRetired ? 'retired' : undefined}>
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
        <td className="r">
          {uses > 0 && mayWrite ? (
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
            <span className="n soft">{format.number(uses)}</span>
          )}
        </td>
        <td className="entryacts">
          {mayWrite &&
            ACTS.map(([act, label]) => (
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
      </tr>
      {open && (
        <tr className="opened">
          <td colSpan={width}>
            {open === 'uses' && <UsedInLines list={list} entry={entry} />}
            {open === 'change' && (
              <EntryForm
                list={list}
                row={entry.row}
                error={acts.change.error}
                isBusy={acts.change.isPending}
                onSave={({ values: next }) => acts.change.mutate({ entry, values: next })}
                onLeave={() => onOpen(null)}
              />
            )}
            {open === 'retire' && <Retire {...{ entry, acts, onOpen }} />}
            {(open === 'merge' || open === 'replace') && (
              <Move key={open} act={open} {...{ of, entry, acts, onOpen }} />
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
  const found = useUsedIn(list.kind, entry.id);
  const said = ({ section, field, rows, later }: UsedIn): string =>
    `${t(`section.${section as keyof Texts['section']}`)}, ${t(`field.${field as keyof Texts['field']}`)}: ${format.number(rows)}, ${words.later(format.number(later))}`;
  if (found.isPending) return <p className="soft">{t('waiting')}</p>;
  const places = found.data?.places ?? [];
  return <p>{places.length === 0 ? words.unused : places.map(said).join(' · ')}</p>;
};

type ActProps = Pick<LineProps, 'entry' | 'acts' | 'onOpen'>;

const Retire = ({ entry, acts, onOpen }: ActProps) => {
  const words = useWords(listWords);
  const { today } = useLens();
  const [day, setDay] = useState<string | null>(today);
  return (
    <div className="entryform">
      <p className="source">{words.lead.retire}</p>
      <div className="entryfields">
        <label className="slipfield">
          <span className="soft">{words.lastDay}</span>
          <DayInput
            id="retire-day"
            label={words.lastDay}
            value={day}
            onChange={(next) => setDay(next as string | null)}
          />
        </label>
      </div>
      <Problems of={acts.retire.error} />
      <Button
        type="primary"
        disabled={!day}
        loading={acts.retire.isPending}
        onClick={() => acts.retire.mutate({ entry, lastDay: day as string })}
      >
        {words.submit.retire}
      </Button>{' '}
      <Button type="text" onClick={() => onOpen(null)}>
        {words.leave}
      </Button>
    </div>
  );
};

const Move = ({ act, of, entry, acts, onOpen }: ActProps & { act: 'merge' | 'replace'; of: ListOf }) => {
  const words = useWords(listWords);
  const format = useFormat();
  const { today } = useLens();
  const [to, setTo] = useState<number | null>(null);
  const [day, setDay] = useState<string | null>(act === 'replace' ? addDays(today, 1) : null);
  const looked = useMoves(of.list.kind, { from: entry.id, to, day });
  const target = of.entries.find(({ id }) => id === to);
  const isWaiting = act === 'replace' && !day;
  const problems = looked.data?.problems ?? [];
  return (
    <div className="entryform">
      <p className="source">{words.lead[act]}</p>
      <div className="entryfields">
        <label className="slipfield" htmlFor="move-to">
          <span className="soft">{act === 'merge' ? words.into : words.by}</span>
          <Choice
            id="move-to"
            label={act === 'merge' ? words.into : words.by}
            value={to}
            onChange={(next) => setTo(next as number | null)}
            options={of.entries
              .filter(({ id, isRetired }) => id !== entry.id && !isRetired)
              .map(({ id, name, code }) => ({ value: id, label: `${name} (${code})` }))}
          />
        </label>
        {act === 'replace' && (
          <label className="slipfield">
            <span className="soft">{words.from}</span>
            <DayInput
              id="move-day"
              label={words.from}
              value={day}
              onChange={(next) => setDay(next as string | null)}
            />
          </label>
        )}
      </div>
      {target && looked.data && problems.length === 0 && (
        <p role="status">
          <b className="ochre">
            {words.moves(looked.data.rows, format.number(looked.data.rows), entry.name, target.name)}
          </b>
        </p>
      )}
      <Problems of={acts.move.error ?? looked.error} />
      <Button
        type="primary"
        disabled={to === null || isWaiting || !looked.data}
        loading={acts.move.isPending}
        onClick={() => acts.move.mutate({ entry, to: to as number, day })}
      >
        {words.submit[act]}
      </Button>{' '}
      <Button type="text" onClick={() => onOpen(null)}>
        {words.leave}
      </Button>
    </div>
  );
};
