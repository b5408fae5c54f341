import type { HireInput, NewPerson, PayInput, SlipValue, Values } from '@gremium/contract';
import type { Draft } from '../time/draft';
import type { Bound } from '@gremium/contract';
import { checkRequired } from './required';
import { BEGINNING, OPEN, type Period, addDays, overlaps } from '../time/calendar';
import { problem, thing } from '../time/problem';
import { spellsOf } from '../people/employments';
import { NO_NAME } from '../people/names';
import type { Decide } from './decide';
import { recordOwnAtHire } from './own-at-hire';
import { closeMadeOnHire, findPlace, placementAt, slip } from './place';

/** What a hire made. */
export type Hired = {
  personId: number;
  employmentId: number;
  placementId: number;
  positionId: number;
  slip: SlipValue[];
};

/**
 * Hires a person: record, employment, contract, placement and pay in one change. What the position, the job or the unit
 * says is not asked; the slip gives each value with its source. Errors are added to the draft; null if no place is found.
 */
export const hire = (draft: Draft, input: HireInput): Hired | null => {
  const { firstDay } = input;
  const period: Period = { from: firstDay, until: input.lastDay ? addDays(input.lastDay, 1) : OPEN };
  if (input.lastDay && input.lastDay < firstDay)
    draft.problems.push(problem('period', { from: firstDay, until: input.lastDay }, 'lastDay'));
  const place = findPlace(draft, input, firstDay);
  if (!place || draft.problems.some(({ code }) => code === 'period')) return null;
  const worker = workerTypeOf(draft, input, place.position);
  const legalEntityId = input.legalEntityId ?? place.legalEntityId;
  // what is left out is asked for, and all else is looked at meanwhile
  if (worker.value === null) draft.problems.push(problem('value_missing', {}, 'workerTypeId'));
  if (legalEntityId === null) draft.problems.push(problem('value_missing', {}, 'legalEntityId'));
  const workerTypeId =
    worker.value ?? firstEntry(draft.register, input.firstDay, ({ list }) => list === 'worker_type');
  if (workerTypeId === null || legalEntityId === null) return null;
  const personId = 'id' in input.person ? input.person.id : recordPerson(draft, input.person);
  refuseSecond(draft, personId, legalEntityId, period);
  const employmentId = draft.create(
    'employment',
    period.from,
    {
      personId,
      legalEntityId,
      workerTypeId,
      markedMain: false,
      seniorityDate: input.seniorityDate ?? null,
      continuesId: null,
      endReasonId: null,
      mayReturn: null,
      returnReason: null,
      returnBarredUntil: null,
    },
    period.until,
  );
  const terms = recordTerms(draft, input, {
    employmentId,
    legalEntityId,
    period,
    unitId: place.position.unitId,
    step: place.position.step,
  });
  const placement = placementAt(place, employmentId, input);
  const placementId = draft.create('placement', period.from, placement, period.until);
  if (input.lastDay) closeMadeOnHire(draft, place.positionId, input.lastDay);
  return {
    personId,
    employmentId,
    placementId,
    positionId: place.positionId,
    slip: [
      ...place.sources,
      slip('workerTypeId', worker.value, worker.source),
      slip('legalEntityId', legalEntityId, input.legalEntityId ? 'typed' : 'unit'),
      ...terms,
    ].filter(
      ({ section, field }, i, all) =>
        all.findLastIndex((other) => other.field === field && other.section === section) === i,
    ),
  };
};

const workerTypeOf = (
  { register }: Draft,
  { workerTypeId, firstDay }: HireInput,
  { unitId, jobId }: Values<'position'>,
): { value: number | null; source: SlipValue['source'] } => {
  if (workerTypeId !== undefined) return { value: workerTypeId, source: 'typed' };
  const fromJob = register.at('job', jobId, firstDay)?.workerTypeId ?? null;
  if (fromJob !== null) return { value: fromJob, source: 'job' };
  return { value: register.at('unit_hiring', unitId, firstDay)?.workerTypeId ?? null, source: 'unit' };
};

const recordPerson = (draft: Draft, person: NewPerson): number => {
  const { name, birthDate = null } = person;
  if (!name.given && !name.family) draft.problems.push(problem('name_missing', {}, 'person.name'));
  if (person.contacts.length === 0) draft.problems.push(problem('contact_missing', {}, 'person.contacts'));
  const personId = draft.create('person', BEGINNING, {
    number: person.number ?? String(draft.newId()),
    birthDate,
    gender: person.gender ?? null,
    nationality: person.nationality ?? null,
    language: person.language ?? null,
  });
  draft.begin('person_name', personId, { from: BEGINNING, until: OPEN }, filled(NO_NAME, name));
  const primary = new Set<string>();
  for (const { kind, value, use = 'work', primary: marked } of person.contacts) {
    const isFirst = marked ?? !primary.has(kind);
    primary.add(kind);
    draft.create('contact', BEGINNING, { personId, kind, use, value, primary: isFirst });
  }
  return personId;
};

const refuseSecond = (draft: Draft, personId: number, legalEntityId: number, period: Period): void => {
  const running = spellsOf(draft.register, personId).find(
    (spell) => overlaps(spell, period) && spell.rows[0]?.values.legalEntityId === legalEntityId,
  );
  if (!running) return;
  const params = { person: thing('person', personId), from: running.from, until: running.until };
  draft.problems.push(problem('person_employed', params, 'person'));
};

type Of = {
  employmentId: number;
  legalEntityId: number;
  unitId: number;
  step: number | null;
  period: Period;
};

