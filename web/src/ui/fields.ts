// How each field of a section is shown and typed. Everything else about a field stands in the contract's schema.
import type { Kind, ListName, SectionName } from '@gremium/contract';

export type Field =
  | {
      name: string;
      kind: 'text' | 'day' | 'number' | 'decimal' | 'yes_no' | 'country' | 'currency';
    }
  /** Hours and shares: `most` in whole ones, `zero` where none is an answer too. */
  | { name: string; kind: 'hundredths'; most?: number; zero?: true }
  | { name: string; kind: 'choice'; options: readonly string[] }
  | { name: string; kind: 'list'; list: ListName }
  | { name: string; kind: 'thing'; of: Kind };

const text = (name: string): Field => ({ name, kind: 'text' });
const hours = (name: string) => ({ name, kind: 'hundredths', most: 168 }) as const;
const day = (name: string): Field => ({ name, kind: 'day' });
const thing = (name: string, of: Kind): Field => ({ name, kind: 'thing', of });
const list = (name: string, of: ListName): Field => ({ name, kind: 'list', list: of });
const choice = (name: string, ...options: string[]): Field => ({ name, kind: 'choice', options });

/** Fields of sections, in the order of reading. */
export const fieldsOf: Partial<Record<SectionName, Field[]>> = {
  person: [
    text('number'),
    day('birthDate'),
    choice('gender', 'female', 'male', 'other'),
    { name: 'nationality', kind: 'country' },
    text('language'),
  ],
  person_name: [
    text('given'),
    text('middle'),
    text('prefix'),
    text('family'),
    text('preferred'),
    text('birthName'),
    text('sortName'),
  ],
  contact: [
    choice('kind', 'email', 'phone', 'address'),
    choice('use', 'work', 'private'),
    text('value'),
    { name: 'primary', kind: 'yes_no' },
  ],
  employment: [
    thing('legalEntityId', 'legal_entity'),
    list('workerTypeId', 'worker_type'),
    day('seniorityDate'),
    list('endReasonId', 'reason'),
  ],
  contract: [
    list('kindId', 'contract_kind'),
    day('fixedUntil'),
    text('fixedGround'),
    day('probationUntil'),
    choice('probation', 'running', 'passed', 'extended', 'ended'),
    { name: 'noticeByEmployeeDays', kind: 'number' },
    { name: 'noticeByEmployerDays', kind: 'number' },
    day('signedOn'),
  ],
  placement: [
    thing('positionId', 'position'),
    choice('kind', 'primary', 'second', 'temporary', 'acting', 'cover'),
    hours('hours'),
    hours('fullTime'),
    { ...hours('lentHours'), zero: true },
    { ...hours('awayHours'), zero: true },
    list('reasonId', 'reason'),
  ],
  pay: [
    list('kindId', 'pay_kind'),
    { name: 'amount', kind: 'decimal' },
    { name: 'currency', kind: 'currency' },
    choice('basis', 'hour', 'day', 'month', 'year'),
    choice('rate', 'full_time', 'actual'),
    list('reasonId', 'reason'),
  ],
  position: [
    text('title'),
    text('code'),
    choice('standing', 'planned', 'in_force', 'on_hold', 'closed'),
    thing('unitId', 'unit'),
    thing('jobId', 'job'),
    thing('locationId', 'location'),
    thing('costCentreId', 'cost_centre'),
    thing('legalEntityId', 'legal_entity'),
    thing('gradeId', 'grade'),
    hours('hours'),
    { name: 'temporary', kind: 'yes_no' },
  ],
  position_limits: [
    { name: 'places', kind: 'number' },
    { name: 'fte', kind: 'hundredths' },
    { name: 'handoverDays', kind: 'number' },
  ],
  unit: [text('name'), text('code'), thing('parentId', 'unit'), thing('headPositionId', 'position')],
};
