import type { Day, DayOrder, Fault, ImportField, Pay, Person } from '@gremium/contract';
import { CLEAR, Decimal, MOST_HOURS, importFields } from '@gremium/contract';
import { codeNamed } from '../people/code-names';
import { fold } from '../people/names';
import { problem } from '../time/problem';
import type { Choice, LookUps } from './look-ups';
import { readColumnDay } from '../rules/read-day';
import { asHundredths, readColumnNumber } from '../rules/read-number';
import { type CellReading, readWord } from './read-cell';

/** How the columns of a file write their days and numbers. */
export type Habits = {
  /** Which of day and month comes first; null where it is to be asked. */
  orders: ReadonlyMap<ImportField, DayOrder | null>;
  /** The decimal sign that a column shows. */
  decimals: ReadonlyMap<ImportField, ',' | '.'>;
  today: Day;
};

/** The cells of one row by field, blanks left out, trimmed. */
export type Cells = Partial<Record<ImportField, string>> & Partial<Record<`own.${string}`, string>>;

type Texts = 'given' | 'middle' | 'family' | 'preferred' | 'email' | 'phone' | 'manager';
type Days = 'from' | 'firstDay' | 'lastDay' | 'seniorityDate' | 'birthDate' | 'fixedUntil' | 'probationUntil';
type Choices =
  'workerType' | 'legalEntity' | 'position' | 'unit' | 'job' | 'location' | 'reason' | 'contract' | 'payKind';

/**
 * What a row says: null where it clears, nothing where the cell is blank or could not be read. Choices are ids, hours
 * and FTE hundredths, pay decimal text.
 */
export type Said = { number?: string; name?: string; wholeName?: never } & {
  [F in Texts]?: string | null;
} & {
  [F in Days]?: Day | null;
} & { [F in Choices]?: number } & {
  gender?: Person['gender'];
  nationality?: string | null;
  language?: string | null;
  hours?: number;
  fte?: number;
  pay?: string;
  currency?: string;
  basis?: Pay['basis'];
};

const LISTS: Record<Choices, Choice> = {
  workerType: 'worker_type',
  legalEntity: 'legal_entity',
  position: 'position',
  unit: 'unit',
  job: 'job',
  location: 'location',
  reason: 'reason',
  contract: 'contract_kind',
  payKind: 'pay_kind',
};

/** Fields whose cells name a thing or an entry of a list, with what they name. */
export const choiceOf = (field: ImportField): Choice | undefined => LISTS[field as Choices];

const GENDERS = {
  female: ['f', 'w', 'weiblich', 'frau', 'woman', 'kvinna', 'kvinne', 'nainen', 'naine'],
  male: ['m', 'mannlich', 'mann', 'man', 'mies', 'mees'],
  other: ['o', 'd', 'divers', 'x', 'diverse', 'anders'],
};
const BASES = {
  hour: ['hourly', 'stunde', 'std', 'h', 'an hour', 'pro stunde'],
  day: ['daily', 'tag', 'a day', 'pro tag'],
  month: ['monthly', 'monat', 'm', 'a month', 'pro monat'],
  year: ['yearly', 'annual', 'annually', 'jahr', 'y', 'a year', 'pro jahr', 'jahrlich'],
};

const LONGEST: Partial<Record<ImportField, number>> = { number: 20, email: 400, phone: 400 };

/** What a row says, and what of it could not be read. */
export type RowReading = { said: Said; faults: Fault[] };

/** Hours and shares in hundredths: weekly hours up to 168, FTE up to 1.5. */
const hundredths = (text: string, most: number, decimal: ',' | '.' | null): CellReading<number> => {
  const isPercent = text.trim().endsWith('%');
  const bare = text.replace(/\s*(%|h|hours|std\.?|stunden)$/i, '');
  const read = readColumnNumber(bare, decimal, isPercent ? most * 100 : most);
  if ('problem' in read || !isPercent) return asHundredths(read, most);
  return asHundredths({ value: String(Number(read.value) / 100) }, most);
};

const code = (text: string, form: RegExp, wrong: 'country_invalid' | 'currency_invalid' | 'value_invalid') =>
  form.test(text) ? { value: text } : { problem: problem(wrong, { text }), offers: [] };

/** Reads the cells of a row but for those that name things; these are read by `readChoices` once the day is known. */
export const readPlain = (cells: Cells, habits: Habits): RowReading => {
  const said: Record<string, unknown> = {};
  const faults: Fault[] = [];
  for (const [field, text] of Object.entries(cells) as [ImportField, string][]) {
    // whole names stand split in columns of their own
    // own fields are read apart (own-cells.ts)
    if (!(field in importFields) || choiceOf(field) || importFields[field].splits) continue;
    const { clears } = importFields[field];
    if (fold(text) === 'clear' && text.toLowerCase() === CLEAR) {
      if (clears) said[field] = null;
      else faults.push({ field, problem: problem('clear_refused', {}), offers: [] });
      continue;
    }
    // a line break in a cell is none in a name
    const read = readOne(field, text.replace(/\s+/g, ' '), habits);
    if ('problem' in read) faults.push({ field, ...read });
    else said[field] = read.value;
  }
  return { said: said as Said, faults };
};

const amount = (text: string, decimal: ',' | '.' | null): CellReading<string> => {
  const read = readColumnNumber(text, decimal);
  if ('problem' in read || Decimal.safeParse(read.value).success) return read;
  return { problem: problem('decimal_invalid', { text }), offers: [] };
};

const readOne = (field: ImportField, text: string, habits: Habits): CellReading<unknown> => {
  if (importFields[field].reading === 'day') {
    const birth = field === 'birthDate' ? ('person' as const) : undefined;
    return readColumnDay(text, { order: habits.orders.get(field) ?? null, today: habits.today, birth });
  }
  const decimal = habits.decimals.get(field) ?? null;
  if (field === 'hours') return hundredths(text, MOST_HOURS, decimal);
  if (field === 'fte') return hundredths(text, 1.5, decimal);
  if (field === 'pay') return amount(text, decimal);
  if (field === 'gender') return readWord(text, GENDERS);
  if (field === 'basis') return readWord(text, BASES);
  if (field === 'nationality')
    return code(codeNamed('region', text) ?? text.toUpperCase(), /^[A-Z]{2}$/, 'country_invalid');
  if (field === 'currency') return code(text.toUpperCase(), /^[A-Z]{3}$/, 'currency_invalid');
  if (field === 'language')
    return code(codeNamed('language', text) ?? text.toLowerCase(), /^[a-z]{2}(-[a-z]{2})?$/, 'value_invalid');
  if ((field === 'email' || field === 'phone') && text.length < 3)
    return { problem: problem('contact_form', { value: text, kind: field }), offers: [] };
  const most = LONGEST[field] ?? 200;
  return text.length > most ? { problem: problem('text_too_long', { most }), offers: [] } : { value: text };
};

/** Reads the cells that name things, as of a day; adds what is wrong to the reading. */
export const readChoices = (cells: Cells, on: Day, lookUps: LookUps, { said, faults }: RowReading): void => {
  for (const field of Object.keys(LISTS) as Choices[]) {
    const text = cells[field];
    if (text === undefined) continue;
    if (text.toLowerCase() === CLEAR) {
      faults.push({ field, problem: problem('clear_refused', {}), offers: [] });
      continue;
    }
    const read = lookUps.find(LISTS[field], text, on);
    if ('problem' in read) faults.push({ field, ...read });
    else said[field] = read.value;
  }
};
