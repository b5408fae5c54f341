import { z } from 'zod';
import {
  Country,
  Hundredths,
  ListName,
  Text,
  choiceOf,
  code,
  json,
  refToPast,
  section,
  whole,
} from '../time/section';

/** What a reason of leaving counts as. */
export const ReasonClass = z.enum([
  'by_employee',
  'by_employer',
  'end_of_term',
  'retirement',
  'death',
  'other',
]);
export type ReasonClass = z.infer<typeof ReasonClass>;

/** What an entry means to the rules, beyond its label. Each list uses its own flags. */
export const Flags = z.strictObject({
  /** worker_type: is paid by us. */
  paid: z.boolean().optional(),
  /** worker_type: counts in headcount. */
  counted: z.boolean().optional(),
  /** worker_type: needs a supplier. */
  supplied: z.boolean().optional(),
  /** worker_type: needs no placement. */
  unplaced: z.boolean().optional(),
  /** reason: acts it may be chosen for. */
  acts: z.array(z.enum(['hire', 'transfer', 'leave', 'change', 'position'])).optional(),
  /** reason of leaving: its class. */
  class: ReasonClass.optional(),
  /** reason of a move that is not one of the person's (the unit was reorganised). */
  administrative: z.boolean().optional(),
  /** unit_kind: is a division. */
  division: z.boolean().optional(),
  /** agreement: full-time hours a week, in hundredths. */
  fullTime: Hundredths.min(1).max(16800).optional(),
  /** pay_kind: base pay. */
  base: z.boolean().optional(),
  /** absence_kind: stops the clock of pay steps. */
  stopsClock: z.boolean().optional(),
  /** absence_kind: who comes back step by step counts as away until the last step. */
  stepsAreAway: z.boolean().optional(),
  /** honour: the group it belongs to. */
  group: Text.max(60).optional(),
  /** honour: given to somebody once only. */
  once: z.boolean().optional(),
  /** honour: what must be said of it; certificate, training: `evidence` where it is to be there. */
  asks: z
    .array(z.enum(['orderNumber', 'orderedOn', 'country', 'issuer', 'ordinal', 'evidence', 'expiresOn']))
    .optional(),
  /** honour: given for so many whole years of service. */
  years: z.int().min(1).max(80).optional(),
  /** honour: the countries in which it is given. */
  countries: z.array(Country).min(1).optional(),
  /** unit_kind: its people work at sea. */
  atSea: z.boolean().optional(),
  /** honour: only for those who are paid by us. */
  paidOnly: z.boolean().optional(),
  /** declared_fact: what question it answers. */
  question: Text.max(60).optional(),
  /** education, certificate, skill: a higher one of the same series satisfies a lower one. */
  rank: z.int().min(1).max(99).optional(),
  /** certificate, skill: what it is one of, where a higher one satisfies a lower. */
  series: Text.max(40).optional(),
});
export type Flags = z.infer<typeof Flags>;

/** One choice of a list, with what it means to the rules. */
export const ListEntry = z.strictObject({
  list: choiceOf(ListName),
  code: code(),
  label: json(z.strictObject({ en: Text, de: Text })),
  flags: json(Flags),
  /** What it is meant for, in both languages. */
  meaning: json(z.strictObject({ en: Text, de: Text })).nullable(),
  /** Where it stands among the others of its list; without one by its label. */
  place: whole(0, 10_000).nullable(),
  /** The own field whose choice it is, in the list `own`. */
  ownFieldId: refToPast('own_field').nullable(),
});
export type ListEntry = z.infer<typeof ListEntry>;
/** Seen by everybody with the right. */
export const listEntry = section('list_entry', 'list_entry', ListEntry, { scope: 'everybody' });
