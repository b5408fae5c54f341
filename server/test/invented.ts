// Sections that no release has, declared as any other is: what tests of the house stand on. Workers load this module too.
import { z } from 'zod';
import {
  Catalogue,
  Hundredths,
  type Kind,
  type Section,
  choice,
  code,
  country,
  currency,
  day,
  decimal,
  field,
  hours,
  json,
  list,
  presetSections,
  refTo,
  refToPast,
  section,
  share,
  text,
  textAs,
  timeZone,
  whole,
  yesNo,
} from '@gremium/contract';

const kind = (name: string) => name as Kind;

/** Of a person, several at a time, seen on its own days: a field of every kind there is. */
export const voyage = section(
  'voyage',
  kind('voyage'),
  z.strictObject({
    personId: refTo('person', { followed: true }),
    name: text(),
    code: code().nullable(),
    note: textAs(z.string().max(4000), { long: true }).nullable(),
    email: field(z.string().max(200), { is: 'email' }).nullable(),
    phone: field(z.string().max(40), { is: 'phone' }).nullable(),
    link: field(z.string().max(400), { is: 'link' }).nullable(),
    language: field(z.string().max(5), { is: 'language' }).nullable(),
    bookedOn: day().nullable(),
    passengers: whole(0, 9999).nullable(),
    watch: hours(Hundredths).nullable(),
    part: share(Hundredths).nullable(),
    price: decimal().nullable(),
    paid: yesNo().nullable(),
    country: country().nullable(),
    currency: currency().nullable(),
    zone: timeZone().nullable(),
    rank: choice('deck', 'engine').nullable(),
    reasonId: list('reason').nullable(),
    reasonIds: field(z.array(z.int().positive()), { is: 'lists', list: 'reason' }).nullable(),
    unitId: refTo('unit').nullable(),
    beforeId: refToPast(kind('voyage')).nullable(),
    extras: json(z.strictObject({ seats: z.array(z.string()) })).nullable(),
  }),
  { owner: 'personId', scope: 'own_days' },
) as unknown as Section;

/** Beside a position, one at a time. */
export const berth = section(
  'berth',
  'position',
  z.strictObject({ name: text(), beds: whole(1, 8).nullable() }),
) as unknown as Section;

/** Of what is itself of an employment: it is where that is, and ends with it. */
export const payNote = section(
  'pay_note',
  kind('pay_note'),
  z.strictObject({ payId: refTo('pay', { followed: true }), note: text() }),
  { owner: 'payId', endsWithOwner: true },
) as unknown as Section;

/** Of a person, sensitive: no role gives it unless it is named. */
export const scar = section(
  'scar',
  kind('scar'),
  z.strictObject({ personId: refTo('person', { followed: true }), where: text() }),
  { owner: 'personId', sensitive: true, rare: true },
) as unknown as Section;

export const catalogue = new Catalogue([...presetSections, voyage, berth, payNote, scar]);

export const invented = { catalogue, from: import.meta.url };
