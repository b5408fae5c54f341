import { z } from 'zod';
import {
  ListName,
  Text,
  choice,
  choiceOf,
  code,
  json,
  refTo,
  section,
  text,
  whole,
  yesNo,
  constant,
} from '../time/section';

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
});
export type OwnField = z.infer<typeof OwnField>;
/** Entries of it define the catalogue. */
export const ownField = section('own_field', 'own_field', OwnField, { owner: 'sectionId' });
