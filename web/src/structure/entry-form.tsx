import type { Day, Flags, ListEntry, ListName, PickList, Row } from '@gremium/contract';
import { ReasonClass } from '@gremium/contract';
import { codeFrom } from '@gremium/core';
import { Input } from 'antd';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useLens } from '../frame/lens';
import { useReading } from '../texts/format';
import { useWords } from '../texts/words';
import { DayInput, isDay } from '../ui/day-input';
import { Choice, SeveralChoice } from '../ui/field-input';
import { ThingInputs, isThingReady, readThing } from '../ui/thing-inputs';
import { useReference } from '../time/time.queries';
import { EntryField } from '../ui/entry-field';
import { EntryFrame } from './entry-frame';
import { freeCode, ownCodes } from './own-acts';
import { type Shape, shapeOf } from './entry-shape';
import type { EntryDraft } from './list-acts';
import { useListName } from './list-entries';
import { listWords } from './list-words';

/** What is typed of an entry, by the names of its inputs. */
type Typed = Record<string, unknown>;

type FormProps = {
  list: PickList;
  /** What it is now; none: a new one. */
  row?: Row | undefined;
  error: Error | null;
  isBusy: boolean;
  /** What was typed where it was looked for in vain. */
  label?: string;
  /** `name`: what it is called in the language of the page. */
  onSave: (draft: EntryDraft & { name: string }) => void;
  onLeave: () => void;
};

const begun = (row: Row | undefined, hint: string | undefined, language: string): Typed => {
  if (!row) return hint ? { [language]: hint, name: hint } : {};
  if (row.section !== 'list_entry') return row.values as Typed;
  const { code, label, meaning, flags } = row.values as unknown as ListEntry;
  return {
    code,
    en: label.en,
    de: label.de,
    meaning_en: meaning?.en ?? null,
    meaning_de: meaning?.de ?? null,
    class: flags.class ?? null,
    ...flags,
  };
};

const text = (value: unknown): string => (typeof value === 'string' ? value.trim() : '');

// A label in one language stands for both until somebody translates it.
const pair = (en: string, de: string) => ({ en: en || de, de: de || en });

const entryValues = (
  list: PickList,
  typed: Typed,
  { row, reading, taken }: { row: Row | undefined; reading: string; taken: ReadonlySet<string> },
) => {
  const old = row?.values as unknown as ListEntry | undefined;
  const [en, de] = [text(typed['en']), text(typed['de'])];
  const [meaningEn, meaningDe] = [text(typed['meaning_en']), text(typed['meaning_de'])];
  const flags = {
    ...old?.flags,
    ...(list.acts && !old ? { acts: [list.acts] } : {}),
    ...(list.acts === 'leave' ? { class: (typed['class'] ?? 'other') as ReasonClass } : {}),
    ...(!old && list.list === 'agreement' && !isBlank(typed['fullTime'])
      ? { fullTime: readThing('location', typed, reading)['fullTime'] as number }
      : {}),
    ...Object.fromEntries(flagsOf(list).map((flag) => [flag, typed[flag] === true])),
    ...(isRanked(list) ? ranked(typed) : {}),
    ...demandsOf(list, typed),
  };
  return {
    ...(old ? {} : { list: list.list, ...(list.ownField ? { ownFieldId: list.ownField } : {}) }),
    code: text(typed['code']) || (list.ownField ? freeCode(en || de, taken) : codeFrom(en || de)),
    label: pair(en, de),
    flags,
    meaning: meaningEn || meaningDe ? pair(meaningEn, meaningDe) : null,
  };
};

// What entries of a list mean to the rules, by yes or no.
const FLAGS: Partial<
  Record<
    ListName,
    readonly (keyof Flags &
      ('paid' | 'counted' | 'division' | 'atSea' | 'base' | 'stopsClock' | 'once' | 'paidOnly'))[]
  >
