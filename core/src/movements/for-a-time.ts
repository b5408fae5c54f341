// Transfers for a time: the primary placement lends hours for the days, a temporary one names it; the return is the end of both.
import type { Bound, Row, SlipValue, Values } from '@gremium/contract';
import { mainEmployment, primaryPlacement, spanOf, spellsOf } from '../people/employments';
import { type Period, addDays, byFrom, intersection, isBefore } from '../time/calendar';
import type { Draft } from '../time/draft';
import { problem, thing } from '../time/problem';
import { isEqual } from '../time/timeline';
import type { Decide } from './decide';
import { closeMadeOnHire, findPlace, placementAt, slip } from './place';
import { asItHappened } from './as-it-happened';
import { checkRequired } from './required';

type Placed = Row<'placement'>;

/** Lends more (or, negative, fewer) hours of a placement over a period; what it lends else stays. */
export const lend = (
  draft: Draft,
  placementId: number,
  period: Period,
  { hours, backfilled }: { hours: number; backfilled?: boolean },
): void => {
  // as it stands before: each change makes rows anew
  for (const row of [...draft.register.rows('placement', placementId)]) {
    const common = intersection(row, period);
    if (!common) continue;
    const lentHours = row.values.lentHours + hours;
    // nothing lent or away, and there is nothing to keep or to backfill
    const isOpen = (backfilled ?? row.values.backfilled) && lentHours + row.values.awayHours > 0;
    draft.set('placement', placementId, { ...common, values: { lentHours, backfilled: isOpen } });
  }
  join(draft, placementId);
};

// Rows that say the same one after the other are one, where one of them is of this act: nobody reads of a change that is none.
const join = (draft: Draft, placementId: number): void => {
  const own = new Set(draft.change.recorded.map(({ id }) => id));
  const rows = [...draft.register.rows('placement', placementId)].sort(byFrom);
  for (const [i, row] of rows.entries()) {
    const next = rows[i + 1];
    if (!next || row.until !== next.from || !isEqual(row.values, next.values)) continue;
    if (!own.has(row.id) && !own.has(next.id)) continue;
    const recorded = [{ from: row.from, until: next.until, values: row.values }];
    draft.revise('placement', placementId, { superseded: [row, next] as never[], recorded, problems: [] });
    return join(draft, placementId);
  }
};

const turned = (draft: Draft, from: Bound, until: Bound): boolean => {
  if (!isBefore(until, from)) return false;
  draft.problems.push(problem('period', { from, until }, 'lastDay'));
  return true;
};

/** Before, while away, and after: what stands at the old place, and at the new one. */
const told = (
  draft: Draft,
  before: Placed,
  place: NonNullable<ReturnType<typeof findPlace>>,
  hours: number,
): SlipValue[] => {
  const { positionId, fullTime } = before.values;
  const position = draft.register.at('position', positionId, before.from);
  const was: Record<string, number | null> = {
    positionId,
    unitId: position?.unitId ?? null,
    jobId: position?.jobId ?? null,
    fullTime,
    hours: before.values.hours,
  };
  return [
    ...place.sources
      .filter(({ field }) => field !== 'legalEntityId')
      .map((value) => ({ ...value, before: was[value.field] ?? null })),
    slip('lentHours', before.values.lentHours + hours, 'typed', before.values.lentHours, 'placement'),
  ];
};

/**
 * Moves somebody to another position for a time. Contract, entity and pay stay as they are. What is lent stays held at the old
 * place, or is free for others (`backfilled`), while at the new one the hours count. Errors: `employment_unknown`, `same_position`,
 * `lent_too_much` (more hours than the person has at the old place), `return_after_end` (the employment ends before).
 */
export const transferForATime: Decide<'transfer_for_a_time'> = (draft, input) => {
  const { personId, positionId, firstDay, lastDay } = input;
  if (turned(draft, firstDay, lastDay)) return null;
  const { register } = draft;
  const main = mainEmployment(spellsOf(register, personId), firstDay);
  const before = main && primaryPlacement(register, main.id, firstDay);
  if (!main || !before) {
    const params = { person: thing('person', personId), day: firstDay };
    draft.problems.push(problem('employment_unknown', params, 'personId'));
    return null;
  }
  if (before.values.positionId === positionId) {
    draft.problems.push(problem('same_position', { position: thing('position', positionId) }, 'positionId'));
    return null;
  }
  const period: Period = { from: firstDay, until: addDays(lastDay, 1) };
  const span = spanOf(register.rows('placement', before.thing)) as Period;
  if (isBefore(span.until, period.until)) {
    draft.problems.push(problem('return_after_end', { day: addDays(span.until, -1) }, 'lastDay'));
    return null;
  }
  const rows = register.rows('placement', before.thing).filter((row) => intersection(row, period));
  const free = Math.min(...rows.map(({ values }) => values.hours - values.lentHours));
  const hours = input.hours ?? free;
  const place = findPlace(draft, { ...input, hours }, firstDay);
  if (!place) return null;
  if (hours > free || hours === 0) {
    draft.problems.push(problem('lent_too_much', { over: free }, 'hours'));
    return null;
  }
  lend(draft, before.thing, period, { hours, backfilled: input.oldPlace === 'backfilled' });
  const values: Values<'placement'> = {
    ...placementAt(place, main.id, input),
    kind: 'temporary',
    forPlacementId: before.thing,
  };
  const placementId = draft.create('placement', period.from, values, period.until);
  closeMadeOnHire(draft, place.positionId, lastDay);
  checkRequired(draft, { personId, positionId: place.positionId, firstDay, isNew: false });
  return {
    things: { personId, employmentId: main.id, positionId: place.positionId, placementId },
    slip: told(draft, before, place, hours),
  };
};

