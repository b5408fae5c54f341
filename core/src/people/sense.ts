// What a change says that may be meant but seldom is: asked on every way in (slip, section, file, API) of what is new in it.
import type { Bound, Change, Day, Problem, Row, SectionName, Values } from '@gremium/contract';
import { MOST_HOURS, isEmailForm } from '@gremium/contract';
import { distance } from 'fastest-levenshtein';
import { ZERO, exceeds, fraction, times } from '../structure/fraction';
import {
  BEGINNING,
  addDays,
  addMonths,
  completedYears,
  isBefore,
  isOn,
  later,
  overlaps,
} from '../time/calendar';
import { problem, thing } from '../time/problem';
import type { Register } from '../time/register';
import { isEqual } from '../time/timeline';
import { mainEmployment, spanOf, spellsOf } from './employments';
import { fold, sortName } from './names';
import { HARDLY, leastAgeOf } from './least-age';
import { awardSense } from './award-sense';
import { hoursOfJob, hoursOfPosition } from '../structure/hours-sense';
import { hasRecordSense, recordSense } from './record-sense';
import { payAround } from './pay-around';
import { type Worked, isBasePay, payOutsideRange, payRange } from './pay-range';
import { jobSense } from '../structure/job-sense';
import { isTooFine, placesOf } from './currency-places';
import { type Week, daysOf, decimal, yearly } from './yearly';

/** What was looked at; "passed" is said of these only. */
export type Looked =
  | 'record'
  | 'place'
  | 'share'
  | 'hours'
  | 'line'
  | 'range'
  | 'currency'
  | 'pay'
  | 'twins'
  | 'contact'
  | 'person';

/** What was found odd, and what was looked at, whatever was found. */
export type Sense = { problems: Problem[]; looked: Looked[] };

/**
 * Asks the register after a change about its new rows: pay (above nothing, in the currency of the legal entity, in the range
 * of its grade, not far from what was paid before), hours, contacts, and whether somebody new is on it already (`twins`: only
 * where those who could be are loaded). Errors refuse, warnings want a word.
 */
export const sense = (
  register: Register,
  change: Change,
  { twins, today }: { twins: boolean; today: Day },
): Sense => {
  const fresh = freshRows(change);
  const looked = new Set<Looked>();
  const look = (...of: Looked[]) => of.forEach((one) => looked.add(one));
  const problems: Problem[] = [];
  for (const row of fresh) {
    if (isOf(row, 'pay') && !saidBefore(row, change, PAID))
      problems.push(...paySense(register, row, change, look));
    if (isOf(row, 'placement')) {
      look('place', 'share', 'hours', 'line');
      problems.push(...hoursSense(row));
    }
    if (isOf(row, 'position')) problems.push(...jobSense(register, row, change));
    if (isOf(row, 'employment')) {
      look('person');
      problems.push(...beginSense(register, row, change, today));
    }
    if (isOf(row, 'person') && !saidBefore(row, change, ['birthDate']))
      problems.push(...birthSense(register, row, today));
    if (isOf(row, 'award')) problems.push(...awardSense(register, row, change, today));
    if (isOf(row, 'job') && !saidBefore(row, change, ['hours', 'fte']))
      problems.push(...hoursOfJob(register, row));
    if (isOf(row, 'position') && !saidBefore(row, change, ['hours']))
      problems.push(...hoursOfPosition(register, row.thing, row.from));
    if (isOf(row, 'position_limits') && !saidBefore(row, change, ['fte']))
      problems.push(...hoursOfPosition(register, row.thing, row.from));
    if (hasRecordSense(row.section)) {
      look('record');
      problems.push(...recordSense(register, row, change));
    }
    if (isOf(row, 'contact')) {
      look('contact');
      problems.push(...contactSense(row));
    }
  }
  problems.push(...payAround(register, fresh, change, look));
  if (twins) problems.push(...twinsOf(register, fresh, look));
  return { problems: once(problems), looked: [...looked] };
};

const PAID = ['employmentId', 'kindId', 'amount', 'currency', 'basis', 'rate', 'step'] as const;

