// What else is kept of a person and of their employments: each a section, so that lists, filters, files, rights and the journal have it
// at once.
import { z } from 'zod';
import { Day } from '../time/day';
import {
  Hundredths,
  choice,
  country,
  currency,
  day,
  decimal,
  field,
  file,
  hours,
  list,
  refTo,
  section,
  share,
  text,
  textAs,
  whole,
} from '../time/section';

const ofPerson = () => refTo('person', { followed: true });
const ofEmployment = () => refTo('employment', { followed: true });
const mine = { owner: 'personId', untold: true } as const;
/** Closed unless a role names it. */
const guarded = { owner: 'personId', untold: true, sensitive: true } as const;
const terms = { owner: 'employmentId', endsWithOwner: true, continues: true, notByOneself: true } as const;

const short = (most = 200) => textAs(z.string().trim().min(1).max(most));
const long = (most = 4000) => textAs(z.string().trim().min(1).max(most), { long: true });

/** Of one employment alone: another legal entity pays and numbers anew. */
const ofOne = { ...terms, continues: false } as const;

/** Where somebody lives, or gets their post. */
export const PostalAddress = z.strictObject({
  personId: ofPerson(),
  use: choice('home', 'post', 'other'),
  street: long(400),
  postcode: short(20).nullable(),
  city: short(),
  region: short().nullable(),
  country: country(),
});
/** Its section. */
export const postalAddress = section('postal_address', 'postal_address', PostalAddress, mine);

/** Whom to call when something happened; the lowest number first. */
export const EmergencyContact = z.strictObject({
  personId: ofPerson(),
  contactName: short(),
  relationId: list('relation').nullable(),
  phone: short(60),
  email: short().nullable(),
  order: whole(1, 9).nullable(),
});
/** Its section. */
export const emergencyContact = section('emergency_contact', 'emergency_contact', EmergencyContact, mine);

/** Somebody who depends on them. */
export const Dependant = z.strictObject({
  personId: ofPerson(),
  dependantName: short(),
  relationId: list('relation'),
  birthDate: field(Day, { is: 'day', birth: 'kin' }).nullable(),
  notes: long().nullable(),
});
/** Its section. */
export const dependant = section('dependant', 'dependant', Dependant, mine);

/** A number by which somebody is known elsewhere, or a permit: by whom, for which country, how long. */
export const Identifier = z.strictObject({
  personId: ofPerson(),
  kindId: list('identifier_kind'),
  number: textAs(z.string().trim().min(1).max(60), { looked: true }),
  issuer: short().nullable(),
  country: country().nullable(),
  issuedOn: day().nullable(),
  expiresOn: day().nullable(),
});
/** Its section. */
export const identifier = section('identifier', 'identifier', Identifier, guarded);

/** Where what they are paid goes to. */
export const BankAccount = z.strictObject({
  personId: ofPerson(),
  purpose: choice('pay', 'expenses'),
  holder: short().nullable(),
  account: textAs(
    z
      .string()
      .trim()
      .overwrite((typed) => typed.replace(/\s+/g, '').toUpperCase())
      .min(4)
      .max(40),
  ),
  bankCode: short(20).nullable(),
  bank: short().nullable(),
  currency: currency().nullable(),
});
/** Its section. */
export const bankAccount = section('bank_account', 'bank_account', BankAccount, guarded);

/** A status that a law protects, as long as it holds. */
export const ProtectedStatus = z.strictObject({
  personId: ofPerson(),
  kindId: list('protected_status'),
  country: country().nullable(),
  expiresOn: day().nullable(),
  notes: long().nullable(),
});
/** Its section. */
export const protectedStatus = section('protected_status', 'protected_status', ProtectedStatus, guarded);

/** Something paid once. */
export const OneOffPayment = z.strictObject({
  employmentId: ofEmployment(),
  kindId: list('pay_kind'),
  amount: decimal(),
  currency: currency(),
  paidOn: day(),
  reasonId: list('reason').nullable(),
});
/** Its section. */
export const oneOffPayment = section('one_off_payment', 'one_off_payment', OneOffPayment, ofOne);

