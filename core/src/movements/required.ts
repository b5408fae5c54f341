// What a position requires and whoever comes to it cannot show on the first day: said before, not found on the record after.
import type { Day } from '@gremium/contract';
import { qualifiedFor } from '../people/qualified';
import type { Draft } from '../time/draft';
import { hasErrors, problem, thing } from '../time/problem';

/** Of which sections it tells: said to nobody who may not see them (`requirement_missing`, `requirement_unrecorded`). */
export const requirementTells = ['held_certificate', 'held_skill', 'held_education'] as const;

/** Notes what is missing; of somebody who is new nothing can be there yet, which is only told. */
export const checkRequired = (
  draft: Draft,
  {
    personId,
    positionId,
    firstDay,
    isNew,
  }: { personId: number; positionId: number; firstDay: Day; isNew: boolean },
): void => {
  if (hasErrors(draft.problems)) return;
  const missing = qualifiedFor(draft.register, personId, positionId, firstDay).filter(
    ({ state, row }) => state === 'missing' && row.values.needed === 'required',
  );
  if (missing.length === 0) return;
  const what = missing.flatMap(({ row: { values } }) =>
    (values.certificateIds ?? values.skillIds ?? values.educationIds ?? []).slice(0, 1),
  );
  const params = { what: what.map((id) => thing('list_entry', id)), day: firstDay };
  draft.problems.push(
    problem(isNew ? 'requirement_unrecorded' : 'requirement_missing', params, 'positionId'),
  );
};