> = {
  worker_type: ['counted', 'paid'],
  unit_kind: ['division', 'atSea'],
  pay_kind: ['base'],
  absence_kind: ['stopsClock'],
  honour: ['once', 'paidOnly'],
};
// Of these a higher one of the same series satisfies a lower one; levels of education are one series.
const isRanked = ({ list }: PickList): boolean =>
  list === 'education' || list === 'certificate' || list === 'skill';
const ranked = (typed: Typed): Pick<Flags, 'rank' | 'series'> => ({
  ...(isBlank(typed['rank']) ? {} : { rank: Number(typed['rank']) }),
  ...(text(typed['series']) === '' ? {} : { series: text(typed['series']) }),
});
const flagsOf = ({ list }: PickList) => (list ? (FLAGS[list] ?? []) : []);

// What must be said of an honour; of certificates and trainings only whether there is to be evidence.
const ASKS = ['orderNumber', 'orderedOn', 'country', 'issuer', 'ordinal', 'evidence', 'expiresOn'] as const;
const asksOf = ({ list }: PickList): readonly (typeof ASKS)[number][] => {
  if (list === 'honour') return ASKS;
  return list === 'certificate' || list === 'training' ? ['evidence'] : [];
};
const demandsOf = (list: PickList, typed: Typed): Partial<Flags> => {
  const said = (typed['asks'] as Flags['asks'] | null | undefined) ?? undefined;
  const asks = asksOf(list).length > 0 ? { asks: said } : {};
  if (list.list === 'declared_fact') return { question: text(typed['question']) || undefined };
  if (list.list !== 'honour') return asks;
  const countries = (
    Array.isArray(typed['countries']) ? (typed['countries'] as string[]).join(',') : text(typed['countries'])
  )
    .toUpperCase()
    .split(/[\s,;]+/)
    .filter(Boolean);
  return {
    ...asks,
    group: text(typed['group']) || undefined,
    years: isBlank(typed['years']) ? undefined : Number(typed['years']),
    countries: countries.length > 0 ? countries : undefined,
  };
};

/** An entry of a list, typed: its code and labels, or the fields of the thing that it is. */
export const EntryForm = ({ list, row, label, error, isBusy, onSave, onLeave }: FormProps) => {
  const words = useWords(listWords);
  const { i18n } = useTranslation();
  const reading = useReading();
  const nameOf = useListName();
  const taken = new Set(ownCodes(useReference() ?? []));
  const [typed, setTyped] = useState<Typed>(() => begun(row, label, i18n.language === 'de' ? 'de' : 'en'));
  const { on } = useLens();
  const shape = shapeOf(list.kind, row !== undefined);
  const [from, setFrom] = useState<string | null>(shape.isFromDay ? on : null);
  const set = (name: string) => (value: unknown) => setTyped({ ...typed, [name]: value });
  const isEntry = list.kind === 'list_entry';
  const isSaid = isEntry
    ? text(typed['en']) !== '' || text(typed['de']) !== ''
    : isThingReady(list.kind, filled(shape, typed));
  const isReady = isSaid && (from === null || isDay(from));
  const save = () => {
    const name =
      text(typed[i18n.language === 'de' ? 'de' : 'en']) || text(typed['en']) || text(typed['name']);
    if (isEntry)
      return onSave({
        values: entryValues(list, typed, { row, reading, taken }),
        from: from as Day | null,
        name,
      });
    onSave({
      values: { ...filled(shape, readThing(list.kind, typed, reading)) },
      from: from as Day | null,
      name,
    });
  };
  return (
    <EntryFrame
      lead={row ? words.lead.change : words.addTo(nameOf(list))}
      submit={row ? words.submit.change : words.submit.add}
      {...{ isReady, isBusy, error, onLeave }}
      onSubmit={save}
    >
      <div className="entryfields">
        {isEntry ? (
          <EntryInputs {...{ list, typed, set }} isNew={!row} />
        ) : (
          <ThingInputs
            section={list.kind}
            {...{ typed, set }}
            {...(shape.only ? { only: shape.only } : {})}
          />
        )}
        {!row && (
          <EntryField label={shape.isFromDay ? words.from : words.firstOptional}>
            <DayInput
              id="entry-from"
              label={shape.isFromDay ? words.from : words.firstOptional}
              value={from}
              onChange={setFrom}
            />
          </EntryField>
        )}
      </div>
    </EntryFrame>
  );
};

