// Pay steps: how long somebody has been on a step of the grade, and when the next one comes.
import type { Bound, Day, Row, Values } from '@gremium/contract';
import { divided, exceeds, fraction, rounded, times } from '../structure/fraction';
import {
  BEGINNING,
  OPEN,
  type Period,
  addDays,
  addMonths,
  boundaries,
  byFrom,
  completedMonths,
  daysBetween,
  intersection,
  isBefore,
  isOn,
  later,
} from '../time/calendar';
import type { Register } from '../time/register';
import { isBasePay } from './pay-range';
import { decimal, daysOf, monthly } from './yearly';

/** The step somebody reaches next. */
export type NextStep = {
  employmentId: number;
  /** The pay component whose step it is. */
  pay: Row<'pay'>;
  gradeId: number;
  step: number;
  /** The first day on the step; `-infinity` where that is not known. */
  since: Bound;
  /** The first day on the next one; null where the clock has stopped without an end. */
  due: Day | null;
  /** What the next one pays, on the basis `month`; null where nothing says, or more is paid already. */
  amount: string | null;
};

// The employments that a later one continues: the clock goes on over them.
const continued = (register: Register, employmentId: number): number[] => {
  const chain: number[] = [];
  for (let at: number | null = employmentId; at !== null && !chain.includes(at);) {
    chain.push(at);
    at = register.rows('employment', at)[0]?.values.continuesId ?? null;
  }
  return chain;
};

type Placed = { placements: Row<'placement'>[]; pay: Row<'pay'>[]; absences: Row<'absence'>[] };

const gradeOn = (register: Register, { placements }: Placed, on: Bound): number | null => {
  const placement = placements.find((row) => isOn(row, on));
  return placement ? (register.at('position', placement.values.positionId, on)?.gradeId ?? null) : null;
};

const stepOn = ({ pay }: Placed, on: Bound): number | null =>
  pay.find((row) => isOn(row, on))?.values.step ?? null;

// The first of the days, without a break up to `on`, on which step and grade were what they are.
const sinceWhen = (
  register: Register,
  placed: Placed,
  { step, gradeId, on }: { step: number; gradeId: number; on: Day },
): Bound => {
  const positions = placed.placements.flatMap(({ values }) => [
    ...register.rows('position', values.positionId),
  ]);
  const days = boundaries([...placed.pay, ...placed.placements, ...positions])
    .filter((day) => day <= on)
    .sort()
    .reverse();
  let since: Bound = on;
  for (const day of days) {
    if (stepOn(placed, day) !== step || gradeOn(register, placed, day) !== gradeId) break;
    since = day;
  }
  return since;
};

/** A day later by as long as a period lasts: by its whole months, and the days left over. */
export const laterBy = (day: Day, from: Day, until: Day): Day => {
  const months = completedMonths(from, until);
  return addDays(addMonths(day, months), daysBetween(addMonths(from, months), until));
};

/**
 * The day so many months after another one, of which the days in `stops` (absences that stop the clock) do not count: 12 months
 * with two stopped are 14. Null where a stop has no end.
 */
export const stepDue = (since: Day, months: number, stops: readonly Period[]): Day | null => {
  let due = addMonths(since, months);
  for (const stop of joinedStops(stops)) {
    const from = later<Bound>(stop.from, since) as Day;
    if (!isBefore(from, due) || !isBefore(from, stop.until)) continue;
    if (stop.until === OPEN) return null;
    due = laterBy(due, from, stop.until as Day);
  }
  return due;
};

const joinedStops = (stops: readonly Period[]): Period[] =>
  [...stops].sort(byFrom).reduce<Period[]>((done, { from, until }) => {
    const last = done.at(-1);
    if (last && from <= last.until) last.until = later(last.until, until);
    else done.push({ from, until });
    return done;
  }, []);

// Days on which somebody works nothing because of an absence that stops the clock.
const stopsIn = (register: Register, { placements, absences }: Placed): Period[] => {
  const stopping = absences.filter(
    ({ values }) => register.rows('list_entry', values.kindId)[0]?.values.flags.stopsClock === true,
  );
  return placements
    .filter(({ values: { hours, lentHours, awayHours } }) => awayHours > 0 && awayHours + lentHours >= hours)
    .flatMap((row) => stopping.flatMap((absence) => intersection(row, absence) ?? []));
};

const stepRow = (register: Register, gradeId: number, step: number, on: Bound) =>
  register
    .referrers('grade_step', 'gradeId', gradeId)
    .find((row) => row.values.step === step && isOn(row, on));

// What a step pays a month for the hours that the pay is said for, rounded to cents.
const stepAmount = (
  register: Register,
  { gradeId, step, on }: { gradeId: number; step: number; on: Day },
  pay: Values<'pay'>,
  placement: Values<'placement'>,
): string | null => {
  const row = register
    .referrers('grade_step_pay', 'gradeId', gradeId)
    .find(
      ({ values, ...period }) => values.step === step && values.currency === pay.currency && isOn(period, on),
    );
  if (!row) return null;
  const { amount, fullTime } = row.values;
  const worked = pay.rate === 'full_time' ? placement.fullTime : placement.hours;
  const then =
    worked === fullTime
      ? amount
      : rounded(times(decimal(amount), divided(fraction(worked), fraction(fullTime))), 2);
  // nobody is paid less because they come to a higher step
  const now = monthly(pay, { fullTime: placement.fullTime, days: daysOf(register, pay, on) });
  return exceeds(now, decimal(then)) ? null : then;
};

/**
 * The step that an employment reaches next, by what holds on a day: base pay on a step of the grade of the primary placement,
 * for which the grade says after how many months the next one comes. None on the last step, or where nothing says.
 */
export const nextStep = (register: Register, employmentId: number, on: Day): NextStep | null => {
  const chain = continued(register, employmentId);
  const placed: Placed = {
    placements: chain
      .flatMap((id) => register.referrers('placement', 'employmentId', id))
      .filter(({ values }) => values.kind === 'primary'),
    pay: chain
      .flatMap((id) => register.referrers('pay', 'employmentId', id))
      .filter(({ values }) => isBasePay(register, values)),
    absences: chain.flatMap((id) => register.referrers('absence', 'employmentId', id)),
  };
  const pay = placed.pay.find((row) => isOn(row, on) && row.values.employmentId === employmentId);
  const placement = placed.placements.find((row) => isOn(row, on));
  const gradeId = gradeOn(register, placed, on);
  const step = pay?.values.step ?? null;
  if (!pay || !placement || gradeId === null || step === null) return null;
  const grade = register.at('grade', gradeId, on);
  const months = stepRow(register, gradeId, step, on)?.values.months;
  if (!grade || months === undefined || step >= grade.steps) return null;
  const since = sinceWhen(register, placed, { step, gradeId, on });
  const due = since === BEGINNING ? null : stepDue(since as Day, months, stopsIn(register, placed));
  const amount =
    due === null
      ? null
      : stepAmount(register, { gradeId, step: step + 1, on: due }, pay.values, placement.values);
  return { employmentId, pay, gradeId, step, since, due, amount };
};