// What is not said of contract and pay comes from the unit, from the legal entity, or is what is usual.
const recordTerms = (draft: Draft, input: HireInput, of: Of): SlipValue[] => {
  const { employmentId, period } = of;
  const told: SlipValue[] = [];
  if (input.contract) {
    const { kindId, source } = contractKind(draft, input, of);
    if (kindId === null) draft.problems.push(problem('value_invalid', {}, 'contract.kindId'));
    else {
      const values = { ...filled(NO_CONTRACT, input.contract), kindId, employmentId };
      draft.create('contract', period.from, values, period.until);
      told.push(slip('kindId', kindId, source, null, 'contract'));
    }
  }
  for (const given of input.pay) {
    const pay = payOf(draft, given, { ...of, on: input.firstDay });
    if (!pay) continue;
    draft.create('pay', period.from, { ...pay.values, employmentId, reasonId: null }, period.until);
    told.push(...pay.told);
  }
  return told;
};

const contractKind = (
  { register }: Draft,
  { contract, firstDay }: HireInput,
  { unitId }: Of,
): { kindId: number | null; source: SlipValue['source'] } => {
  if (contract?.kindId !== undefined) return { kindId: contract.kindId, source: 'typed' };
  const fromUnit = register.at('unit_hiring', unitId, firstDay)?.contractKindId ?? null;
  if (fromUnit !== null) return { kindId: fromUnit, source: 'unit' };
  return {
    kindId: firstEntry(register, firstDay, (entry) => entry.list === 'contract_kind'),
    source: 'preset',
  };
};

const firstEntry = (
  register: Draft['register'],
  on: Bound,
  fits: (entry: Values<'list_entry'>) => boolean,
): number | null => {
  const found = [...register.allOn('list_entry', on)].filter(({ values }) => fits(values));
  return found.map(({ thing: id }) => id).sort((a, b) => a - b)[0] ?? null;
};

/** The kind that base pay is of on a day; null where no list has one. */
export const basePayKind = (register: Draft['register'], on: Bound): number | null =>
  firstEntry(register, on, ({ list, flags }) => list === 'pay_kind' && flags.base === true);

type PayValues = Omit<Values<'pay'>, 'employmentId' | 'reasonId'>;

/**
 * A pay component with what was not said of it: base pay, in the legal entity's currency, a month, at full time, on the step
 * that the position says. Null, with the problem, where nothing says the kind or the currency.
 */
export const payOf = (
  draft: Draft,
  given: PayInput,
  { legalEntityId, on, step = null }: { legalEntityId: number; on: Bound; step?: number | null },
): { values: PayValues; told: SlipValue[] } | null => {
  const { register } = draft;
  const kindId = given.kindId ?? basePayKind(register, on);
  const currency = given.currency ?? register.at('legal_entity', legalEntityId, on)?.currency;
  if (kindId === null || currency === undefined) {
    draft.problems.push(problem('value_invalid', {}, kindId === null ? 'pay.kindId' : 'pay.currency'));
    return null;
  }
  const { amount, basis = 'month', rate = 'full_time' } = given;
  const isBase = register.rows('list_entry', kindId)[0]?.values.flags.base === true;
  return {
    values: {
      ...{ kindId, amount, currency, basis, rate },
      step: given.step ?? (isBase ? step : null),
      timesAYear: given.timesAYear ?? null,
      paidEvery: given.paidEvery ?? null,
    },
    told: [
      slip('amount', amount, 'typed', null, 'pay'),
      slip('currency', currency, given.currency ? 'typed' : 'legal_entity', null, 'pay'),
    ],
  };
};

type Maybe<T> = { [K in keyof T]?: T[K] | undefined };

const filled = <T extends object>(defaults: T, given: Maybe<T>): T => {
  const said = Object.entries(given).filter(([key, value]) => value !== undefined && key in defaults);
  return { ...defaults, ...Object.fromEntries(said) };
};

/** A contract of which nothing is said. */
export const NO_CONTRACT: Omit<Values<'contract'>, 'employmentId' | 'kindId'> = {
  fixedUntil: null,
  fixedGround: null,
  noticeByEmployeeDays: null,
  noticeByEmployerDays: null,
  probationUntil: null,
  probation: null,
  daysAWeek: null,
  signedOn: null,
};

/** The hire as a movement: somebody new, or known by their id. */
export const decideHire: Decide<'hire'> = (draft, input, { number }) => {
  const { person } = input;
  const known = 'id' in person ? person : { ...person, number: person.number ?? number };
  const done = hire(draft, { ...input, person: known as HireInput['person'] });
  if (done) checkRequired(draft, { ...done, firstDay: input.firstDay, isNew: !('id' in person) });
  if (done && input.own) recordOwnAtHire(draft, done.personId, input.own, input.firstDay);
  return done && movedBy(done);
};

const movedBy = ({ personId, employmentId, positionId, placementId, slip: told }: Hired) => ({
  things: { personId, employmentId, positionId, placementId },
  slip: told,
});

/** Somebody comes back: the record and the old number stay. A bar to returning wants a word (`return_barred`). */
export const decideRehire: Decide<'rehire'> = (draft, { personId, ...terms }) => {
  const barred = spellsOf(draft.register, personId)
    .flatMap(({ rows }) => rows.at(-1)?.values ?? [])
    .find(
      ({ mayReturn, returnBarredUntil }) =>
        mayReturn === false && (returnBarredUntil === null || terms.firstDay <= returnBarredUntil),
    );
  if (barred) {
    const params = { person: thing('person', personId), reason: barred.returnReason ?? '–' };
    draft.problems.push(problem('return_barred', params, 'personId'));
  }
  const done = hire(draft, { ...terms, person: { id: personId } });
  if (done) checkRequired(draft, { ...done, firstDay: terms.firstDay, isNew: false });
  return done && movedBy(done);
};
