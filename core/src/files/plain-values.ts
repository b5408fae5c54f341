// What cells of a plain subject say: read by what the field is, and written back so that they are read as the same.
import { CLEAR, Decimal, type FieldMeta, type ListName, type PlainColumn } from '@gremium/contract';
import type { Bound, Day, DayOrder } from '@gremium/contract';
import { codeNamed } from '../people/code-names';
import { fold } from '../people/names';
import { columnOrderOf, readColumnDay } from '../rules/read-day';
import { asHundredths, decimalSignOf, readColumnNumber } from '../rules/read-number';
import { BEGINNING } from '../time/calendar';
import { problem } from '../time/problem';
import { type Choice, type LookUps, isNamed } from './look-ups';
import { type CellReading, readWord } from './read-cell';

/** How a column of a file writes its days (order null: it is to be asked) and numbers; `today`: what two digits of a year go by. */
export type ColumnHabit = { order: DayOrder | null; decimal: ',' | '.' | null; today: Day };

/** What is known of a file before its columns are read. */
export type FileSaid = {
  today: Day;
  /** Its numbers are numbers, and come with a point whatever its office writes. */
  workbook: boolean;
  /** Columns of which somebody said which of day and month comes first. */
  orders?: ReadonlyMap<string, DayOrder> | undefined;
};

/** How a column writes, by all of its cells. */
export const habitOf = (name: string, texts: readonly string[], file: FileSaid): ColumnHabit => ({
  order: file.orders?.get(name) ?? columnOrderOf(texts).order,
  decimal: decimalSignOf(texts, file.workbook),
  today: file.today,
});

/** What "from the beginning" is written as. */
export const FROM_BEGINNING = '(beginning)';

/** Words for yes and no, folded. */
export const YES_WORDS = ['yes', 'ja', 'true', 'wahr', 'x', '1', 'y', 'j', '✓'];
/** Words for no, as they stand. */
export const NO_WORDS = ['no', 'nein', 'false', 'falsch', '0', 'n', '-'];

const refused = (code: 'value_invalid' | 'value_unknown' | 'decimal_invalid', text: string) => ({
  problem: problem(code, { text }),
  offers: [],
});

/** The day from which a row holds. */
export const readFrom = (text: string, habit: ColumnHabit): CellReading<Bound> =>
  fold(text) === fold(FROM_BEGINNING) ? { value: BEGINNING } : readColumnDay(text, habit);

/** Whether a cell empties its field. */
export const isClear = (text: string): boolean => text.toLowerCase() === CLEAR;

type Asked = {
  on: Bound;
  lookUps: LookUps;
  habit: ColumnHabit;
  wordsOf: (option: string) => readonly string[];
};

/** The parts of a cell that names several. */
export const severalIn = (text: string): string[] =>
  text
    .split(/\s*[;›]\s*|\s*,\s*/)
    .map((one) => one.trim())
    .filter(Boolean);

const all = <T>(texts: readonly string[], read: (text: string) => CellReading<T>): CellReading<T[]> => {
  const values: T[] = [];
  for (const text of texts) {
    const one = read(text);
    if ('problem' in one) return one;
    values.push(one.value);
  }
  return { value: values };
};

const coded = (text: string, kind: 'region' | 'language', shape: RegExp): CellReading<string> => {
  const found = codeNamed(kind, text) ?? (kind === 'region' ? text.toUpperCase() : text.toLowerCase());
  return shape.test(found) ? { value: found } : refused('value_unknown', text);
};

const numberIn = (text: string, { decimal }: ColumnHabit): CellReading<string> => {
  const isNegative = /^[-−]/.test(text);
  const read = readColumnNumber(isNegative ? text.slice(1) : text, decimal);
  if ('problem' in read || !isNegative) return read;
  return { value: `-${read.value}` };
};

// No amount with its currency is longer; a pattern is not tried on what a cell can hold.
const LONGEST_AMOUNT = 60;