// Whether the fields asked about stood so before, on some of the row's days: whoever changes another field is not asked again.
const saidBefore = <S extends SectionName>(
  row: Row<S>,
  { superseded }: Change,
  fields: readonly (keyof Values<S>)[],
): boolean =>
  (superseded as Row[]).some(
    (was) =>
      was.section === row.section &&
      was.thing === row.thing &&
      overlaps(was, row) &&
      fields.every((field) => isEqual((was as Row<S>).values[field], row.values[field])),
  );

const isOf = <S extends SectionName>(row: Row, section: S): row is Row<S> => row.section === section;

const once = (problems: readonly Problem[]): Problem[] => {
  const known = new Map<string, Problem>();
  for (const one of problems) {
    const key = `${one.code} ${one.field ?? ''}`;
    if (!known.has(key)) known.set(key, one);
  }
  return [...known.values()];
};

/** Rows of a change that say something else than what they take the place of: a row that is only cut says nothing new. */
export const freshRows = ({ recorded, superseded }: Change): Row[] => {
  if (superseded.length === 0) return [...recorded];
  const old = new Map<number, Row[]>();
  for (const row of superseded) old.set(row.thing, [...(old.get(row.thing) ?? []), row]);
  return recorded.filter(
    (row) =>
      !(old.get(row.thing) ?? []).some(
        (was) => was.section === row.section && overlaps(was, row) && isEqual(was.values, row.values),
      ),
  );
};

const BASE_LEAST_AN_HOUR = fraction(1);
const BASE_MOST_AN_HOUR = fraction(10_000);
/** Pay that rises or falls by more than half is asked about. */
const [MUCH_MORE, MUCH_LESS] = [fraction(3, 2), fraction(1, 2)];

const paySense = (
  register: Register,
  row: Row<'pay'>,
  { superseded }: Change,
  look: (...of: Looked[]) => void,
): Problem[] => {
  const { values } = row;
  const isBase = register.rows('list_entry', values.kindId)[0]?.values.flags.base === true;
  const entity = register.rows('employment', values.employmentId)[0]?.values.legalEntityId;
  const own = entity === undefined ? undefined : register.at('legal_entity', entity, row.from)?.currency;
  look('pay');
  const found: Problem[] = [];
  if (isBase && !exceeds(decimal(values.amount), ZERO))
    return [problem('pay_not_positive', { amount: values.amount }, 'amount')];
  if (own !== undefined) look('currency');
  if (isTooFine(values.amount, values.currency))
    found.push(
      problem('amount_too_fine', { currency: values.currency, places: placesOf(values.currency) }, 'amount'),
    );
  if (own !== undefined && own !== values.currency)
    found.push(problem('pay_currency', { currency: values.currency, own }, 'currency'));
  const placed = placedAt(register, row);
  const { gradeId = null, fullTime = FULL_TIME } = placed ?? {};
  const range = gradeId === null ? undefined : payRange(register, gradeId, values.currency, row.from);
  if (isBase && range && placed) {
    look('range');
    found.push(...payOutsideRange(register, values, placed, placed.on));
  }
  found.push(...basisSense(register, values, placed, entity), ...stepSense(register, values, placed));
  const before = paidBefore(register, row, superseded);
  if (before) found.push(...jump(before.values, values));
  else if (isBase && !range)
    found.push(...unlikely(values, { fullTime, days: daysOf(register, values, row.from) }));
  return found;
};

// Where nothing says, a full-time week has forty hours.
const FULL_TIME = 4000;

type Placed = Worked & { on: Bound; jobId: number | null };

// The primary placement of the pay's first day on which there is one, and the grade of its position.
const placedAt = (register: Register, { from, until, values }: Row<'pay'>): Placed | undefined => {
  const [row] = register
    .referrers('placement', 'employmentId', values.employmentId, { from, until })
    .filter((placement) => placement.values.kind === 'primary')
    .sort((a, b) => (a.from < b.from ? -1 : 1));
  if (!row) return undefined;
  const on = later(row.from, from);
  const { gradeId = null, jobId = null } = register.at('position', row.values.positionId, on) ?? {};
  const { hours, fullTime } = row.values;
  return { gradeId, jobId, hours, fullTime, days: daysOf(register, values, on), on };
};

