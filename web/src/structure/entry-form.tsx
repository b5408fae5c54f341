import type { Flags, ListEntry, ListName, PickList, Row } from '@gremium/contract';
import { ReasonClass, preset } from '@gremium/contract';
import { RowRegister } from '@gremium/core';
import { Button, Input } from 'antd';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useLens } from '../frame/lens';
import type { Texts } from '../texts/en';
import { useWords } from '../texts/words';
import { useReferenceRegister } from '../time/time.queries';
import { Choice, DayInput, FieldInput } from '../ui/field-input';
import { fieldsOf } from '../ui/fields';
import { Problems } from '../ui/problems';
import { readTyped } from '../ui/typed';
import { listWords } from './list-words';

/** What is typed of an entry, by the names of its inputs. */
type Typed = Record<string, unknown>;

export type EntryDraft = { values: Record<string, unknown>; from: string | null };

type FormProps = {
  list: PickList;
  /** What it is now; none: a new one. */
  row?: Row | undefined;
  error: Error | null;
  isBusy: boolean;
  /** What was typed where it was looked for in vain. */
  label?: string;
  onSave: (draft: EntryDraft) => void;
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
    meaningEn: meaning?.en ?? null,
    meaningDe: meaning?.de ?? null,
    class: flags.class ?? null,
    ...flags,
  };
};

const text = (value: unknown): string => (typeof value === 'string' ? value.trim() : '');

// A label in one language stands for both until somebody translates it.
const pair = (en: string, de: string) => ({ en: en || de, de: de || en });

const entryValues = (list: PickList, typed: Typed, row: Row | undefined) => {
  const old = row?.values as unknown as ListEntry | undefined;
  const [en, de] = [text(typed['en']), text(typed['de'])];
  const [meaningEn, meaningDe] = [text(typed['meaningEn']), text(typed['meaningDe'])];
  const flags = {
    ...old?.flags,
    ...(list.acts && !old ? { acts: [list.acts] } : {}),
    ...(list.acts === 'leave' ? { class: (typed['class'] ?? 'other') as ReasonClass } : {}),
    ...Object.fromEntries(flagsOf(list).map((flag) => [flag, typed[flag] === true])),
  };
  return {
    ...(old ? {} : { list: list.list }),
    code: text(typed['code']) || codeFrom(en || de),
    label: pair(en, de),
    flags,
    meaning: meaningEn || meaningDe ? pair(meaningEn, meaningDe) : null,
  };
};

// What entries of a list mean to the rules, by yes or no.
const FLAGS: Partial<
  Record<ListName, readonly (keyof Flags & ('paid' | 'counted' | 'division' | 'base'))[]>
> = {
  worker_type: ['counted', 'paid'],
  unit_kind: ['division'],
  pay_kind: ['base'],
};
const flagsOf = ({ list }: PickList) => (list ? (FLAGS[list] ?? []) : []);

/** A code made of a label: its letters and digits, in capitals. @example codeFrom('End of season') // 'END-OF-SEASON' */
export const codeFrom = (label: string): string =>
  label
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .toUpperCase()
    .replace(/[^A-Z0-9]+/g, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 40);

