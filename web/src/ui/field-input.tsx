import type { ListEntry } from '@gremium/contract';
import type { Register } from '@gremium/core';
import { DatePicker, Input, Select } from 'antd';
import dayjs from 'dayjs';
import { useMemo } from 'react';
import { useTranslation } from 'react-i18next';
import type { Texts } from '../texts/en';
import { useSession } from '../frame/session';
import type { Field } from './fields';
import type { Showing } from './field-value';

type InputProps = {
  id: string;
  value: unknown;
  onChange: (value: unknown) => void;
  label?: string;
};

/** A day to type or to choose: in the organisation's format, or 2027-03-01, or 1.3.2027. */
export const DayInput = ({ id, value, onChange, label }: InputProps) => {
  const { dateFormat } = useSession();
  // the same objects while nothing changed: the picker drops what is being typed when its value is another object
  const formats = useMemo(
    () => [dateFormat, 'YYYY-MM-DD', 'D.M.YYYY', 'DD.MM.YYYY', 'D MMMM YYYY'],
    [dateFormat],
  );
  const day = useMemo(() => (value ? dayjs(value as string) : null), [value]);
  return (
    <DatePicker
      id={id}
      aria-label={label}
      className="line-input"
      variant="underlined"
      format={formats}
      value={day}
      onChange={(next: dayjs.Dayjs | null) => onChange(next ? next.format('YYYY-MM-DD') : null)}
    />
  );
};

type Option = { value: number | string; label: string };

export const Choice = ({
  id,
  value,
  onChange,
  label,
  options,
  clearable = true,
}: InputProps & { options: Option[]; clearable?: boolean }) => (
  <Select
    id={id}
    aria-label={label ?? id}
    className="line-input"
    variant="underlined"
    showSearch={{ optionFilterProp: 'label' }}
    allowClear={clearable}
    options={options}
    value={(value as Option['value'] | null) ?? null}
    onChange={(chosen: Option['value'] | undefined) => onChange(chosen ?? null)}
  />
);

/** Entries of a list in effect on a day, for choosing. */
export const listOptions = (
  register: Register,
  list: ListEntry['list'],
  { on, language, fits = () => true }: { on: string; language: string; fits?: (entry: ListEntry) => boolean },
): Option[] =>
  [...register.allOn('list_entry', on as never)]
    .filter(({ values }) => values.list === list && fits(values))
    .map(({ thing, values }) => ({ value: thing, label: values.label[language === 'de' ? 'de' : 'en'] }))
    .sort((a, b) => a.label.localeCompare(b.label));

const thingOptions = (
  { register, nameOf }: Showing,
  field: Field & { kind: 'thing' },
  on: string,
): Option[] =>
  [...register.allOn(field.of as 'job', on as never)]
    .map(({ thing }) => ({ value: thing, label: nameOf(field.of, thing) }))
    .sort((a, b) => a.label.localeCompare(b.label));

/** The input that fits a field; values are those of the wire. */
export const FieldInput = ({
  field,
  showing,
  on,
  ...props
}: InputProps & { field: Field; showing: Showing; on: string }) => {
  const { t, i18n } = useTranslation();
  const { id, value, onChange, label } = props;
  if (field.kind === 'day') return <DayInput {...props} />;
  if (field.kind === 'list')
    return (
      <Choice
        {...props}
        options={listOptions(showing.register, field.list, { on, language: i18n.language })}
      />
    );
  if (field.kind === 'thing') return <Choice {...props} options={thingOptions(showing, field, on)} />;
  if (field.kind === 'choice' || field.kind === 'yes_no') {
    const options =
      field.kind === 'choice'
        ? field.options.map((option) => ({
            value: option,
            label: t(`choice.${option as keyof Texts['choice']}`),
          }))
        : [
            { value: 'yes', label: t('yes') },
            { value: 'no', label: t('no') },
          ];
    if (field.kind === 'choice') return <Choice {...props} options={options} />;
    return (
      <Choice
        {...props}
        clearable={false}
        options={options}
        value={value ? 'yes' : 'no'}
        onChange={(chosen) => onChange(chosen === 'yes')}
      />
    );
  }
  return (
    <Input
      id={id}
      aria-label={label}
      className="line-input"
      variant="underlined"
      value={asTyped(field, value)}
      onChange={(event) => onChange(event.target.value === '' ? null : event.target.value)}
    />
  );
};

// Numbers stay texts while they are typed ("37." is on the way to 37.5); `asWire` makes them numbers when they are sent.
const asTyped = (field: Field, value: unknown): string => {
  if (value === null || value === undefined) return '';
  if (field.kind === 'hundredths' && typeof value === 'number') return String(value / 100);
  return String(value);
};

/** What was typed as the wire wants it; what is no number stays a text and is refused by the server, naming the field. */
export const asWire = (field: Field, value: unknown): unknown => {
  if (typeof value !== 'string') return value;
  const plain = value.trim().replace(',', '.');
  if (field.kind === 'hundredths' && /^\d+(\.\d{1,2})?$/.test(plain)) return Math.round(Number(plain) * 100);
  if (field.kind === 'number' && /^\d+$/.test(plain)) return Number(plain);
  if (field.kind === 'decimal') return plain;
  if (field.kind === 'country' || field.kind === 'currency') return plain.toUpperCase();
  return value;
};
