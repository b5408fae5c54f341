// What a cell of a file says, as a word of a closed set. Where a cell can be read in one way only it is read; where not, its
// readings are listed and somebody chooses. Days and numbers: rules/read-day.ts, rules/read-number.ts.
import type { Problem } from '@gremium/contract';
import { problem } from '../time/problem';
import { fold } from '../people/names';

/** A value, or what is wrong with the text and what could stand there instead. */
export type CellReading<T> = { value: T } | { problem: Problem; offers: string[] };

const refused = (found: Problem, offers: readonly string[] = []): { problem: Problem; offers: string[] } => ({
  problem: found,
  offers: [...new Set(offers)],
});

/** One of a closed set of words; `words` gives each value's spellings, folded. */
export const readWord = <T extends string>(
  text: string,
  words: Record<T, readonly string[]>,
): CellReading<T> => {
  const folded = fold(text);
  for (const [value, spellings] of Object.entries(words) as [T, readonly string[]][])
    if (fold(value) === folded || spellings.includes(folded)) return { value };
  return refused(problem('value_unknown', { text }), Object.keys(words));
};
