import { z } from 'zod';
import { choice, country, day, file, list, refsTo, text, textAs, whole } from '../time/section';

/** An honour given to one person, or by one order to many. */
export const GiveHonourInput = z.strictObject({
  personIds: refsTo('person'),
  honourId: list('honour'),
  awardedOn: day(),
  /** Of one person; left out: the next one by its date. */
  ordinal: whole(1, 999).nullable().optional(),
  issuer: text().nullable().optional(),
  country: country().nullable().optional(),
  orderKind: choice('internal', 'state', 'foreign').nullable().optional(),
  orderNumber: textAs(z.string().trim().min(1).max(60)).nullable().optional(),
  orderedOn: day().nullable().optional(),
  expiresOn: day().nullable().optional(),
  evidence: file().nullable().optional(),
  notes: textAs(z.string().trim().min(1).max(4000), { long: true }).nullable().optional(),
  reason: text().optional(),
});
export type GiveHonourInput = z.infer<typeof GiveHonourInput>;
