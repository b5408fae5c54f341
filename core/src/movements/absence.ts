// Long absences and the return from them; whoever stands in: cover, acting, a second place.
import type { Bound, Day, PayInput, Row, SlipValue, Values } from '@gremium/contract';
import { absenceOn, absencesOf, followAbsences } from '../people/absences';
import { mainEmployment, primaryPlacement, spanOf, spellsOf, standsAside } from '../people/employments';
import {
  OPEN,
  type Period,
  addDays,
  byFrom,
  earlier,
  intersection,
  isBefore,
  isOn,
  overlaps,
} from '../time/calendar';
import type { Draft } from '../time/draft';
import { problem, thing } from '../time/problem';
import { coversFit } from '../people/employment-laws';
import { AS_IT_HAPPENED, REVIEW_DAYS, asItHappened } from './as-it-happened';
import type { Decide } from './decide';
import { type Employed, employedOn, saidOf, thingsOf } from './employed';
import { payOf } from './hire';
import { findPlace, placementAt, slip } from './place';

const until = (lastDay: Day | null | undefined, end: Bound): Bound => (lastDay ? addDays(lastDay, 1) : end);

// A period that turns round, or reaches beyond the employment.
const isWrong = (
  draft: Draft,
  { from, until: end }: Period,
  span: Pick<Period, 'until'>,
  field = 'lastDay',
): boolean => {
  if (!isBefore(from, end)) draft.problems.push(problem('period', { from, until: addDays(end, -1) }, field));
  else if (isBefore(span.until, end))
    draft.problems.push(problem('return_after_end', { day: addDays(span.until, -1) }, field));
  else return false;
  return true;
};

// Another absence on these days is refused, with its days.
const isTaken = (draft: Draft, employmentId: number, period: Period, but?: number): boolean => {
  const other = absencesOf(draft.register, employmentId).find(
    (row) => row.thing !== but && overlaps(row, period),
  );
  if (!other) return false;
  const last = other.until === OPEN ? OPEN : addDays(other.until, -1);
  draft.problems.push(problem('absence_overlaps', { from: other.from, until: last }, 'firstDay'));
  return true;
};

const leaveOpen = (draft: Draft, employmentId: number, period: Period): void => {
  const rows = draft.register
    .referrers('placement', 'employmentId', employmentId)
    .filter(({ values }) => values.kind === 'primary');
  for (const row of [...rows]) {
    const on = intersection(row, period);
    if (on && row.values.awayHours > 0)
      draft.set('placement', row.thing, { ...on, values: { backfilled: true } });
  }
};

// Before, and on the first day: hours at work here.
const told = (draft: Draft, { employmentId, primary }: Employed, on: Day): SlipValue[] => {
  const then = primaryPlacement(draft.register, employmentId, on);
  if (!then) return [];
  return [
    slip('awayHours', then.values.awayHours, 'typed', primary?.values.awayHours ?? 0, 'placement'),
    slip('backfilled', then.values.backfilled, 'typed', primary?.values.backfilled ?? false, 'placement'),
  ];
};

/**
 * Somebody is away for long. The place stays held, or what is away of it is free for others. Errors: `employment_unknown`,
 * `period`, `return_after_end`, `absence_overlaps` (with the days of the other one).
 */
export const longAbsence: Decide<'long_absence'> = (draft, input) => {
  const { employmentId, firstDay, lastDay, kindId } = input;
  const employed = employedOn(draft, employmentId, firstDay);
  if (!employed) return null;
  const period = { from: firstDay, until: until(lastDay, employed.span.until) };
  if (isWrong(draft, period, employed.span) || isTaken(draft, employmentId, period)) return null;
  const { hours = null, expectedUntil = null, notes = null } = input;
  const values = { employmentId, kindId, hours, expectedUntil, notes, workedAgain: null };
  draft.create('absence', period.from, values, period.until);
  followAbsences(draft);
  if (input.oldPlace === 'backfilled') leaveOpen(draft, employmentId, period);
  return {
    things: thingsOf(employed),
    slip: told(draft, employed, firstDay),
  };
};

