// What was typed into a field as the wire wants it: numbers by the one reader, in the language they are shown in. Days are read
// where they are typed (day-input.tsx): a text in their place is none.
import type { Problem } from '@gremium/contract';
import { Day, Decimal, MOST_HOURS } from '@gremium/contract';
import { groupingOf, problem, readHundredths, readNumber } from '@gremium/core';
import type { Field } from './fields';

/** A value for the wire, or what is wrong with the text and the readings there are of it. */
export type Typed = { value: unknown } | { problem: Problem; offers: string[] };

/** Fields whose texts are read as numbers. */
export const isNumeric = ({ is }: Field): boolean =>
  is === 'hundredths' || is === 'number' || is === 'decimal' || is === 'money';

/** Fields in which a text may stand that cannot be read: it is kept as it was typed. */
export const isReadTyped = (field: Field): boolean => isNumeric(field) || field.is === 'day';

/** An amount of money as decimal text. */
export const readAmount = (text: string, language: string): Typed => {
  const read = readNumber(text, groupingOf(language));
  if ('problem' in read || Decimal.safeParse(read.value).success) return read;
  return { problem: problem('decimal_invalid', { text }), offers: [] };
};

/** Weekly hours as hundredths: above 0, at most 168. */
export const readHours = (text: string, language: string): Typed =>
  readHundredths(text, groupingOf(language), MOST_HOURS);

const MOST = 10_000;

const readWhole = (text: string, language: string): Typed => {
  const read = readNumber(text, groupingOf(language));
  if ('problem' in read) return read;
  return /^\d+$/.test(read.value)
    ? { value: Number(read.value) }
    : { problem: problem('number_unread', { text }), offers: [] };
};

// An amount and its currency by three letters: 1.234,50 EUR.
const readMoney = (text: string, language: string): Typed => {
  const [, amount = '', currency = ''] = /^(.*?)\s*([A-Za-z]{3})$/.exec(text.trim()) ?? [];
  if (currency === '') return { problem: problem('currency_invalid', {}), offers: [] };
  const read = readAmount(amount, language);
  return 'problem' in read ? read : { value: { amount: read.value, currency: currency.toUpperCase() } };
};

/** Reads what stands in a field; texts that are no numbers come back with a problem, everything else as it is. */
export const readTyped = (field: Field, value: unknown, language: string): Typed => {
  if (typeof value !== 'string') return { value };
  if (field.is === 'day' && !Day.safeParse(value).success)
    return { problem: problem('day_unread', { text: value }), offers: [] };
  if (field.is === 'decimal') return readAmount(value, language);
  if (field.is === 'money') return readMoney(value, language);
  if (field.is === 'number') return readWhole(value, language);
  if (field.is === 'hundredths') {
    const { most = MOST, zero = false } = field;
    return zero && /^0+([.,]0+)?$/.test(value.trim())
      ? { value: 0 }
      : readHundredths(value, groupingOf(language), most);
  }
  if (field.is === 'country' || field.is === 'currency') return { value: value.trim().toUpperCase() };
  return { value };
};

/** A number as somebody would type it in a language: with its decimal sign and without groups. */
export const asTyped = (field: Field, value: unknown, language: string): string => {
  if (value === null || value === undefined) return '';
  if (field.is === 'money') {
    const { amount, currency } = value as { amount: string; currency: string };
    return `${groupingOf(language) === '.' ? amount.replace('.', ',') : amount} ${currency}`;
  }
  const isKept = field.is === 'hundredths' && typeof value === 'number';
  const text = isKept ? String(value / 100) : String(value);
  return isNumeric(field) && groupingOf(language) === '.' ? text.replace('.', ',') : text;
};
