import { z } from 'zod';
import { Contact, Person, PersonName } from '../people/person';
import { Contract, Pay } from '../people/employment';
import { Day } from '../time/day';
import { Id, Text } from '../time/section';

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

/** The terms a hire brings; what is left out comes from position, job and unit. */
export const HireInput = z.strictObject({
  person: z.union([NewPerson, z.strictObject({ id: Id })]),
  firstDay: Day,
  lastDay: Day.nullable().optional(),
  /** A vacant position, or, where hires need none, a unit and a job. */
  positionId: Id.optional(),
  unitId: Id.optional(),
  jobId: Id.optional(),
  locationId: Id.optional(),
  legalEntityId: Id.optional(),
  workerTypeId: Id.optional(),
  /** Hours a week, in hundredths; left out: those of the position, else full time. */
  hours: z.int().min(0).max(16800).optional(),
  contract: Contract.omit({ employmentId: true }).partial().required({ kindId: true }).optional(),
  pay: z
    .array(Pay.omit({ employmentId: true, reasonId: true }))
    .max(20)
    .default([]),
  reasonId: Id.nullable().default(null),
  seniorityDate: Day.nullable().optional(),
  reason: Text.optional(),
});
export type HireInput = z.infer<typeof HireInput>;

/** A permanent transfer from its first day. */
export const TransferInput = z.strictObject({
  personId: Id,
  firstDay: Day,
  positionId: Id.optional(),
  unitId: Id.optional(),
  jobId: Id.optional(),
  locationId: Id.optional(),
  hours: z.int().min(0).max(16800).optional(),
  /** New pay from the first day; left out: pay goes on as it is. */
  pay: z
    .array(Pay.omit({ employmentId: true, reasonId: true }))
    .max(20)
    .optional(),
  reasonId: Id.nullable().default(null),
  reason: Text.optional(),
});
export type TransferInput = z.infer<typeof TransferInput>;

/** The end of an employment with its last day. */
export const LeaveInput = z.strictObject({
  employmentId: Id,
  lastDay: Day,
  reasonId: Id,
  mayReturn: z.boolean().default(true),
  returnReason: Text.nullable().default(null),
  reason: Text.optional(),
});
export type LeaveInput = z.infer<typeof LeaveInput>;

/** A value of a slip with where it came from. */
export const SlipValue = z.object({
  field: z.string(),
  before: z.union([z.string(), z.number(), z.null()]),
  after: z.union([z.string(), z.number(), z.null()]),
  /** Names of the things that `before` and `after` are ids of, as far as the viewer may see them. */
  beforeName: z.string().optional(),
  afterName: z.string().optional(),
  source: z.enum(['typed', 'position', 'unit', 'job', 'location', 'organisation', 'before']),
});
export type SlipValue = z.infer<typeof SlipValue>;