/** Other days of an absence, or another kind. Errors as of a new one. */
export const changeAbsence: Decide<'change_absence'> = (draft, input) => {
  const { absenceId } = input;
  const { register } = draft;
  const rows = [...register.rows('absence', absenceId)].sort(byFrom);
  const [first] = rows;
  const last = rows.at(-1);
  if (!first || !last) {
    draft.problems.push(problem('thing_unknown', { kind: 'absence' }, 'absenceId'));
    return null;
  }
  const dayBefore = (bound: Bound) => (bound === OPEN ? null : (addDays(bound, -1) as Day));
  const firstDay = input.firstDay ?? (first.from as Day);
  const lastDay = input.lastDay === undefined ? dayBefore(last.until) : input.lastDay;
  const employed = employedOn(draft, first.values.employmentId, firstDay);
  if (!employed) return null;
  const { employmentId } = employed;
  const period = { from: firstDay, until: until(lastDay, employed.span.until) };
  if (isWrong(draft, period, employed.span) || isTaken(draft, employmentId, period, absenceId)) return null;
  const wasOpen = register
    .referrers('placement', 'employmentId', employmentId)
    .some((row) => row.values.kind === 'primary' && row.values.backfilled && overlaps(row, first));
  const { kindId, expectedUntil, notes } = input;
  const said = saidOf({ kindId, expectedUntil, notes });
  draft.revise('absence', absenceId, {
    superseded: rows as never[],
    recorded: rows.flatMap((row) => {
      const stretched = {
        from: row === first ? period.from : row.from,
        until: row === last ? period.until : row.until,
      };
      const on = isBefore(stretched.from, stretched.until) ? intersection(stretched, period) : null;
      return on ? [{ ...on, values: { ...row.values, ...said } }] : [];
    }),
    problems: [],
  });
  followAbsences(draft);
  if (wasOpen) leaveOpen(draft, employmentId, period);
  return {
    things: thingsOf(employed),
    slip: [
      slip('firstDay', firstDay, 'typed', first.from as Day),
      slip('lastDay', lastDay, 'typed', dayBefore(last.until)),
    ],
  };
};

type Step = { from: Day; hours: number };

// Steps in the order of their days, the first of them the return itself: it says with how many hours.
const stepsOf = (
  draft: Draft,
  { firstDay, hours, steps = [] }: { firstDay: Day; hours?: number | undefined; steps?: Step[] | undefined },
): Step[] | null => {
  if (hours === undefined && steps.length > 0) {
    draft.problems.push(problem('value_missing', {}, 'hours'));
    return null;
  }
  const all = [...(hours === undefined ? [] : [{ from: firstDay, hours }]), ...steps];
  const wrong = all.findIndex((step, i) => i > 0 && !isBefore((all[i - 1] as Step).from, step.from));
  if (wrong < 0) return all;
  const before = all[wrong - 1] as Step;
  draft.problems.push(
    problem('period', { from: before.from, until: (all[wrong] as Step).from }, `steps.${wrong - 1}.from`),
  );
  return null;
};

/**
 * Somebody is back on a day: with all hours, and the absence is over; with fewer, or step by step, and it goes on for the rest until
 * a step has all of them. What has happened is recorded, also where the place is taken meanwhile. Errors: `nobody_away`, `period`,
 * `value_missing` (steps, and not with how many hours they begin).
 */
export const returnFromAbsence: Decide<'return_from_absence'> = (draft, input, { today }) => {
  const { employmentId, firstDay, above, reason } = input;
  const employed = employedOn(draft, employmentId, firstDay);
  if (!employed) return null;
  const { register } = draft;
  const absence = absenceOn(register, employmentId, addDays(firstDay, -1));
  if (!absence) {
    draft.problems.push(problem('nobody_away', { day: addDays(firstDay, -1) }, 'firstDay'));
    return null;
  }
  const steps = stepsOf(draft, input);
  if (!steps) return null;
  const full = employed.primary ? employed.primary.values.hours - employed.primary.values.lentHours : 0;
  const away = absence.values.hours ?? full;
  const end = steps.find((step) => step.hours >= away)?.from ?? (steps.length === 0 ? firstDay : null);
  const over: Bound = end ?? spanOf(register.rows('absence', absence.thing))?.until ?? absence.until;
  draft.cutFrom('absence', absence.thing, firstDay);
  for (const [i, step] of steps.entries()) {
    const next = steps[i + 1]?.from ?? over;
    const stop = earlier(over, next);
    if (!isBefore(step.from, stop)) continue;
    const values = { ...absence.values, workedAgain: step.hours || null };
    draft.begin('absence', absence.thing, { from: step.from, until: stop }, values);
  }
  followAbsences(draft);
  const primary = primaryPlacement(register, employmentId, firstDay);
  if (primary && above)
    draft.set('placement', primary.thing, {
      from: firstDay,
      values: saidOf(above),
    });
  if (primary && !isBefore(today, firstDay)) {
    asItHappened(draft, primary.thing, { reason, today });
    coversAsItHappened(draft, primary, { reason, today });
  }
  return {
    things: thingsOf(employed),
    slip: [slip('firstDay', firstDay, 'typed'), ...told(draft, employed, firstDay)],
  };
};