// A job says on what basis it is paid in a country.
const basisSense = (
  register: Register,
  { kindId, basis }: Values<'pay'>,
  placed: Placed | undefined,
  entity: number | undefined,
): Problem[] => {
  if (!placed || placed.jobId === null || entity === undefined || !isBasePay(register, { kindId })) return [];
  const country = register.at('legal_entity', entity, placed.on)?.country;
  const usual = register
    .referrers('job_pay_basis', 'jobId', placed.jobId)
    .find((row) => isOn(row, placed.on) && row.values.country === country)?.values.basis;
  if (usual === undefined || usual === basis) return [];
  return [problem('pay_basis_differs', { job: thing('job', placed.jobId), usual, basis }, 'basis')];
};

// There are so many steps in a grade, and no more.
const stepSense = (register: Register, { step }: Values<'pay'>, placed: Placed | undefined): Problem[] => {
  if (step === null || !placed || placed.gradeId === null) return [];
  const steps = register.at('grade', placed.gradeId, placed.on)?.steps;
  return steps !== undefined && step > steps ? [problem('step_not_there', { steps }, 'step')] : [];
};

// What of the same kind was paid the day before, or was recorded for this day.
const paidBefore = (
  register: Register,
  row: Row<'pay'>,
  superseded: readonly Row[],
): Row<'pay'> | undefined => {
  const isAlike = (other: Row<'pay'>) =>
    other.values.employmentId === row.values.employmentId &&
    other.values.kindId === row.values.kindId &&
    other.values.currency === row.values.currency &&
    other.values.basis === row.values.basis &&
    other.values.rate === row.values.rate;
  const recorded = superseded.find(
    (other): other is Row<'pay'> => isOf(other, 'pay') && isOn(other, row.from) && isAlike(other),
  );
  if (recorded || row.from === BEGINNING) return recorded;
  const eve = addDays(row.from, -1);
  return register
    .referrers('pay', 'employmentId', row.values.employmentId)
    .find((other) => other.id !== row.id && isOn(other, eve) && isAlike(other));
};

const jump = (was: Values<'pay'>, is: Values<'pay'>): Problem[] => {
  const [before, after] = [decimal(was.amount), decimal(is.amount)];
  const isFar = exceeds(after, times(before, MUCH_MORE)) || exceeds(times(before, MUCH_LESS), after);
  if (!isFar || !exceeds(before, ZERO)) return [];
  return [problem('pay_jump', { before: was.amount, after: is.amount, currency: is.currency }, 'amount')];
};

// No range says anything: less than one an hour, or more than ten thousand, is hardly meant in any currency.
const unlikely = (values: Values<'pay'>, week: Week): Problem[] => {
  const hourly = times(yearly(values, week), fraction(100, 52 * week.fullTime));
  const isLikely = !exceeds(BASE_LEAST_AN_HOUR, hourly) && !exceeds(hourly, BASE_MOST_AN_HOUR);
  const { amount, currency, basis } = values;
  return isLikely ? [] : [problem('pay_unlikely', { amount, currency, basis }, 'amount')];
};

// Acting is leading beside one's own hours: it may take none.
const hoursSense = ({ values: { hours, kind } }: Row<'placement'>): Problem[] =>
  (hours > 0 || kind === 'acting') && hours <= MOST_HOURS * 100
    ? []
    : [problem('share_range', { least: '0', most: String(MOST_HOURS) }, 'hours')];

// A day still to come, or after the first day of work, is none of a birth; old enough for that day, and not past belief.
const birthSense = (
  register: Register,
  { thing: person, values: { birthDate } }: Row<'person'>,
  today: Day,
): Problem[] => {
  if (birthDate === null) return [];
  if (isBefore(today, birthDate)) return [problem('birth_date_ahead', { birthDate }, 'person.birthDate')];
  const [spell] = spellsOf(register, person);
  if (!spell || spell.from === BEGINNING) return [];
  return ageSense(register, { birthDate, first: spell.from as Day, employment: spell.rows[0] });
};

type Aged = { birthDate: Day; first: Day; employment: Row<'employment'> | undefined };

const ageSense = (register: Register, { birthDate, first, employment }: Aged): Problem[] => {
  if (isBefore(first, birthDate))
    return [problem('birth_date_after_first', { birthDate, first }, 'person.birthDate')];
  const age = completedYears(birthDate, first);
  const least = employment ? leastAgeOf(register, employment, first) : null;
  if (age < (least ?? HARDLY.least) && age >= HARDLY.least)
    return [problem('too_young', { birthDate, age, least: least as number }, 'person.birthDate')];
  if (age >= HARDLY.least && age <= HARDLY.most) return [];
  return [problem('birth_date_unlikely', { birthDate, age }, 'person.birthDate')];
};