/** An entry of a list, typed: its code and labels, or the fields of the thing that it is. */
export const EntryForm = ({ list, row, label, error, isBusy, onSave, onLeave }: FormProps) => {
  const words = useWords(listWords);
  const { i18n } = useTranslation();
  const [typed, setTyped] = useState<Typed>(() => begun(row, label, i18n.language === 'de' ? 'de' : 'en'));
  const [from, setFrom] = useState<string | null>(null);
  const set = (name: string) => (value: unknown) => setTyped({ ...typed, [name]: value });
  const isEntry = list.kind === 'list_entry';
  const isReady = isEntry
    ? text(typed['en']) !== '' || text(typed['de']) !== ''
    : fieldsOf(list.kind).every(({ name }) => mayLack(list, name) || !isBlank(typed[name]));
  const save = () => {
    if (!isReady || isBusy) return;
    if (isEntry) return onSave({ values: entryValues(list, typed, row), from });
    const values = Object.fromEntries(
      fieldsOf(list.kind).map((field) => {
        const read = readTyped(field, typed[field.name] ?? null, i18n.language);
        return [field.name, 'problem' in read ? typed[field.name] : read.value];
      }),
    );
    onSave({ values, from });
  };
  return (
    <form
      className="entryform"
      onSubmit={(event) => {
        event.preventDefault();
        // over a slip its own form would hear it too
        event.stopPropagation();
        save();
      }}
    >
      <p className="source">{row ? words.lead.change : words.addTo(nameOf(list, i18n.language))}</p>
      <div className="entryfields">
        {isEntry ? <EntryInputs {...{ list, typed, set }} /> : <ThingInputs {...{ list, typed, set }} />}
        {!row && (
          <label className="slipfield">
            <span className="soft">{words.firstOptional}</span>
            <DayInput
              id="entry-from"
              label={words.firstOptional}
              value={from}
              onChange={(day) => setFrom(day as string)}
            />
          </label>
        )}
      </div>
      <Problems of={error} />
      <Button type="primary" htmlType="submit" disabled={!isReady} loading={isBusy}>
        {row ? words.submit.change : words.submit.add}
      </Button>{' '}
      <Button type="text" onClick={onLeave}>
        {words.leave}
      </Button>
    </form>
  );
};

const nameOf = ({ name }: PickList, language: string): string => (language === 'de' ? name.de : name.en);

const isBlank = (value: unknown): boolean => value === null || value === undefined || value === '';
const mayLack = ({ kind }: PickList, field: string): boolean => field in preset.section(kind).nulls;

type InputsProps = { list: PickList; typed: Typed; set: (name: string) => (value: unknown) => void };

const EntryInputs = ({ list, typed, set }: InputsProps) => {
  const words = useWords(listWords);
  const { t } = useTranslation();
  const line = (name: string, label: string, isFirst = false) => (
    <label className="slipfield" key={name}>
      <span className="soft">{label}</span>
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
    </label>
  );
  return (
    <>
      {line('en', words.label, true)}
      {line('de', words.german)}
      {line('code', words.code)}
      {line('meaningEn', words.meaning)}
      {line('meaningDe', words.meaningGerman)}
      {flagsOf(list).map((flag) => (
        <label className="slipfield" key={flag} htmlFor={`entry-${flag}`}>
          <span className="soft">{words.flags[flag]}</span>
          <Choice
            id={`entry-${flag}`}
            label={words.flags[flag]}
            clearable={false}
            value={typed[flag] === true ? 'yes' : 'no'}
            onChange={(value) => set(flag)(value === 'yes')}
            options={(['yes', 'no'] as const).map((value) => ({ value, label: t(value) }))}
          />
        </label>
      ))}
      {list.acts === 'leave' && (
        <label className="slipfield" htmlFor="entry-class">
          <span className="soft">{words.class}</span>
          <Choice
            id="entry-class"
            label={words.class}
            clearable={false}
            value={typed['class'] ?? 'other'}
            onChange={set('class')}
            options={ReasonClass.options.map((value) => ({ value, label: words.classes[value] }))}
          />
        </label>
      )}
    </>
  );
};

const ThingInputs = ({ list, typed, set }: InputsProps) => {
  const { t } = useTranslation();
  const { on } = useLens();
  const register = useReferenceRegister() ?? new RowRegister();
  return fieldsOf(list.kind).map((field, i) => {
    const label = t(`field.${field.name as keyof Texts['field']}`);
    return (
      <label className="slipfield" key={field.name} htmlFor={`entry-${field.name}`}>
        <span className="soft">{label}</span>
        <FieldInput
          id={`entry-${field.name}`}
          label={label}
          autoFocus={i === 0}
          field={field}
          showing={{ register, nameOf: () => '' }}
          on={on}
          value={typed[field.name] ?? null}
          onChange={set(field.name)}
        />
      </label>
    );
  });
};