// Whoever covers more than is away now goes on until that is looked at.
const coversAsItHappened = (
  draft: Draft,
  { values: { positionId } }: Row<'placement'>,
  { reason, today }: { reason: string | undefined; today: Day },
): void => {
  const tooLarge = () =>
    coversFit(draft.register, positionId).find(({ problem: { code } }) => code === 'cover_too_large');
  for (let found = tooLarge(); found; found = tooLarge()) {
    const [row, version] = found.rows as Row<'placement'>[];
    const on = row && version && intersection(row, version);
    if (!row || !on) return;
    const values = { aboveReason: reason ?? AS_IT_HAPPENED, reviewOn: addDays(today, REVIEW_DAYS) as Day };
    draft.set('placement', row.thing, { ...on, values });
  }
};

// Somebody's main employment on a day, with where they are; `employment_unknown` at the person.
const standingIn = (draft: Draft, personId: number, on: Day) => {
  const main = mainEmployment(spellsOf(draft.register, personId), on);
  const employed = main && employedOn(draft, main.id, on, 'personId');
  if (!main)
    draft.problems.push(
      problem('employment_unknown', { person: thing('person', personId), day: on }, 'personId'),
    );
  return employed ?? null;
};

type Standing = {
  positionId: number;
  kind: 'cover' | 'acting' | 'second';
  hours: number;
  forPlacementId: number | null;
  period: Period;
  reasonId: number | null;
  above?: { aboveReason?: string | undefined; reviewOn?: Day | undefined } | undefined;
};

const standIn = (
  draft: Draft,
  { employmentId }: Employed,
  { positionId, kind, hours, forPlacementId, period, reasonId, above }: Standing,
): { placementId: number; slip: SlipValue[] } | null => {
  const place = findPlace(draft, { positionId, hours }, period.from as Day);
  if (!place) return null;
  const values: Values<'placement'> = {
    ...placementAt(place, employmentId, { reasonId, above }),
    kind,
    forPlacementId,
  };
  const placementId = draft.create('placement', period.from, values, period.until);
  const shown = ['positionId', 'unitId', 'hours'];
  return { placementId, slip: place.sources.filter(({ field }) => shown.includes(field)) };
};

// A position that somebody holds already on the day is not theirs to stand in for.
const holdsItself = (
  draft: Draft,
  { employmentId }: Employed,
  positionId: number,
  period: Period,
): boolean => {
  const own = draft.register
    .referrers('placement', 'employmentId', employmentId, period)
    .some(({ values }) => values.positionId === positionId);
  if (own) draft.problems.push(problem('own_position', { day: period.from }, 'personId'));
  return own;
};

/**
 * Somebody works what another one who is away cannot, beside their own place: at most what is away, but for days of handover before
 * and after (law `cover_too_large`). Errors: `nobody_away`, `own_position`, `period`, `return_after_end`.
 */
export const cover: Decide<'cover'> = (draft, input) => {
  const { awayEmploymentId, personId, firstDay, lastDay, reasonId } = input;
  const { register } = draft;
  const away = absencesOf(register, awayEmploymentId).find((row) => isBefore(firstDay, row.until));
  const theirs =
    away &&
    primaryPlacement(register, awayEmploymentId, isBefore(away.from, firstDay) ? firstDay : away.from);
  if (!away || !theirs) {
    draft.problems.push(problem('nobody_away', { day: firstDay }, 'firstDay'));
    return null;
  }
  const employed = standingIn(draft, personId, firstDay);
  if (!employed) return null;
  const absent = spanOf(register.rows('absence', away.thing))?.until ?? away.until;
  const ends = until(lastDay, earlier(absent, employed.span.until));
  const period = { from: firstDay, until: ends };
  if (isWrong(draft, period, employed.span)) return null;
  const { positionId, awayHours } = theirs.values;
  // whoever shares the position may cover another holder of it, but nobody themselves
  if (employed.employmentId === awayEmploymentId) {
    draft.problems.push(problem('own_position', { day: firstDay }, 'personId'));
    return null;
  }
  const hours = input.hours ?? awayHours;
  const made = standIn(draft, employed, {
    ...{ positionId, hours, period, reasonId },
    kind: 'cover',
    forPlacementId: theirs.thing,
  });
  return (
    made && {
      things: { ...thingsOf(employed), positionId, placementId: made.placementId },
      slip: [...made.slip, slip('lastDay', ends === OPEN ? null : (addDays(ends, -1) as Day), 'position')],
    }
  );
};

