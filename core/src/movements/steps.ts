// Whoever is due by a day reaches the next step of the grade, each on the day of their own, in one entry.
import type { Day } from '@gremium/contract';
import { addDays, earlier, isBefore } from '../time/calendar';
import type { Draft } from '../time/draft';
import { problem, thing } from '../time/problem';
import { personOf, primaryPlacement, spanOf } from '../people/employments';
import { type NextStep, nextStep } from '../people/steps';
import type { Concerned, Decide } from './decide';
import { slip } from './place';

// By what is known on the day up to which steps are applied, or on the last day of an employment that ends before.
const dueBy = (draft: Draft, employmentId: number, by: Day): NextStep | null => {
  const span = spanOf(draft.register.rows('employment', employmentId));
  if (!span) return null;
  const on = earlier(by, addDays(span.until, -1)) as Day;
  const next = nextStep(draft.register, employmentId, on);
  return next?.due && !isBefore(by, next.due) && isBefore(next.due, span.until) ? next : null;
};

const apply = (draft: Draft, next: NextStep & { due: Day }): Concerned['lines'][number] => {
  const { pay, step, due, amount, employmentId } = next;
  const raised = amount === null ? {} : { amount, basis: 'month' as const };
  draft.set('pay', pay.thing, { from: due, values: { step: step + 1, ...raised } });
  const placement = primaryPlacement(draft.register, employmentId, due);
  const person = placement && personOf(draft.register, placement.values, due);
  return {
    what: person === undefined ? thing('employment', employmentId) : thing('person', person),
    where: placement ? thing('position', placement.values.positionId) : null,
    values: [
      slip('firstDay', due, 'before'),
      slip('step', step + 1, 'before', step, 'pay'),
      ...(amount === null ? [] : [slip('amount', amount, 'before', pay.values.amount, 'pay')]),
    ],
  };
};

/** Applies the steps that are due by a day; whoever is due twice is raised twice. `step_not_due` names who is not due at all. */
export const applySteps: Decide<'apply_steps'> = (draft, { firstDay: by, employmentIds }) => {
  const lines: Concerned['lines'] = [];
  for (const employmentId of new Set(employmentIds)) {
    let next = dueBy(draft, employmentId, by);
    if (!next) {
      const person = draft.register.rows('employment', employmentId)[0]?.values.personId ?? 0;
      draft.problems.push(
        problem('step_not_due', { person: thing('person', person), day: by }, 'employmentIds'),
      );
    }
    while (next?.due) {
      lines.push(apply(draft, next as NextStep & { due: Day }));
      const after = dueBy(draft, employmentId, by);
      next = after && after.step > next.step ? after : null;
    }
  }
  return { things: {}, slip: [], concerned: { count: new Set(employmentIds).size, lines } };
};