// A temporary placement with whose it is; the problem names the field.
const temporaryOf = (draft: Draft, placementId: number) => {
  const rows = draft.register.rows('placement', placementId);
  const last = rows.at(-1);
  const span = spanOf(rows);
  if (!last || !span || last.values.kind !== 'temporary' || last.values.forPlacementId === null) {
    draft.problems.push(problem('not_for_a_time', {}, 'placementId'));
    return null;
  }
  const { employmentId, positionId, forPlacementId, hours } = last.values;
  const personId = draft.register.rows('employment', employmentId)[0]?.values.personId ?? 0;
  return { last, span, lender: forPlacementId, hours, personId, employmentId, positionId };
};

type Temporary = NonNullable<ReturnType<typeof temporaryOf>>;

// Whether the old place was left to others on the last day there.
const isBackfilled = ({ register }: Draft, { lender, span }: Temporary): boolean =>
  register.at('placement', lender, addDays(span.until, -1))?.backfilled ?? false;

// Where it is, and the day that changes: the last one there, or the first one back.
const wasAndIs = (
  { positionId, span }: Temporary,
  field: 'lastDay' | 'firstDay',
  end: Bound,
): SlipValue[] => {
  const dayOf = (bound: Bound) => (field === 'lastDay' ? addDays(bound, -1) : bound);
  return [
    slip('positionId', positionId, 'before', positionId),
    slip(field, dayOf(end), 'typed', dayOf(span.until)),
  ];
};

// Ends a temporary placement on another day: both it and what it was lent.
const until = (draft: Draft, temporary: Temporary, end: Bound): void => {
  const { last, span, lender, hours } = temporary;
  const id = last.thing;
  if (isBefore(end, span.until)) {
    const given = draft.register.rows('placement', id).flatMap((row) => {
      const common = intersection(row, { from: end, until: span.until });
      return common ? [{ period: common, hours: row.values.hours }] : [];
    });
    draft.cutFrom('placement', id, end);
    for (const part of given) lend(draft, lender, part.period, { hours: -part.hours });
    return;
  }
  const backfilled = isBackfilled(draft, temporary);
  const more = { from: span.until, until: end };
  // it goes on as it was on its last day
  draft.stretch(last, end);
  lend(draft, lender, more, { hours, backfilled });
};

const thingsOf = ({ personId, employmentId, positionId }: Temporary) => ({
  personId,
  employmentId,
  positionId,
});

/**
 * Another last day of a transfer for a time. Errors: `not_for_a_time`, `period` (before its first day), `return_after_end`, `nothing_changed`.
 */
export const changeReturn: Decide<'change_return'> = (draft, { placementId, lastDay }) => {
  const temporary = temporaryOf(draft, placementId);
  if (!temporary || turned(draft, temporary.span.from, lastDay)) return null;
  const end = addDays(lastDay, 1);
  const whole = spanOf(draft.register.rows('placement', temporary.lender));
  if (whole && isBefore(whole.until, end)) {
    draft.problems.push(problem('return_after_end', { day: addDays(whole.until, -1) }, 'lastDay'));
    return null;
  }
  until(draft, temporary, end);
  return { things: thingsOf(temporary), slip: wasAndIs(temporary, 'lastDay', end) };
};

/** Whoever was away for a time is back since a day: recorded as it happened, also where the old place is taken meanwhile. */
export const back: Decide<'back'> = (draft, { placementId, firstDay, reason }, { today }) => {
  const temporary = temporaryOf(draft, placementId);
  if (!temporary) return null;
  const { span, lender } = temporary;
  if (!isBefore(span.from, firstDay) || isBefore(today, firstDay)) {
    const code = isBefore(today, firstDay) ? 'not_yet_happened' : 'period';
    draft.problems.push(problem(code, { from: span.from, until: firstDay, day: firstDay }, 'firstDay'));
    return null;
  }
  until(draft, temporary, firstDay);
  asItHappened(draft, lender, { reason, today });
  return { things: thingsOf(temporary), slip: wasAndIs(temporary, 'firstDay', firstDay) };
};