const payAllowance = (
  draft: Draft,
  { employmentId, row }: Employed,
  allowance: { [F in keyof PayInput]?: PayInput[F] | undefined },
  { period, reasonId }: { period: Period; reasonId: number | null },
): SlipValue[] => {
  if (allowance.amount === undefined) return [];
  if (allowance.kindId === undefined) {
    draft.problems.push(problem('value_missing', {}, 'allowance.kindId'));
    return [];
  }
  const { legalEntityId } = row.values;
  const given = { ...allowance, rate: 'actual' } as PayInput;
  const found = payOf(draft, given, { legalEntityId, on: period.from });
  if (!found) return [];
  draft.create('pay', period.from, { ...found.values, employmentId, reasonId }, period.until);
  return [slip('kindId', found.values.kindId, 'typed', null, 'pay'), ...found.told];
};

/**
 * Somebody leads a position for the one who holds it, or that nobody holds: direct reports follow; the allowance lasts as long.
 * Errors: `own_position`, `period`, `return_after_end`, `value_missing` (of what kind the allowance is).
 */
export const acting: Decide<'acting'> = (draft, input) => {
  const { positionId, personId, firstDay, lastDay, allowance = {}, reasonId } = input;
  const employed = standingIn(draft, personId, firstDay);
  if (!employed) return null;
  const period = { from: firstDay, until: until(lastDay, employed.span.until) };
  if (isWrong(draft, period, employed.span) || holdsItself(draft, employed, positionId, period)) return null;
  const holder = draft.register
    .referrers('placement', 'positionId', positionId)
    .find((row) => row.values.kind === 'primary' && isOn(row, firstDay));
  const made = standIn(draft, employed, {
    ...{ positionId, period, reasonId, hours: 0 },
    kind: 'acting',
    forPlacementId: holder?.thing ?? null,
  });
  if (!made) return null;
  const paid = payAllowance(draft, employed, allowance, { period, reasonId });
  const shown = made.slip.filter(({ field }) => field !== 'hours');
  return {
    things: { ...thingsOf(employed), positionId, placementId: made.placementId },
    slip: [...shown, ...paid],
  };
};

/** A second place beside the primary one. Errors: `own_position`, `period`, `return_after_end`; shares in all by law. */
export const secondPlacement: Decide<'second_placement'> = (draft, input) => {
  const { positionId, personId, firstDay, lastDay, hours, reasonId, above } = input;
  const employed = standingIn(draft, personId, firstDay);
  if (!employed) return null;
  const period = { from: firstDay, until: until(lastDay, employed.span.until) };
  if (isWrong(draft, period, employed.span) || holdsItself(draft, employed, positionId, period)) return null;
  const made = standIn(draft, employed, {
    ...{ positionId, hours, period, reasonId, above },
    kind: 'second',
    forPlacementId: null,
  });
  return (
    made && {
      things: { ...thingsOf(employed), positionId, placementId: made.placementId },
      slip: made.slip,
    }
  );
};

// What was paid for exactly the days of a place ends, or goes on, with it.
const paidForIt = (draft: Draft, employmentId: number, span: Period): Row<'pay'>[] =>
  draft.register
    .referrers('pay', 'employmentId', employmentId)
    .filter((row) => row.from === span.from && row.until === span.until);

/**
 * Another last day of a cover, of acting or of a second place, earlier or later; an allowance for exactly its days goes with it.
 * Errors: `no_stand_in`, `period`, `return_after_end`.
 */
export const endStandIn: Decide<'end_stand_in'> = (draft, { standInId, lastDay }) => {
  const { register } = draft;
  const rows = register.rows('placement', standInId);
  const span = spanOf(rows);
  const last = rows.find((row) => row.until === span?.until);
  if (!span || !last || !standsAside(last.values)) {
    draft.problems.push(problem('no_stand_in', {}, 'standInId'));
    return null;
  }
  const { employmentId, positionId } = last.values;
  const employment = spanOf(register.rows('employment', employmentId)) as Period;
  const end = addDays(lastDay, 1);
  if (isWrong(draft, { from: span.from, until: end }, employment)) return null;
  const paid = last.values.kind === 'acting' ? paidForIt(draft, employmentId, span) : [];
  for (const row of [last, ...paid]) {
    if (isBefore(end, span.until)) draft.cutFrom(row.section, row.thing, end);
    else draft.stretch(row, end);
  }
  const personId = register.rows('employment', employmentId)[0]?.values.personId ?? 0;
  const was = span.until === OPEN ? null : (addDays(span.until, -1) as Day);
  return {
    things: { personId, employmentId, positionId, placementId: standInId },
    slip: [slip('positionId', positionId, 'before', positionId), slip('lastDay', lastDay, 'typed', was)],
  };
};