/** What part of an employment is booked to what: exactly all of it on each day (law `cost_split_whole`). */
export const CostSplit = z.strictObject({
  employmentId: ofEmployment(),
  costCentreId: refTo('cost_centre'),
  /** In hundredths: 100 is the whole. */
  part: share(Hundredths.min(1).max(100)),
});
export type CostSplit = z.infer<typeof CostSplit>;
/** Its section. */
export const costSplit = section('cost_split', 'cost_split', CostSplit, terms);

/** A certificate somebody holds. */
export const HeldCertificate = z.strictObject({
  personId: ofPerson(),
  certificateId: list('certificate'),
  number: short(60).nullable(),
  issuer: short().nullable(),
  issuedOn: day().nullable(),
  expiresOn: day().nullable(),
  evidence: file().nullable(),
});
export type HeldCertificate = z.infer<typeof HeldCertificate>;
/** Its section. */
export const heldCertificate = section('held_certificate', 'held_certificate', HeldCertificate, mine);

/** What somebody can do, from 1 (knows of it) to 5 (teaches it). */
export const HeldSkill = z.strictObject({
  personId: ofPerson(),
  skillId: list('skill'),
  level: whole(1, 5).nullable(),
  assessedOn: day().nullable(),
});
/** Its section. */
export const heldSkill = section('held_skill', 'held_skill', HeldSkill, mine);

/** What somebody learned before. */
export const HeldEducation = z.strictObject({
  personId: ofPerson(),
  educationId: list('education'),
  institution: short().nullable(),
  studied: short().nullable(),
  completedOn: day().nullable(),
});
/** Its section. */
export const heldEducation = section('held_education', 'held_education', HeldEducation, mine);

/** A language somebody speaks, by the levels of the Council of Europe. */
export const SpokenLanguage = z.strictObject({
  personId: ofPerson(),
  language: field(z.string().min(2).max(5), { is: 'language' }),
  spoken: choice('a1', 'a2', 'b1', 'b2', 'c1', 'c2', 'native'),
});
/** Its section. */
export const spokenLanguage = section('spoken_language', 'spoken_language', SpokenLanguage, mine);

/** A training somebody took part in. */
export const Training = z.strictObject({
  personId: ofPerson(),
  trainingId: list('training'),
  provider: short().nullable(),
  completedOn: day().nullable(),
  outcome: choice('attended', 'passed', 'failed').nullable(),
  expiresOn: day().nullable(),
  evidence: file().nullable(),
});
/** Its section. */
export const attendedTraining = section('attended_training', 'attended_training', Training, mine);

/** Whether somebody is fit for their work. */
export const MedicalFitness = z.strictObject({
  personId: ofPerson(),
  kindId: list('medical'),
  fitness: choice('fit', 'fit_with_limits', 'unfit'),
  examinedOn: day(),
  expiresOn: day().nullable(),
  limits: long().nullable(),
});
/** Its section. */
export const medicalFitness = section('medical_fitness', 'medical_fitness', MedicalFitness, {
  ...guarded,
  notByOneself: true,
});

/** A disciplinary measure, until the day it lapses. */
export const Measure = z.strictObject({
  personId: ofPerson(),
  kindId: list('measure'),
  imposedOn: day(),
  ground: long(),
  lapsesOn: day().nullable(),
});
/** Its section. */
export const disciplinaryMeasure = section('disciplinary_measure', 'disciplinary_measure', Measure, {
  ...guarded,
  notByOneself: true,
});

/** A long absence: what is not worked of the primary place. Why somebody is away is said here alone; placements say how much. */
export const Absence = z.strictObject({
  employmentId: ofEmployment(),
  kindId: list('absence_kind'),
  /** Hours a week away; none: all there are. */
  hours: hours(Hundredths.min(1)).nullable(),
  /** Hours a week that are worked already, step by step, before it is over. */
  workedAgain: hours(Hundredths.min(1)).nullable(),
  /** When it is expected to end, where it has no last day. */
  expectedUntil: day().nullable(),
  notes: long().nullable(),
});
export type Absence = z.infer<typeof Absence>;
/** Its section. */
export const absence = section('absence', 'absence', Absence, {
  ...terms,
  sensitive: true,
  untold: true,
});

/** Something of ours that somebody has. */
export const Asset = z.strictObject({
  personId: ofPerson(),
  kindId: list('asset_kind'),
  label: short(),
  serial: short(80).nullable(),
  givenOn: day(),
  returnedOn: day().nullable(),
});
/** Its section. */
export const asset = section('asset', 'asset', Asset, mine);

