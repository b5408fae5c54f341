import { z } from 'zod';
import { Contract, Employment, Pay } from '../people/employment';
import { Contact, Person, PersonName } from '../people/person';

import { choice, day, hours, list, refTo, text } from '../time/section';

const part = <T extends z.ZodRawShape>(shape: z.ZodObject<T>) => shape.partial();

/** Someone not yet on the register: a name, and one contact, are enough. */
export const NewPerson = z.strictObject({
  /** Proposed by the server if left out. */
  number: Person.shape.number.optional(),
  name: part(PersonName),
  birthDate: Person.shape.birthDate.optional(),
  gender: Person.shape.gender.optional(),
  nationality: Person.shape.nationality.optional(),
  language: Person.shape.language.optional(),
  contacts: z.array(Contact.omit({ personId: true }).partial({ use: true, primary: true })).max(20),
});
export type NewPerson = z.infer<typeof NewPerson>;

/** A pay component of a movement: what is left out is base pay, in the legal entity's currency, a month, at full time. */
export const PayInput = Pay.omit({ employmentId: true, reasonId: true }).partial().required({ amount: true });
export type PayInput = z.infer<typeof PayInput>;

/** The hours of a movement, in hundredths a week. */
export const workedHours = () => hours(z.int().min(0).max(16800));

/** Where a movement goes: a position, or, where hires need none, a unit and a job. */
export const target = {
  positionId: refTo('position').optional(),
  unitId: refTo('unit').optional(),
  jobId: refTo('job').optional(),
  locationId: refTo('location').optional(),
  /** Left out: those of the position, else full time. */
  hours: workedHours().optional(),
  /** Above the limits of the position, by a right of its own: why, and when that is looked at again. */
  above: z.strictObject({ aboveReason: text(), reviewOn: day() }).partial().optional(),
};

/** The terms a hire brings; what is left out comes from position, job and unit. */
export const hireTerms = {
  firstDay: day(),
  lastDay: day().nullable().optional(),
  ...target,
  legalEntityId: refTo('legal_entity').optional(),
  workerTypeId: list('worker_type').optional(),
  contract: Contract.omit({ employmentId: true }).partial().optional(),
  pay: z.array(PayInput).max(20).default([]),
  reasonId: list('reason').nullable().default(null),
  seniorityDate: Employment.shape.seniorityDate.optional(),
  reason: text().optional(),
};

/** A hire: whom, from when, where, on what terms. */
export const HireInput = z.strictObject({
  person: z.union([NewPerson, z.strictObject({ id: refTo('person') })]),
  ...hireTerms,
  /** Values of own fields that a hire asks for, by their names. */
  own: z.record(z.string().regex(/^f\d{1,15}$/), z.unknown()).optional(),
});
export type HireInput = z.infer<typeof HireInput>;

/** Somebody known who comes back, with the old number. */
export const RehireInput = z.strictObject({ personId: refTo('person'), ...hireTerms });
export type RehireInput = z.infer<typeof RehireInput>;

/** A permanent transfer from its first day. */
export const TransferInput = z.strictObject({
  personId: refTo('person'),
  firstDay: day(),
  ...target,
  /** New pay from the first day; left out: pay goes on as it is. */
  pay: z.array(PayInput).max(20).optional(),
  wishedBy: choice('the_person', 'employer').optional(),
  reasonId: list('reason').nullable().default(null),
  reason: text().optional(),
});
export type TransferInput = z.infer<typeof TransferInput>;