// An amount with its currency before or after it.
const moneyIn = (text: string, habit: ColumnHabit): CellReading<{ amount: string; currency: string }> => {
  if (text.length > LONGEST_AMOUNT) return refused('value_invalid', text);
  const found = /^(?:([A-Za-z]{3}|€)\s*)?(.*?\d.*?)(?:\s*([A-Za-z]{3}|€))?$/.exec(text.trim());
  const currency = (found?.[1] ?? found?.[3])?.replace('€', 'EUR').toUpperCase();
  if (!found?.[2] || !currency) return refused('value_invalid', text);
  const read = numberIn(found[2], habit);
  if ('problem' in read) return read;
  const exact = Decimal.safeParse(read.value);
  return exact.success ? { value: { amount: exact.data, currency } } : refused('decimal_invalid', text);
};

const choiceOf = ({ list, ownField }: { list: ListName; ownField?: number }): Choice =>
  ownField === undefined ? list : `own:${ownField}`;

/** The value a cell says of a field; what names other things is found as of the day of its row. */
export const readPlainValue = (column: PlainColumn, text: string, asked: Asked): CellReading<unknown> => {
  const meta = column.meta as FieldMeta;
  if (column.part) return { value: text };
  const { on, lookUps, habit, wordsOf } = asked;
  switch (meta.is) {
    case 'ref':
      return isNamed(meta.kind) ? lookUps.find(meta.kind, text, on) : refused('value_unknown', text);
    case 'list':
      return lookUps.find(choiceOf(meta), text, on);
    case 'lists':
      return all(severalIn(text), (one) => lookUps.find(choiceOf(meta), one, on));
    case 'day':
      return readColumnDay(text, { ...habit, birth: meta.birth });
    case 'yes_no': {
      const said = fold(text);
      if (YES_WORDS.includes(said)) return { value: true };
      return NO_WORDS.includes(text.trim().toLowerCase()) ? { value: false } : refused('value_unknown', text);
    }
    case 'choice':
    case 'choices': {
      const words = Object.fromEntries(meta.options.map((option) => [option, wordsOf(option).map(fold)]));
      const one = (word: string): CellReading<string> => {
        // patterns say themselves what they are
        const exact = meta.options.find((option) => option === word);
        return exact === undefined ? readWord(word, words) : { value: exact };
      };
      return meta.is === 'choice' ? one(text) : all(severalIn(text), one);
    }
    case 'number': {
      const read = numberIn(text, habit);
      if ('problem' in read) return read;
      const value = Number(read.value);
      return Number.isInteger(value) ? { value } : refused('value_invalid', text);
    }
    case 'hundredths':
      return asHundredths(numberIn(text, habit), 1_000_000);
    case 'decimal': {
      const read = numberIn(text, habit);
      if ('problem' in read) return read;
      const exact = Decimal.safeParse(read.value);
      return exact.success ? { value: exact.data } : refused('decimal_invalid', text);
    }
    case 'money':
      return moneyIn(text, habit);
    case 'country':
      return coded(text, 'region', /^[A-Z]{2}$/);
    case 'currency':
      return /^[a-z]{3}$/i.test(text) ? { value: text.toUpperCase() } : refused('value_unknown', text);
    case 'json':
      try {
        return { value: JSON.parse(text) as unknown };
      } catch {
        return refused('value_invalid', text);
      }
    default:
      return { value: text };
  }
};

/** How a thing or an entry is called in a file: by its code, a person by the number. */
export type CodeOf = (kind: string, id: number) => string | null;

/** A value as a file says it, to be read as the same again; null where there is none, or it is not the viewer's to see. */
export const writtenValue = (column: PlainColumn, value: unknown, codeOf: CodeOf): string | null => {
  if (value === null || value === undefined) return null;
  if (column.part) return (value as Record<string, string>)[column.part] ?? null;
  const meta = column.meta as FieldMeta;
  switch (meta.is) {
    case 'ref':
      return codeOf(meta.kind, value as number);
    case 'list':
      return codeOf('list_entry', value as number);
    case 'lists': {
      const codes = (value as number[]).map((id) => codeOf('list_entry', id));
      return codes.some((code) => code === null) ? null : codes.join('; ');
    }
    case 'choices':
      return (value as string[]).join('; ');
    case 'yes_no':
      return value === true ? 'yes' : 'no';
    case 'hundredths':
      return String((value as number) / 100);
    case 'money': {
      const { amount, currency } = value as { amount: string; currency: string };
      return `${amount} ${currency}`;
    }
    case 'json':
      return JSON.stringify(value);
    default:
      return String(value);
  }
};
