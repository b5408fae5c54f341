// What the cells of a row mean as terms of an employment: place, hours, contract, pay; and whether they fit each other.
import type { Contract, Day, Fault, HireInput, ImportField, Pay, Problem } from '@gremium/contract';
import { fullTimeOf, inherited } from '../structure/tree';
import type { Draft } from '../time/draft';
import { problem } from '../time/problem';
import type { Choice, LookUps } from './look-ups';
import type { Said } from './read-row';
import type { People } from './recognise';

/** A row that was read, and whom it is about (null: somebody new). */
export type Asked = { said: Said; personId: number | null; on: Day };

/** What rows are applied with. */
export type Applying = { lookUps: LookUps; people: People; nextNumber: () => string; today: Day };

/** What applying a row came to. */
export type Applied = {
  what: 'hire' | 'move' | 'other';
  personId: number | null;
  /** The day from which the row holds. */
  on: Day;
  faults: Fault[];
  warnings: Problem[];
};

/** A problem at a field of a row, with readings to choose from. */
export const fault = (field: ImportField, found: Problem, ...offers: string[]): Fault => ({
  field,
  problem: found,
  offers,
});

// In no unit: what the organisation says.
const NOWHERE = { unitId: 0 };

/** Full-time hours where a row places somebody: by the agreement, by the position's location, else the row's or the unit's. */
const fullTimeFor = (draft: Draft, { said, on }: Asked): number => {
  const { register } = draft;
  const position =
    said.position === undefined
      ? { unitId: said.unit ?? 0, locationId: said.location ?? null }
      : register.at('position', said.position, on);
  return fullTimeOf(register, position ?? NOWHERE, on).hours;
};

/** Weekly hours as a row says them: by hours, or by a share of full time. */
export const hoursOf = (
  draft: Draft,
  asked: Asked,
  fullTime = fullTimeFor(draft, asked),
): number | undefined => {
  const { hours, fte } = asked.said;
  if (hours !== undefined) return hours;
  return fte === undefined ? undefined : Math.round((fte * fullTime) / 100);
};

type Terms = Omit<HireInput, 'person' | 'firstDay'>;

// What a hire needs beside the person; null where a part of it is missing.
/** The terms that a row asks for; null, with faults, where they cannot be. */
export const termsOf = (draft: Draft, asked: Asked, faults: Fault[]): Terms | null => {
  const { said } = asked;
  const contract = contractOf(draft, asked);
  if (contract === 'kind_missing') faults.push(fault('contract', problem('value_missing')));
  const pay = payOf(draft, asked, said.legalEntity ?? entityOf(draft, asked));
  if (pay === 'currency_missing') faults.push(fault('currency', problem('value_missing')));
  if (said.position === undefined && said.unit === undefined)
    faults.push(fault('position', problem('value_missing')));
  const hours = hoursOf(draft, asked);
  if (faults.length > 0 || contract === 'kind_missing' || pay === 'currency_missing') return null;
  const needs = said.position === undefined && said.unit !== undefined;
  return {
    ...optional({
      positionId: said.position,
      unitId: needs ? said.unit : undefined,
      jobId: needs ? said.job : undefined,
      locationId: needs ? said.location : undefined,
      legalEntityId: said.legalEntity,
      workerTypeId: said.workerType,
      hours,
      contract: contract ?? undefined,
      seniorityDate: said.seniorityDate,
    }),
    lastDay: said.lastDay ?? null,
    pay: pay ? [pay] : [],
    reasonId: said.reason ?? null,
  };
};

// Leaves out what is undefined.
/** The fields that have a value. */
export const optional = <T extends object>(fields: T): { [K in keyof T]?: Exclude<T[K], undefined> } =>
  Object.fromEntries(Object.entries(fields).filter(([, value]) => value !== undefined)) as never;

const entityOf = ({ register }: Draft, { said, on }: Asked): number | null => {
  const position =
    said.position === undefined
      ? said.unit === undefined
        ? undefined
        : { unitId: said.unit, locationId: null, costCentreId: null, legalEntityId: null }
      : register.at('position', said.position, on);
  return position ? inherited(register, position, 'legalEntityId', on).value : null;
};

type Probation = Pick<Contract, 'fixedUntil' | 'probationUntil' | 'probation'>;

/** What a row says of probation and fixed term. */
export const probationOf = ({ fixedUntil, probationUntil }: Said): Partial<Probation> => ({
  ...optional({ fixedUntil, probationUntil }),
  ...(probationUntil === undefined
    ? {}
    : { probation: probationUntil === null ? null : ('running' as const) }),
});

/** The contract that a row asks for. */
export const contractOf = (
  { register }: Draft,
  { said, on }: Asked,
): (Partial<Contract> & { kindId: number }) | 'kind_missing' | null => {
  const { contract, fixedUntil, probationUntil } = said;
  if (contract === undefined && !fixedUntil && !probationUntil) return null;
  const unitId = said.unit ?? register.at('position', said.position ?? 0, on)?.unitId;
  const usual = unitId === undefined ? null : register.at('unit_hiring', unitId, on)?.contractKindId;
  const kindId = contract ?? usual ?? null;
  return kindId === null ? 'kind_missing' : { kindId, ...probationOf(said) };
};

/** One pay component as a row says it. */
export type Component = Omit<Pay, 'employmentId' | 'reasonId' | 'step' | 'timesAYear' | 'paidEvery'>;

/** The base pay component of the organisation: what pay is where a file does not say. */
const basePay = ({ register }: Draft): number | null => {
  for (const { thing, values } of register.all('list_entry'))
    if (values.list === 'pay_kind' && values.flags.base) return thing;
  return null;
};

/** The pay that a row asks for. */
export const payOf = (
  draft: Draft,
  { said, on }: Asked,
  entityId: number | null,
): Component | 'currency_missing' | null => {
  if (said.pay === undefined) return null;
  const kindId = said.payKind ?? basePay(draft);
  const usual = entityId === null ? undefined : draft.register.at('legal_entity', entityId, on)?.currency;
  const currency = said.currency ?? usual;
  if (kindId === null || currency === undefined) return 'currency_missing';
  return { kindId, amount: said.pay, currency, basis: said.basis ?? 'month', rate: 'full_time' };
};

// A file may say unit, job and location beside the position: they must be what the position says.
/** Faults where a row names a place that differs from the position it names. */
export const comparePlace = (
  { register }: Draft,
  { said, on }: Asked,
  lookUps: LookUps,
  { positionId, faults }: { positionId: number | undefined; faults: Fault[] },
): void => {
  const position = positionId === undefined ? undefined : register.at('position', positionId, on);
  if (!position) return;
  const values: [ImportField & keyof Said, Choice, number | null][] = [
    ['unit', 'unit', position.unitId],
    ['job', 'job', position.jobId],
    ['location', 'location', inherited(register, position, 'locationId', on).value],
  ];
  for (const [field, choice, value] of values) {
    if (said[field] === undefined || said[field] === value) continue;
    const now = value === null ? '–' : lookUps.codeOf(choice, value, on);
    faults.push(fault(field, problem('place_differs', { now }), ...(value === null ? [] : [now])));
  }
};
