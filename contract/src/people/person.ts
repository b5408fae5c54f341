import { z } from 'zod';
import { Day } from '../time/day';
import { Country, Text, refTo, section } from '../time/section';

export const Person = z.strictObject({
  /** Given once and never used again. */
  number: z.string().trim().min(1).max(20),
  birthDate: Day.nullable(),
  gender: z.enum(['female', 'male', 'other']).nullable(),
  nationality: Country.nullable(),
  language: z.string().min(2).max(5).nullable(),
});
export type Person = z.infer<typeof Person>;
export const person = section('person', 'person', Person);

const Part = Text.nullable();
/** Dated names; one name alone is allowed. */
export const PersonName = z.strictObject({
  given: Part,
  middle: Part,
  family: Part,
  prefix: Part,
  birthName: Part,
  preferred: Part,
  sortName: Part,
});
export type PersonName = z.infer<typeof PersonName>;
export const personName = section('person_name', 'person', PersonName);

export const ContactKind = z.enum(['email', 'phone', 'address']);
export type ContactKind = z.infer<typeof ContactKind>;

export const Contact = z.strictObject({
  personId: refTo('person'),
  kind: ContactKind,
  use: z.enum(['work', 'private']),
  value: z.string().trim().min(3).max(400),
  primary: z.boolean(),
});
export type Contact = z.infer<typeof Contact>;
export const contact = section('contact', 'contact', Contact);
