import type { HireInput, NewPerson, SlipValue, Values } from '@gremium/contract';
import type { Draft } from '../time/draft';
import { BEGINNING, OPEN, type Period, addDays, overlaps } from '../time/calendar';
import { problem, thing } from '../time/problem';
import { spellsOf } from '../people/employments';
import { NO_NAME } from '../people/names';
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
  if (worker.value === null) draft.problems.push(problem('value_invalid', {}, 'workerTypeId'));
  if (legalEntityId === null) draft.problems.push(problem('value_invalid', {}, 'legalEntityId'));
  if (worker.value === null || legalEntityId === null) return null;
  const personId = 'id' in input.person ? input.person.id : recordPerson(draft, input.person);
  refuseSecond(draft, personId, legalEntityId, period);
  const employmentId = draft.create(
    'employment',
    period.from,
    {
      personId,
      legalEntityId,
      workerTypeId: worker.value,
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
  recordTerms(draft, input, employmentId, period);
  const placement = placementAt(place, employmentId, input.reasonId);
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
    ].filter(({ field }, i, all) => all.findLastIndex((other) => other.field === field) === i),
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

const recordTerms = (draft: Draft, input: HireInput, employmentId: number, period: Period): void => {
  if (input.contract)
    draft.create('contract', period.from, contractOf(input.contract, employmentId), period.until);
  for (const pay of input.pay)
    draft.create('pay', period.from, { ...pay, employmentId, reasonId: null }, period.until);
};

const contractOf = (given: NonNullable<HireInput['contract']>, employmentId: number): Values<'contract'> => ({
  ...filled(NO_CONTRACT, given),
  kindId: given.kindId,
  employmentId,
});

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
  signedOn: null,
};
