import { z } from 'zod';
import {
  ListName,
  Text,
  choice,
  choices,
  choiceOf,
  code,
  decimal,
  json,
  refTo,
  section,
  text,
  textAs,
  whole,
  yesNo,
  constant,
} from '../time/section';

const roles = () => choices('administrator', 'specialist', 'auditor', 'manager', 'crew');

const Label = z.strictObject({ en: Text, de: Text });

/** A section that the organisation defined for itself. */
export const OwnSection = z.strictObject({
  code: code(),
  label: json(Label),
  /** What its rows are of. */
  of: constant(choice('person', 'position', 'unit', 'job')),
  /** Several at a time of one owner. */
  several: yesNo(),
  sensitive: yesNo(),
  /** Where it stands among the others. */
  place: whole(0, 10_000),
  /** Roles that see it, those of crew their own; empty: as roles see everything. */
  seenBy: roles().nullable(),
  /** Roles that record in it; they see it too. */
  editedBy: roles().nullable(),
  /** Nothing more is recorded in it; what was stays. */
  retired: yesNo().nullable(),
});
export type OwnSection = z.infer<typeof OwnSection>;
/** Entries of it define the catalogue. */
export const ownSection = section('own_section', 'own_section', OwnSection, { scope: 'everybody' });

/** Kinds of values that an own field can have. */
export const OwnKind = choice(
  'text',
  'long_text',
  'email',
  'phone',
  'link',
  'number',
  'money',
  'day',
  'yes_no',
  'list',
  'lists',
  'person',
  'unit',
  'location',
  'file',
);

/** A field of an own section. Its kind never changes. */
export const OwnField = z.strictObject({
  sectionId: refTo('own_section', { followed: true }),
  code: code(),
  label: json(Label),
  help: text().nullable(),
  kind: constant(OwnKind),
  /** Of what list its entries are; none: those made for it. */
  list: constant(choiceOf(ListName).nullable()),
  required: yesNo(),
  place: whole(0, 10_000),
  /** No two at a time of different owners say the same. */
  unique: yesNo().nullable(),
  /** How a text is formed: A is a letter, 0 a digit, everything else itself (`A-000`). */
  pattern: textAs(z.string().trim().min(1).max(60)).nullable(),
  /** Between which numbers a number lies, both allowed. */
  least: decimal().nullable(),
  most: decimal().nullable(),
  /** What it is where somebody begins a row, until they say otherwise. */
  usual: json(z.union([z.string().max(4000), z.number(), z.boolean()])).nullable(),
  /** A hire asks for it; of sections of people with one row at a time. */
  atHire: yesNo().nullable(),
  /** People and things are found by it. */
  searched: yesNo().nullable(),
  /** Nothing more is said in it; what was stays. */
  retired: yesNo().nullable(),
});
export type OwnField = z.infer<typeof OwnField>;
/** Entries of it define the catalogue. */
export const ownField = section('own_field', 'own_field', OwnField, { owner: 'sectionId' });

/** Sections whose entries define the catalogue. */
export const DEFINING = ['own_section', 'own_field', 'field_setting', 'role'] as const;

/** What the organisation says of one field, a preset one or its own: its words, whom it is hidden from, where it stands. */
export const FieldSetting = z.strictObject({
  /** The section that keeps it, by its name. */
  section: constant(textAs(z.string().regex(/^([a-z][a-z_]{1,59}|own\.\d{1,15})$/))),
  /** Its name in that section. */
  field: constant(textAs(z.string().regex(/^[a-z][A-Za-z0-9]{0,59}$/))),
  /** What it is called; left out of a preset one: as everywhere. */
  label: json(Label).nullable(),
  /** Roles that neither see it nor record in it. */
  hiddenFrom: roles().nullable(),
  /** Where it stands among the fields of its section. */
  place: whole(0, 10_000).nullable(),
  /** The section under which records show it; it is kept where it was. */
  shownIn: textAs(z.string().regex(/^([a-z][a-z_]{1,59}|own\.\d{1,15})$/)).nullable(),
});
export type FieldSetting = z.infer<typeof FieldSetting>;
/** Entries of it define the catalogue. */
export const fieldSetting = section('field_setting', 'field_setting', FieldSetting, { scope: 'everybody' });