// What the rest follows from what is typed.
const filled = ({ rest }: Shape, typed: Typed): Typed => ({ ...rest?.(typed), ...said(typed) });
const said = (typed: Typed): Typed =>
  Object.fromEntries(Object.entries(typed).filter(([, value]) => !isBlank(value)));

const isBlank = (value: unknown): boolean => value === null || value === undefined || value === '';

type InputsProps = { list: PickList; typed: Typed; set: (name: string) => (value: unknown) => void };

const EntryInputs = ({ list, typed, set, isNew }: InputsProps & { isNew: boolean }) => {
  const words = useWords(listWords);
  const { t, i18n } = useTranslation();
  // the language of the page first
  const [own, other] = i18n.language === 'de' ? (['de', 'en'] as const) : (['en', 'de'] as const);
  const label = { en: words.label, de: words.german };
  const meaning = { en: words.meaning, de: words.meaningGerman };
  const line = (name: string, label: string, isFirst = false) => (
    <EntryField key={name} label={label}>
      <Input
        aria-label={label}
        autoFocus={isFirst}
        autoComplete="off"
        maxLength={name === 'code' ? 40 : 200}
        className="line-input"
        variant="underlined"
        value={text(typed[name]) === '' && isBlank(typed[name]) ? '' : String(typed[name])}
        onChange={(event) => set(name)(event.target.value)}
      />
    </EntryField>
  );
  return (
    <>
      {line(own, label[own], true)}
      {line(other, label[other])}
      {line('code', words.code)}
      {line(`meaning_${own}`, meaning[own])}
      {line(`meaning_${other}`, meaning[other])}
      {isRanked(list) && line('rank', words.rank)}
      {isRanked(list) && list.list !== 'education' && line('series', words.series)}
      {list.list === 'declared_fact' && line('question', words.question)}
      {list.list === 'honour' && line('group', words.group)}
      {list.list === 'honour' && line('years', words.years)}
      {list.list === 'honour' && line('countries', words.countries)}
      {asksOf(list).length > 0 && (
        <EntryField label={words.asks}>
          <SeveralChoice
            id="entry-asks"
            label={words.asks}
            options={asksOf(list)}
            called={Object.fromEntries(asksOf(list).map((name) => [name, t(`field.${name}`)]))}
            value={typed['asks'] ?? null}
            onChange={set('asks')}
          />
        </EntryField>
      )}
      {flagsOf(list).map((flag) => (
        <EntryField key={flag} id={`entry-${flag}`} label={words.flags[flag]}>
          <Choice
            id={`entry-${flag}`}
            label={words.flags[flag]}
            clearable={false}
            value={typed[flag] === true ? 'yes' : 'no'}
            onChange={(value) => set(flag)(value === 'yes')}
            options={(['yes', 'no'] as const).map((value) => ({ value, label: t(value) }))}
          />
        </EntryField>
      ))}
      {list.list === 'agreement' && isNew && (
        <ThingInputs section="location" only={['fullTime']} typed={typed} set={set} />
      )}
      {list.acts === 'leave' && (
        <EntryField id="entry-class" label={words.class}>
          <Choice
            id="entry-class"
            label={words.class}
            clearable={false}
            value={typed['class'] ?? 'other'}
            onChange={set('class')}
            options={ReasonClass.options.map((value) => ({ value, label: words.classes[value] }))}
          />
        </EntryField>
      )}
    </>
  );
};
