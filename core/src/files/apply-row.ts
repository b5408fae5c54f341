// One row of a file of people as steps of a draft: somebody new is hired, somebody known changes where the row differs.
import type { Fault, ImportField, Problem } from '@gremium/contract';
import { hire } from '../movements/hire';
import type { Draft } from '../time/draft';
import { sense } from '../people/sense';
import { isError, problem } from '../time/problem';
import { changeKnown } from './change-known';
import type { Said } from './read-row';
import { type Applied, type Applying, type Asked, comparePlace, fault, termsOf } from './row-terms';

/** Adds what a row asks for to a draft. Where it has faults the draft is not to be used. */
export const applyRow = (draft: Draft, asked: Asked, applying: Applying): Applied => {
  const applied: Applied = {
    what: 'other',
    personId: asked.personId,
    on: asked.on,
    faults: [],
    warnings: [],
  };
  if (asked.personId === null) hireNew(draft, asked, applying, applied);
  else changeKnown(draft, asked.personId, asked, { applying, applied });
  const sensed = sense(draft.register, draft.change, { twins: false, today: applying.today }).problems;
  for (const found of [...draft.problems, ...sensed]) {
    if (isError(found)) applied.faults.push(faultOf(found, asked.said));
    else if (found.severity === 'warning' && found.code !== 'later_versions') applied.warnings.push(found);
  }
  return applied;
};

// Fields of movements as they are called in a file.
const FIELDS: Record<string, ImportField> = {
  positionId: 'position',
  unitId: 'unit',
  jobId: 'job',
  locationId: 'location',
  workerTypeId: 'workerType',
  legalEntityId: 'legalEntity',
  reportsToId: 'manager',
  firstDay: 'firstDay',
  lastDay: 'lastDay',
  hours: 'hours',
  person: 'firstDay',
  name: 'family',
  contacts: 'email',
  birthDate: 'birthDate',
  number: 'number',
  reasonId: 'reason',
  amount: 'pay',
  currency: 'currency',
};

/** A problem of a movement or a law, at the cell that it is about. What was not said at all is missing. */
export const faultOf = (found: Problem, said: Said): Fault => {
  const field = FIELDS[found.field?.split('.').at(-1) ?? ''] ?? null;
  const isMissing = found.code === 'value_invalid' && field !== null && said[field] === undefined;
  return {
    field: field === 'hours' && said.hours === undefined && said.fte !== undefined ? 'fte' : field,
    problem: isMissing ? problem('value_missing') : found,
    offers: [],
  };
};

const hireNew = (draft: Draft, asked: Asked, applying: Applying, applied: Applied): void => {
  const { said } = asked;
  const { faults } = applied;
  applied.what = 'hire';
  if (!said.firstDay) faults.push(fault('firstDay', problem('value_missing')));
  if (!said.given && !said.family) faults.push(fault('family', problem('name_missing')));
  if (!said.email && !said.phone) faults.push(fault('email', problem('contact_missing')));
  const { firstDay } = said;
  if (!firstDay || faults.length > 0) return;
  const terms = termsOf(draft, asked, faults);
  if (!terms) return;
  const contacts = (['email', 'phone'] as const).flatMap((kind) => {
    const value = said[kind];
    return value ? [{ kind, value }] : [];
  });
  const number = said.number ?? applying.nextNumber();
  applied.on = firstDay;
  const hired = hire(draft, {
    ...terms,
    firstDay,
    person: {
      number,
      name: {
        given: said.given ?? null,
        middle: said.middle ?? null,
        family: said.family ?? null,
        preferred: said.preferred ?? null,
      },
      birthDate: said.birthDate ?? null,
      gender: said.gender ?? null,
      nationality: said.nationality ?? null,
      language: said.language ?? null,
      contacts,
    },
  });
  applied.personId = hired?.personId ?? null;
  comparePlace(draft, { ...asked, on: firstDay }, applying.lookUps, {
    positionId: hired?.positionId,
    faults,
  });
};
