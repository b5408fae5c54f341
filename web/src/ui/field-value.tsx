import type { FileRef } from '@gremium/contract';
import { type Register, codeName } from '@gremium/core';
import { useTranslation } from 'react-i18next';
import type { Texts } from '../texts/en';
import { useFormat } from '../texts/format';
import type { NameOf } from '../time/time.queries';
import type { Field } from './fields';

export type Showing = { register: Register; nameOf: NameOf };

/** A list entry's label in the user's language. */
export const labelIn = (register: Register, id: number | null, language: string): string => {
  const values = id === null ? undefined : register.rows('list_entry', id).at(-1)?.values;
  return values ? values.label[language === 'de' ? 'de' : 'en'] : '';
};

/** Values of fields in words; an empty text where there is none. */
export const useShow = ({ register, nameOf }: Showing) => {
  const { t, i18n } = useTranslation();
  const format = useFormat();
  return (field: Field, value: unknown): string => {
    if (value === null || value === undefined || value === '') return '';
    if (field.is === 'day') return format.day(value as string);
    if (field.is === 'hundredths') return format.hundredths(value as number);
    if (field.is === 'number')
      return field.said ? format.named(field.said, value as number) : format.number(value as number);
    if (field.is === 'decimal') return format.decimal(value as string);
    if (field.is === 'yes_no') return t(value ? 'yes' : 'no');
    if (field.is === 'choices')
      return (value as string[])
        .map((one) => t(`choice.${one as keyof Texts['choice']}`, { defaultValue: one }))
        .join(', ');
    // patterns (of days) say themselves what they are
    if (field.is === 'choice')
      return t(`choice.${value as keyof Texts['choice']}`, { defaultValue: String(value) });
    if (field.is === 'list') return labelIn(register, value as number, i18n.language);
    // where only how many there are is told, that is said
    if (field.is === 'lists')
      return Array.isArray(value)
        ? value.map((id) => labelIn(register, id as number, i18n.language)).join(', ')
        : format.number(value as number);
    if (field.is === 'language' || field.is === 'country')
      return codeName(format.locale, field.is === 'country' ? 'region' : 'language', value as string);
    if (field.is === 'money') {
      const { amount, currency } = value as { amount: string; currency: string };
      return `${format.amount(amount)} ${currency}`;
    }
    if (field.is === 'file') return (value as FileRef).name;
    if (field.is === 'refs') return (value as number[]).map((id) => nameOf(field.kind, id)).join(', ');
    if (field.is === 'ref') return nameOf(field.kind, value as number);
    return String(value);
  };
};

/** Label and value side by side, one under the other, as ruled lines. */
export const Facts = ({
  of,
}: {
  of: { label: string; value: React.ReactNode; note?: React.ReactNode }[];
}) => (
  <dl className="facts">
    {of.map(({ label, value, note }) => (
      <div key={label}>
        <dt>{label}</dt>
        <dd>
          {value === null || value === undefined || value === '' || value === false ? '–' : value}
          {note ? <span className="note-after"> {note}</span> : null}
        </dd>
      </div>
    ))}
  </dl>
);
