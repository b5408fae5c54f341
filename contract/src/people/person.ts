import { z } from 'zod';
import { Day } from '../time/day';
import {
  choice,
  choiceOf,
  country,
  field,
  list,
  quiet,
  refTo,
  section,
  text,
  textAs,
  yesNo,
} from '../time/section';

/** What hardly changes of a person. */
export const Person = z.strictObject({
  /** Given once and never used again. */
  number: textAs(z.string().trim().min(1).max(20), { looked: true }),
  birthDate: field(Day, { is: 'day', looked: true, birth: 'person' }).nullable(),
  gender: choice('female', 'male', 'other').nullable(),
  nationality: country().nullable(),
  language: field(z.string().min(2).max(5), { is: 'language' }).nullable(),
});
export type Person = z.infer<typeof Person>;
/** Seen where the person is now. */
export const person = section('person', 'person', Person, { scope: 'owner_now' });

const Part = text().nullable();
/** Dated names; one name alone is allowed. */
export const PersonName = z.strictObject({
  given: Part,
  middle: Part,
  prefix: Part,
  family: Part,
  preferred: Part,
  birthName: Part,
  sortName: Part,
  /** Before the name: Dr., Captain. */
  titleId: list('title').nullable(),
});
export type PersonName = z.infer<typeof PersonName>;
/** Beside the person, with days of its own. */
export const personName = section('person_name', 'person', PersonName);

/** The photo, by the digest of its bytes. */
export const PersonPhoto = z.strictObject({ picture: quiet(text()) });
export type PersonPhoto = z.infer<typeof PersonPhoto>;
/** Beside the person; the same on all days. */
export const personPhoto = section('person_photo', 'person', PersonPhoto, {
  scope: 'owner_now',
  rare: true,
  untold: true,
});

/** By what somebody is reached. */
export const ContactKind = z.enum(['email', 'phone', 'address']);
export type ContactKind = z.infer<typeof ContactKind>;

/** One way to reach somebody. */
export const Contact = z.strictObject({
  personId: refTo('person', { followed: true }),
  kind: choiceOf(ContactKind),
  use: choice('work', 'private'),
  value: textAs(z.string().trim().min(3).max(400), { looked: true }),
  primary: yesNo(),
});
export type Contact = z.infer<typeof Contact>;
/** Several at a time of a person. */
export const contact = section('contact', 'contact', Contact, { owner: 'personId', untold: true });
