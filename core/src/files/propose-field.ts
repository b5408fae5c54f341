// What kind of field the cells of a column would be kept in.
import { type Day, type OwnField, isEmailForm } from '@gremium/contract';
import { fold } from '../people/names';
import { columnOrderOf, readDay } from '../rules/read-day';
import { decimalSignOf, readColumnNumber } from '../rules/read-number';
import { NO_WORDS, YES_WORDS, severalIn } from './plain-values';

/** A kind with its choices, as they are written most; how many cells say something, and how many of them do not fit. */
export type ProposedField = { kind: OwnField['kind']; choices: string[]; said: number; unfit: number };

const isLink = (text: string): boolean => /^https?:\/\/\S+$/.test(text);
const isPhone = (text: string): boolean => /^\+[\d\s()/.-]{6,30}$/.test(text);
const isYesNo = (text: string): boolean =>
  YES_WORDS.includes(fold(text)) || NO_WORDS.includes(text.toLowerCase());
// a number that begins with zeros is a name of something
const isNamed = (text: string): boolean => /^0\d/.test(text);

/** So much of a column may say something else: a title, a typing error; it is seen when the file is checked. */
const MOST_UNFIT = 0.05;
const MOST_CHOICES = 30;
const MOST_LINE = 200;

type Kind = OwnField['kind'];

// The writings of choices, each once, in the order of how often they stand there.
const choicesIn = (texts: readonly string[]): string[] => {
  const counts = new Map<string, { text: string; count: number }>();
  for (const text of texts) {
    const known = counts.get(fold(text));
    if (known) known.count++;
    else counts.set(fold(text), { text, count: 1 });
  }
  return [...counts.values()].sort((a, b) => b.count - a.count).map(({ text }) => text);
};

/**
 * The kind of field that fits the cells of a column: yes or no in whatever words, days, numbers with whatever decimal sign,
 * emails, links, phones; else one or several choices where the same few come again; else text. Blank cells say nothing.
 * @param said numbers of a workbook come with a point
 */
export const proposeField = (
  cells: readonly string[],
  { workbook, today }: { workbook: boolean; today: Day },
): ProposedField => {
  const texts = cells.map((cell) => cell.trim()).filter(Boolean);
  // patterns are not tried on what is long anyway
  const unfitOf = (fits: (text: string) => boolean): number =>
    texts.filter((text) => text.length > MOST_LINE || !fits(text)).length;
  const found = (kind: Kind, unfit = 0, choices: string[] = []): ProposedField => ({
    ...{ kind, choices, unfit },
    said: texts.length,
  });
  if (texts.length === 0) return found('text');
  // whichever it is, the cells are days
  const order = columnOrderOf(texts).order ?? 'day_first';
  const decimal = decimalSignOf(texts, workbook);
  const tests: [Kind, (text: string) => boolean][] = [
    ['yes_no', isYesNo],
    ['day', (text) => 'value' in readDay(text, { order, today })],
    ['number', (text) => !isNamed(text) && 'value' in readColumnNumber(text.replace(/^[-−]/, ''), decimal)],
    ['email', isEmailForm],
    ['link', isLink],
    ['phone', isPhone],
  ];
  for (const [kind, fits] of tests) {
    const unfit = unfitOf(fits);
    if (unfit <= texts.length * MOST_UNFIT) return found(kind, unfit);
  }
  if (texts.some((text) => text.length > MOST_LINE || text.includes('\n'))) return found('long_text');
  const parts = texts.map(severalIn);
  const several = parts.some(({ length }) => length > 1);
  const choices = choicesIn(parts.flat());
  const isFew = choices.length <= MOST_CHOICES && choices.length * 2 <= parts.flat().length;
  if (isFew) return several ? found('lists', 0, choices) : found('list', 0, choices);
  return found('text');
};
