// A small organisation for examples worked by hand: Company > Harbour > Terminal, two legal entities, one job.
import type { Bound, Day, HireInput, NewValues, Values } from '@gremium/contract';
import { type Hired, hire } from '../src/movements/hire';
import { BEGINNING, OPEN, day } from '../src/time/calendar';
import { Draft } from '../src/time/draft';
import { RowRegister } from '../src/time/register';

export const START: Day = day('2024-01-01');

const entriesOf = (draft: Draft) => {
  const entry = (kind: string, label: string, flags = {}) =>
    draft.create('list_entry', BEGINNING, {
      list: kind as 'reason',
      code: label,
      label: { en: label, de: label },
      flags,
    });
  return {
    TEAM: entry('unit_kind', 'TEAM'),
    EMP: entry('worker_type', 'EMP'),
    LEFT: entry('reason', 'LEFT', { class: 'by_employee' }),
    BASE: entry('pay_kind', 'BASE', { base: true }),
    PERM: entry('contract_kind', 'PERM'),
  };
};

const organisation: NewValues<'organisation'> = {
  name: 'O',
  country: 'FI',
  timeZone: 'UTC',
  languages: ['en'],
  dateFormat: 'YYYY-MM-DD',
  currency: 'EUR',
  fiscalMonth: 1,
  weekStart: 1,
  fullTime: 3750,
  figuresFrom: START,
};

const jobOf = (workerTypeId: number): NewValues<'job'> => ({
  code: 'J',
  name: 'J',
  title: 'J',
  summary: null,
  familyId: null,
  level: null,
  gradeId: null,
  workerTypeId,
  fte: 100,
  hours: null,
  mostPositions: null,
  active: true,
});

/** The small organisation, with ways to make positions in it and to hire into them. */
export const smallWorld = () => {
  let ids = 1000;
  const register = new RowRegister();
  const draft = new Draft(register, () => ids++, 1);
  const lists = entriesOf(draft);
  const entityIn = (country: string) =>
    draft.create('legal_entity', BEGINNING, { code: country, name: country, country, currency: 'EUR' });
  const entity = { fi: entityIn('FI'), ee: entityIn('EE') };
  draft.create('organisation', BEGINNING, organisation);
  const job = draft.create('job', BEGINNING, jobOf(lists.EMP));
  const unit = (name: string, parentId: number | null): number =>
    draft.create('unit', START, {
      code: name,
      name,
      kindId: lists.TEAM,
      parentId,
      legalEntityId: parentId === null ? entity.fi : null,
    });
  const company = unit('Company', null);
  const harbour = unit('Harbour', company);
  const units = { company, harbour, terminal: unit('Terminal', harbour) };
  const position = (
    unitId: number,
    title: string,
    more: Partial<Values<'position'>> = {},
    limits: Partial<Values<'position_limits'>> = {},
  ): number => {
    const own = { code: title, title, jobId: job, unitId, standing: 'in_force' as const, temporary: false };
    const id = draft.create('position', START, {
      ...own,
      madeOnHire: false,
      confirmedTop: false,
      sources: {},
      ...more,
    });
    const period = { from: START, until: OPEN as Bound };
    draft.begin('position_limits', id, period, { places: 1, fte: 100, handoverDays: 0, ...limits });
    return id;
  };
  const hired = (
    name: string,
    positionId: number,
    firstDay: string,
    more: Partial<HireInput> = {},
  ): Hired => {
    const contacts = [{ kind: 'phone' as const, value: '+000 11111' }];
    const person = { number: name, name: { given: name }, contacts };
    return hire(draft, {
      person,
      positionId,
      firstDay,
      pay: [],
      reasonId: null,
      ...more,
    } as HireInput) as Hired;
  };
  const head = (unitId: number, positionId: number): void =>
    draft.set('unit', unitId, { from: START, values: { headPositionId: positionId } });
  return { register, draft, lists, entity, job, units, unit, position, hired, head };
};

export type SmallWorld = ReturnType<typeof smallWorld>;