// So far ahead nobody is hired.
const FAR_YEARS = 2;

// What an employment that begins says of its first day: far ahead, or too early for somebody who is on the register already.
const beginSense = (
  register: Register,
  row: Row<'employment'>,
  { recorded, superseded }: Change,
  today: Day,
): Problem[] => {
  const isNew = !(superseded as Row[]).some((old) => old.thing === row.thing && old.from === row.from);
  if (!isNew || row.from === BEGINNING) return [];
  const first = row.from as Day;
  const found: Problem[] = [];
  if (isBefore(addMonths(today, 12 * FAR_YEARS), first))
    found.push(problem('first_day_far', { day: first }, 'firstDay'));
  // somebody new is asked about with their birth date
  const isKnown = !(recorded as Row[]).some(
    (one) => one.section === 'person' && one.thing === row.values.personId,
  );
  const birthDate = isKnown
    ? register.rows('person', row.values.personId).at(-1)?.values.birthDate
    : undefined;
  if (birthDate && row.values.continuesId === null)
    found.push(...ageSense(register, { birthDate, first, employment: row }));
  return found;
};

const FORMS = {
  email: isEmailForm,
  phone: (text: string) => /^\+?[\d\s()/-]{5,}$/.test(text),
  address: (text: string) => /\S{3}/.test(text),
};

const contactSense = ({ values: { kind, value } }: Row<'contact'>): Problem[] =>
  FORMS[kind](value) ? [] : [problem('contact_form', { kind, value }, 'person.contacts')];

// Somebody with the email of somebody else, or somebody new born on the day of somebody of a similar name.
const twinsOf = (register: Register, fresh: readonly Row[], look: (...of: Looked[]) => void): Problem[] => {
  const found: Problem[] = [];
  for (const row of fresh) {
    if (isOf(row, 'contact') && row.values.kind === 'email') {
      look('twins');
      const other = othersWith(register, row)[0];
      if (other !== undefined) found.push(...alike(register, 'twin_email', other, row.values.personId));
    }
    if (isOf(row, 'person') && row.values.birthDate !== null && isNew(register, row)) {
      look('twins');
      const other = bornAlike(register, row);
      if (other !== undefined) found.push(...alike(register, 'twin_birth', other, row.thing));
    }
  }
  return found;
};

// Whose data never changed on a day: somebody new, or whose birth date is mended.
const isNew = (register: Register, { thing: person }: Row): boolean =>
  register.rows('person', person).length === 1;

const othersWith = (register: Register, { values }: Row<'contact'>): number[] =>
  register
    .valued('contact', 'value', values.value)
    .flatMap(({ values: other }) =>
      other.kind === 'email' && other.personId !== values.personId ? other.personId : [],
    );

const bornAlike = (register: Register, { thing: person, values }: Row<'person'>): number | undefined => {
  const name = nameKey(register, person);
  if (name === '' || values.birthDate === null) return undefined;
  for (const other of register.valued('person', 'birthDate', values.birthDate))
    if (other.thing !== person)
      if (distance(nameKey(register, other.thing), name) <= Math.max(1, Math.floor(name.length / 8)))
        return other.thing;
  return undefined;
};

// Given and family names in any order, accents and capitals aside.
const nameKey = (register: Register, person: number): string => {
  const values = register.rows('person_name', person).at(-1)?.values;
  return values ? fold(sortName(values)).split(' ').filter(Boolean).sort().join(' ') : '';
};

const alike = (
  register: Register,
  code: 'twin_email' | 'twin_birth',
  other: number,
  person: number,
): Problem[] => {
  const begins = spellsOf(register, person)[0]?.from;
  const spells = spellsOf(register, other);
  const span = spanOf(spells);
  const hasLeft =
    begins !== undefined &&
    span !== null &&
    span.until <= begins &&
    mainEmployment(spells, begins) === undefined;
  const params = { person: thing('person', other) };
  return hasLeft
    ? [problem('twin_returns', { ...params, day: addDays(span.until, -1) }, 'person')]
    : [problem(code, params, 'person')];
};
