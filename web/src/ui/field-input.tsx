import { type Day, type ListEntry, type PickList, ownPickList, pickListOf } from '@gremium/contract';
import { type Register, codeName, codeOptions, groupingOf } from '@gremium/core';
import { Checkbox, Input, Select } from 'antd';
import { Fragment, Suspense, useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import type { Texts } from '../texts/en';
import { useFormat, useReading } from '../texts/format';
import { useMay } from '../frame/session';
import { DayInput } from './day-input';
import type { Field } from './fields';
import { FileInput } from './file-input';
import { type Chosen, Finder } from './finder';
import { type Showing, useShow } from './field-value';
import { useSentence } from './problems';
import { type Typed, asTyped, isNumeric, readTyped } from './typed';
import { lazily } from './lazily';

const AddEntry = lazily(async () => (await import('../structure/add-entry')).AddEntry);

type InputProps = {
  id: string;
  value: unknown;
  onChange: (value: unknown) => void;
  label?: string;
};

type Option = { value: number | string; label: string };

type ChoiceProps = InputProps & {
  options: Option[];
  clearable?: boolean;
  /** The list it picks from: whoever may adds what is missing there, without leaving the form. */
  adds?: PickList | undefined;
};

// No id of anything.
const ADD = -1;

/** One of several options, searched as one types; of a list, one more can be added in its place. */
export const Choice = ({ id, value, onChange, label, options, clearable = true, adds }: ChoiceProps) => {
  const { t } = useTranslation();
  const may = useMay();
  const [search, setSearch] = useState('');
  const [adding, setAdding] = useState<string | null>(null);
  const mayAdd = adds && may.edit(adds.kind) && may.act('create');
  const own = search.trim();
  const all = mayAdd
    ? [...options, { value: ADD, label: own === '' ? t('addHere') : t('addThis', { text: own }) }]
    : options;
  return (
    <>
      <Select
        id={id}
        aria-label={label ?? id}
        className="line-input"
        variant="underlined"
        showSearch={{
          onSearch: setSearch,
          filterOption: (text, option) =>
            option?.value === ADD || (option?.label ?? '').toLowerCase().includes(text.toLowerCase()),
        }}
        allowClear={clearable}
        options={all}
        value={(value as Option['value'] | null) ?? null}
        onChange={(chosen: Option['value'] | undefined) => {
          if (chosen === ADD) setAdding(own);
          else onChange(chosen ?? null);
        }}
      />
      {adds && adding !== null && (
        <Suspense>
          <AddEntry
            list={adds}
            label={adding}
            onAdded={(added) => {
              setAdding(null);
              onChange(added);
            }}
            onLeave={() => setAdding(null)}
          />
        </Suspense>
      )}
    </>
  );
};

/** Entries of a list in effect on a day, for choosing. */
export const listOptions = (
  register: Register,
  list: ListEntry['list'],
  { on, language, fits = () => true }: { on: string; language: string; fits?: (entry: ListEntry) => boolean },
): Option[] =>
  [...register.allOn('list_entry', on as never)]
    .filter(({ values }) => values.list === list && fits(values))
    .map(({ thing, values }) => ({
      value: thing,
      label: values.label[language === 'de' ? 'de' : 'en'],
      place: values.place ?? Infinity,
    }))
    .sort((a, b) => (a.place === b.place ? a.label.localeCompare(b.label) : a.place - b.place))
    .map(({ value, label }) => ({ value, label }));

const thingOptions = ({ register, nameOf }: Showing, field: Field & { is: 'ref' }, on: string): Option[] =>
  [...register.allOn(field.kind as 'job', on as never)]
    .map(({ thing }) => ({ value: thing, label: nameOf(field.kind, thing) }))
    .sort((a, b) => a.label.localeCompare(b.label));

type FoundProps = InputProps & { kind: 'person' | 'position'; showing: Showing; on: string };

// People and positions are too many to be listed: they are looked for. What is chosen here is called as it was found.
const FoundInput = ({ id, label, value, onChange, kind, showing, on }: FoundProps) => {
  const [chosen, setChosen] = useState<Chosen | null>(null);
  const name = chosen?.id === value ? chosen?.name : showing.nameOf(kind, value as number);
  return (
    <Finder
      {...{ id, kind }}
      label={label ?? id}
      day={on as Day}
      clearable
      chosen={typeof value === 'number' ? { id: value, name: name ?? '' } : null}
      onChoose={(next) => {
        setChosen(next);
        onChange(next?.id ?? null);
      }}
    />
  );
};

// Languages and countries by name. One that is recorded with a region (sv-FI) stays, though it is not offered.
const CodedChoice = ({ of, ...props }: InputProps & { of: 'language' | 'country' }) => {
  const { locale } = useFormat();
  const { value } = props;
  const options = useMemo(() => {
    const kind = of === 'country' ? 'region' : of;
    const all = codeOptions(locale, kind);
    const isKnown = typeof value !== 'string' || all.some((one) => one.value === value);
    return isKnown ? all : [{ value, label: codeName(locale, kind, value) }, ...all];
  }, [locale, of, value]);
  return <Choice {...props} options={options} />;
};

// A month or a day of the week, by its name.
const NamedNumber = ({ said, ...props }: InputProps & { said: 'month' | 'weekday' }) => {
  const format = useFormat();
  const count = said === 'month' ? 12 : 7;
  const options = Array.from({ length: count }, (_, i) => ({
    value: i + 1,
    label: format.named(said, i + 1),
  }));
  return <Choice {...props} clearable={false} options={options} />;
};

/** Several of a few words, side by side; `called`: words of their own. */
export const SeveralChoice = ({
  id,
  label,
  value,
  onChange,
  options,
  called = {},
}: InputProps & { options: readonly string[]; called?: Record<string, string> }) => {
  const { t } = useTranslation();
  const chosen = Array.isArray(value) ? (value as string[]) : [];
  return (
    <Checkbox.Group
      aria-label={label ?? id}
      value={chosen}
      onChange={(next) => {
        const kept = options.filter((option) => next.includes(option));
        onChange(kept.length > 0 ? kept : null);
      }}
      options={options.map((option) => ({
        value: option,
        label: called[option] ?? t(`choice.${option as keyof Texts['choice']}`, { defaultValue: option }),
      }))}
    />
  );
};

type EntriesProps = InputProps & { options: Option[]; adds: PickList | undefined };

// Several entries of a list, searched as one types; one more can be added to the list in its place.
const SeveralEntries = ({ id, label, value, onChange, options, adds }: EntriesProps) => {
  const { t } = useTranslation();
  const may = useMay();
  const [search, setSearch] = useState('');
  const [adding, setAdding] = useState<string | null>(null);
  const mayAdd = adds && may.edit(adds.kind) && may.act('create');
  const chosen = Array.isArray(value) ? (value as number[]) : [];
  const own = search.trim();
  return (
    <>
      <Select
        id={id}
        mode="multiple"
        aria-label={label ?? id}
        className="line-input"
        variant="underlined"
        showSearch={{
          onSearch: setSearch,
          filterOption: (text, option) =>
            option?.value === ADD || (option?.label ?? '').toLowerCase().includes(text.toLowerCase()),
        }}
        options={
          mayAdd
            ? [...options, { value: ADD, label: own === '' ? t('addHere') : t('addThis', { text: own }) }]
            : options
        }
        value={chosen}
        onChange={(next: number[]) => {
          if (next.includes(ADD)) setAdding(own);
          else onChange(next.length > 0 ? next : null);
        }}
      />
      {adds && adding !== null && (
        <Suspense>
          <AddEntry
            list={adds}
            label={adding}
            onAdded={(added) => {
              setAdding(null);
              onChange([...chosen, added]);
            }}
            onLeave={() => setAdding(null)}
          />
        </Suspense>
      )}
    </>
  );
};

type Listed = Extract<Field, { is: 'list' | 'lists' }>;

// Choices of an own field are those that were made for it.
const isOfField =
  ({ ownField }: Listed) =>
  (entry: ListEntry): boolean =>
    ownField === undefined || entry.ownFieldId === ownField;
const listOf = ({ list, ownField }: Listed): PickList | undefined =>
  ownField === undefined ? pickListOf('list_entry', { list }) : ownPickList(ownField);

/** The input that fits a field; values are those of the wire. */
export const FieldInput = ({
  field,
  showing,
  on,
  understood,
  isChanged = true,
  autoFocus = false,
  ...props
}: InputProps & {
  field: Field;
  showing: Showing;
  on: string;
  /** How a number is said back; left out: as it will be shown. */
  understood?: ((value: unknown) => string) | undefined;
  isChanged?: boolean;
  autoFocus?: boolean;
}) => {
  const { t, i18n } = useTranslation();
  const reading = useReading();
  const show = useShow(showing);
  const { id, value, onChange, label } = props;
  if (field.is === 'day') return <DayInput {...props} birth={field.birth} autoFocus={autoFocus} />;
  if (field.is === 'file') return <FileInput {...props} />;
  if (field.is === 'list')
    return (
      <Choice
        {...props}
        options={listOptions(showing.register, field.list, {
          on,
          language: i18n.language,
          fits: isOfField(field),
        })}
        adds={listOf(field)}
      />
    );
  if (field.is === 'lists')
    return (
      <SeveralEntries
        {...props}
        options={listOptions(showing.register, field.list, {
          on,
          language: i18n.language,
          fits: isOfField(field),
        })}
        adds={listOf(field)}
      />
    );
  if (field.is === 'ref' && (field.kind === 'person' || field.kind === 'position'))
    return <FoundInput {...props} kind={field.kind} showing={showing} on={on} />;
  if (field.is === 'ref')
    return <Choice {...props} options={thingOptions(showing, field, on)} adds={pickListOf(field.kind)} />;
  if (field.is === 'language' || field.is === 'country') return <CodedChoice {...props} of={field.is} />;
  if (field.is === 'choices') return <SeveralChoice {...props} options={field.options} />;
  if (field.is === 'number' && field.said) return <NamedNumber {...props} said={field.said} />;
  if (field.is === 'choice' || field.is === 'yes_no') {
    const options =
      field.is === 'choice'
        ? field.options.map((option) => ({
            value: option,
            label: t(`choice.${option as keyof Texts['choice']}`, { defaultValue: option }),
          }))
        : [
            { value: 'yes', label: t('yes') },
            { value: 'no', label: t('no') },
          ];
    if (field.is === 'choice') return <Choice {...props} options={options} />;
    return (
      <Choice
        {...props}
        clearable={false}
        options={options}
        value={typeof value === 'boolean' ? (value ? 'yes' : 'no') : null}
        onChange={(chosen) => onChange(chosen === 'yes')}
      />
    );
  }
  if (field.is === 'text' && field.long)
    return (
      <Input.TextArea
        id={id}
        aria-label={label}
        autoSize={{ minRows: 2, maxRows: 8 }}
        maxLength={2000}
        className="line-input"
        variant="underlined"
        value={typeof value === 'string' ? value : ''}
        onChange={(event) => onChange(event.target.value === '' ? null : event.target.value)}
      />
    );
  return (
    <>
      <Input
        id={id}
        aria-label={label}
        autoFocus={autoFocus}
        autoComplete="off"
        maxLength={2000}
        className="line-input"
        variant="underlined"
        value={isChanged && typeof value === 'string' ? value : asTyped(field, value, reading)}
        onChange={(event) => onChange(event.target.value === '' ? null : event.target.value)}
      />
      {isNumeric(field) && typeof value === 'string' && value !== '' && isChanged && (
        <Understood
          read={readTyped(field, value, reading)}
          say={understood ?? ((read) => show(field, read))}
          onTake={onChange}
        />
      )}
    </>
  );
};

/** What was understood of a number that is typed; or what is wrong with it, and the readings to choose from. */
export const Understood = ({
  read,
  say,
  onTake,
}: {
  read: Typed;
  say: (value: unknown) => string;
  onTake: (text: string) => void;
}) => {
  const { t } = useTranslation();
  const reading = useReading();
  const format = useFormat();
  const sentence = useSentence();
  if (!('problem' in read)) return <div className="source understood">{say(read.value)}</div>;
  const written = (offer: string) => (groupingOf(reading) === '.' ? offer.replace('.', ',') : offer);
  return (
    <div className="source brick" role="alert">
      ! {sentence(read.problem)}{' '}
      {read.offers.map((offer, i) => (
        <Fragment key={offer}>
          {i > 0 && ` ${t('or')} `}
          <button type="button" className="textact" onClick={() => onTake(written(offer))}>
            {format.decimal(offer)}
          </button>
        </Fragment>
      ))}
    </div>
  );
};