/** What somebody has beside their pay. */
export const Benefit = z.strictObject({
  employmentId: ofEmployment(),
  kindId: list('benefit'),
  amount: decimal().nullable(),
  currency: currency().nullable(),
  basis: choice('month', 'year').nullable(),
  notes: long().nullable(),
});
/** Its section. */
export const benefit = section('benefit', 'benefit', Benefit, terms);

/** Where somebody is found elsewhere. */
export const ProfileLink = z.strictObject({
  personId: ofPerson(),
  about: short(60),
  address: field(
    z
      .string()
      .trim()
      .max(400)
      .regex(/^https?:\/\/\S+$/, { error: 'link_invalid' }),
    { is: 'link' },
  ),
});
/** Its section. */
export const profileLink = section('profile_link', 'profile_link', ProfileLink, mine);

/** A note about somebody: seen by whoever is given the section. */
export const Note = z.strictObject({
  personId: ofPerson(),
  about: short(120),
  notes: long(),
});
/** Its section. */
export const note = section('note', 'note', Note, guarded);

/** A file about somebody: seen by whoever sees their records, and by themselves. */
export const Document = z.strictObject({
  personId: ofPerson(),
  title: short(),
  kindId: list('document_kind').nullable(),
  folder: short(80).nullable(),
  file: file(),
  documentedOn: day().nullable(),
  expiresOn: day().nullable(),
  notes: long().nullable(),
});
/** Its section. */
export const document = section('document', 'document', Document, { ...mine, rare: true });

/** A file about somebody that only those see whose role names it. */
export const confidentialDocument = section('confidential_document', 'confidential_document', Document, {
  ...guarded,
  notByOneself: true,
  rare: true,
});

/** What somebody says of themselves because a law asks for it: told to nobody else but in figures of five or more. */
export const DeclaredFact = z.strictObject({
  personId: ofPerson(),
  factId: list('declared_fact'),
  country: country().nullable(),
});
/** Its section. */
export const declaredFact = section('declared_fact', 'declared_fact', DeclaredFact, {
  ...guarded,
  byOneself: true,
});

/** The number of an employment in a payroll. */
export const PayrollNumber = z.strictObject({
  employmentId: ofEmployment(),
  originId: list('origin').nullable(),
  number: textAs(z.string().trim().min(1).max(40), { looked: true }),
});
/** Its section. */
export const payrollNumber = section('payroll_number', 'payroll_number', PayrollNumber, ofOne);

/** An honour somebody was given; its kind says what it demands. */
export const Award = z.strictObject({
  personId: ofPerson(),
  honourId: list('honour'),
  awardedOn: day(),
  /** Which of its series it is. */
  ordinal: whole(1, 999).nullable(),
  issuer: text().nullable(),
  country: country().nullable(),
  orderNumber: short(60).nullable(),
  orderedOn: day().nullable(),
  expiresOn: day().nullable(),
  /** Taken back, by an order of its own. */
  takenBackOn: day().nullable(),
  takenBackOrder: short(60).nullable(),
  notes: long().nullable(),
  /** The document that proves it. */
  evidence: file().nullable(),
  orderKind: choice('internal', 'state', 'foreign').nullable(),
});
export type Award = z.infer<typeof Award>;
/** Its section. */
export const award = section('award', 'award', Award, { ...mine, notByOneself: true });

/** All of them by their names, in the order of reading. */
export const recordSections = {
  postal_address: postalAddress,
  emergency_contact: emergencyContact,
  dependant,
  held_certificate: heldCertificate,
  held_skill: heldSkill,
  held_education: heldEducation,
  spoken_language: spokenLanguage,
  attended_training: attendedTraining,
  award,
  asset,
  profile_link: profileLink,
  document,
  identifier,
  bank_account: bankAccount,
  protected_status: protectedStatus,
  medical_fitness: medicalFitness,
  disciplinary_measure: disciplinaryMeasure,
  note,
  confidential_document: confidentialDocument,
  declared_fact: declaredFact,
  cost_split: costSplit,
  one_off_payment: oneOffPayment,
  benefit,
  payroll_number: payrollNumber,
  absence,
} as const;
