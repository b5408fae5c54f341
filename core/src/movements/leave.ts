import type { LeaveInput } from '@gremium/contract';
import type { Draft } from '../time/draft';
import { addDays, isOn } from '../time/calendar';
import { problem, thing } from '../time/problem';
import { endTerms } from './place';

/** Ends an employment with its last day and reason; placements, contracts and pay end with it. */
export const leave = (draft: Draft, input: LeaveInput): void => {
  const { employmentId, lastDay } = input;
  const rows = draft.register.rows('employment', employmentId);
  const current = rows.find((row) => isOn(row, lastDay));
  if (!current) {
    const params = { employment: thing('employment', employmentId), day: lastDay };
    draft.problems.push(problem('employment_unknown', params, 'lastDay'));
    return;
  }
  endTerms(draft, employmentId, lastDay);
  draft.cutFrom('employment', employmentId, addDays(lastDay, 1));
  const ended = draft.register.rows('employment', employmentId).find((row) => isOn(row, lastDay));
  if (!ended) return;
  const values = {
    ...ended.values,
    endReasonId: input.reasonId,
    mayReturn: input.mayReturn,
    returnReason: input.returnReason,
  };
  draft.revise('employment', employmentId, {
    superseded: [ended as never],
    recorded: [{ from: ended.from, until: ended.until, values }],
    problems: [],
  });
};
