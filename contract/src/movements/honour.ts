import { z } from 'zod';
import { Award } from '../people/records';
import { day, list, refsTo, text } from '../time/section';

// What may be left out of an honour is as its section has it.
const said = Award.partial().shape;

/** An honour given to one person, or by one order to many. */
export const GiveHonourInput = z.strictObject({
  personIds: refsTo('person'),
  honourId: list('honour'),
  awardedOn: day(),
  /** Of one person; left out: the next one by its date. */
  ordinal: said.ordinal,
  issuer: said.issuer,
  country: said.country,
  orderKind: said.orderKind,
  orderNumber: said.orderNumber,
  orderedOn: said.orderedOn,
  expiresOn: said.expiresOn,
  evidence: said.evidence,
  notes: said.notes,
  reason: text().optional(),
});
export type GiveHonourInput = z.infer<typeof GiveHonourInput>;
