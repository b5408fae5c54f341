// Somebody started at a place on another day than was planned: what was planned follows, what was agreed keeps its day.
import type { Bound, Day, Row } from '@gremium/contract';
import { spanOf } from '../people/employments';
import { type Period, addDays, isBefore } from '../time/calendar';
import type { Draft } from '../time/draft';
import { problem } from '../time/problem';
import { asItHappened } from './as-it-happened';
import type { Decide } from './decide';
import { lend } from './for-a-time';
import { slip } from './place';

type Placed = Row<'placement'>;

// Moves the first day of a placement, and of what names it and begins with it.
const shift = (draft: Draft, id: number, planned: Bound, real: Bound): void => {
  const { register } = draft;
  const named = register
    .referrers('placement', 'forPlacementId', id)
    .filter((row) => row.from === planned && spanOf(register.rows('placement', row.thing))?.from === planned);
  for (const one of new Set([id, ...named.map((row) => row.thing)])) {
    const rows = [...register.rows('placement', one)];
    const superseded = rows.filter((row) => row.from === planned || isBefore(row.from, real));
    draft.revise('placement', one, {
      superseded: superseded as never[],
      recorded: superseded.flatMap(({ from, until, values }) => {
        const begin = from === planned || isBefore(from, real) ? real : from;
        return isBefore(begin, until) ? [{ from: begin, until, values }] : [];
      }),
      problems: [],
    });
  }
};

// The primary placement that ended where this one was to begin: of the same employment, or of the one that it continues.
const placeBefore = ({ register }: Draft, row: Placed, planned: Bound): Placed | undefined => {
  const employment = register.rows('employment', row.values.employmentId)[0];
  const ids = [row.values.employmentId, employment?.values.continuesId ?? null];
  return ids
    .flatMap((id) => (id === null ? [] : register.referrers('placement', 'employmentId', id)))
    .find(
      ({ values, until, thing }) => values.kind === 'primary' && until === planned && thing !== row.thing,
    );
};

// Holds a place for the days between what was agreed and what happened, as the row says.
const hold = (draft: Draft, like: Placed, period: Period, employmentId: number): number =>
  draft.create(
    'placement',
    period.from,
    { ...like.values, employmentId, lentHours: 0, awayHours: 0, backfilled: false, forPlacementId: null },
    period.until,
  );

// The old place is held until the arrival; across entities by the new employment, or early the new place by the old one.
const move = (draft: Draft, row: Placed, before: Placed, real: Bound): number[] => {
  const planned = row.from;
  const isSame = before.values.employmentId === row.values.employmentId;
  if (isBefore(planned, real)) {
    shift(draft, row.thing, planned, real);
    if (isSame) {
      draft.stretch(before, real);
      return [before.thing];
    }
    return [hold(draft, before, { from: planned, until: real }, row.values.employmentId)];
  }
  draft.cutFrom('placement', before.thing, real);
  if (isSame) {
    shift(draft, row.thing, planned, real);
    return [];
  }
  return [hold(draft, row, { from: real, until: planned }, before.values.employmentId)];
};

// A placement for a time: what the old place lends begins when it does.
const moveForATime = (draft: Draft, row: Placed, lender: number, real: Bound): void => {
  const planned = row.from;
  const { hours } = row.values;
  if (isBefore(planned, real)) lend(draft, lender, { from: planned, until: real }, { hours: -hours });
  else {
    const backfilled = draft.register.at('placement', lender, planned as Day)?.backfilled ?? false;
    lend(draft, lender, { from: real, until: planned }, { hours, backfilled });
  }
  shift(draft, row.thing, planned, real);
};

/**
 * The real first day at a place. Transfers, for good or for a time, move with it; contract, entity and pay keep the agreed day. Of
 * somebody hired the day is told, and nothing moves: an employment is corrected by its own act. Errors: `period` (not within what was
 * planned), `not_yet_happened`.
 */
export const started: Decide<'started'> = (draft, { placementId, firstDay, reason }, { today }) => {
  const rows = draft.register.rows('placement', placementId);
  const span = spanOf(rows);
  const row = rows.find(({ from }) => from === span?.from);
  if (!span || !row || !isBefore(firstDay, span.until)) {
    draft.problems.push(
      problem('period', { from: firstDay, until: addDays(span?.until ?? firstDay, -1) }, 'firstDay'),
    );
    return null;
  }
  if (isBefore(today, firstDay)) {
    draft.problems.push(problem('not_yet_happened', { day: firstDay }, 'firstDay'));
    return null;
  }
  const { kind, forPlacementId, employmentId, positionId } = row.values;
  const personId = draft.register.rows('employment', employmentId)[0]?.values.personId ?? 0;
  const before = placeBefore(draft, row, row.from);
  const touched = [placementId];
  if (firstDay !== row.from) {
    if (kind === 'temporary' && forPlacementId !== null) {
      moveForATime(draft, row, forPlacementId, firstDay);
      touched.push(forPlacementId);
    } else if (before) touched.push(...move(draft, row, before, firstDay));
  }
  for (const id of touched) asItHappened(draft, id, { reason, today });
  return {
    things: { personId, employmentId, positionId, placementId },
    slip: [
      slip('positionId', positionId, 'before', positionId),
      slip('firstDay', firstDay, 'typed', row.from as Day),
    ],
  };
};
