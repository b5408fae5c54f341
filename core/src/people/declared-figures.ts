// What people declared of themselves, as figures that give nobody away.
import type { Day } from '@gremium/contract';
import type { Register } from '../time/register';
import { countedEmployment, spellsOf } from './employments';

/** How often something was declared; null where that is not told. */
export type DeclaredCell = { factId: number; count: number | null };
/** The answers to one question; the total where it gives nothing away. */
export type DeclaredFigures = { cells: DeclaredCell[]; total: number | null };

/** Fewer than so many are not told. */
export const LEAST_TOLD = 5;

/**
 * Counts of answers to one question, those under five left out. What is left out could be had by taking the others from the
 * total: so the next smallest are left out as well until those left out are two at least, and five people at least; where
 * that cannot be, there is no total.
 */
export const toldFigures = (counts: ReadonlyMap<number, number>): DeclaredFigures => {
  const all = [...counts].map(([factId, count]) => ({ factId, count }));
  const sorted = [...all].sort((a, b) => a.count - b.count || a.factId - b.factId);
  const hidden = new Set(sorted.filter(({ count }) => count > 0 && count < LEAST_TOLD));
  const sum = () => [...hidden].reduce((total, { count }) => total + count, 0);
  for (const one of sorted) {
    if (hidden.size === 0 || (hidden.size >= 2 && sum() >= LEAST_TOLD)) break;
    if (one.count > 0) hidden.add(one);
  }
  const isSafe = hidden.size === 0 || (hidden.size >= 2 && sum() >= LEAST_TOLD);
  return {
    cells: all.map((one) => ({ factId: one.factId, count: hidden.has(one) ? null : one.count })),
    total: isSafe ? all.reduce((total, { count }) => total + count, 0) : null,
  };
};

/** What was declared on a day by those who count in headcount then, by question; whoever says the same twice is one. */
export const declaredOn = (
  register: Register,
  day: Day,
): { counted: number; questions: ({ question: string } & DeclaredFigures)[] } => {
  const people = new Set([...register.allOn('employment', day)].map(({ values }) => values.personId));
  const counted = new Set(
    [...people].filter((id) => countedEmployment(register, spellsOf(register, id), day) !== undefined),
  );
  const questions = new Map<string, Map<number, Set<number>>>();
  for (const { thing, values } of register.allOn('list_entry', day)) {
    if (values.list !== 'declared_fact') continue;
    const question = values.flags.question ?? '';
    questions.set(
      question,
      (questions.get(question) ?? new Map<number, Set<number>>()).set(thing, new Set()),
    );
  }
  const answers = new Map([...questions.values()].flatMap((one) => [...one]));
  for (const { values } of register.allOn('declared_fact', day))
    if (counted.has(values.personId)) answers.get(values.factId)?.add(values.personId);
  const sizes = (of: ReadonlyMap<number, ReadonlySet<number>>) =>
    new Map([...of].map(([fact, who]) => [fact, who.size]));
  return {
    counted: counted.size < LEAST_TOLD ? 0 : counted.size,
    questions: [...questions].map(([question, of]) => ({ question, ...toldFigures(sizes(of)) })),
  };
};
