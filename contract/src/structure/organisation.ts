import { z } from 'zod';
import {
  Hundredths,
  byMovement,
  choice,
  choices,
  country,
  currency,
  day,
  currencyCode,
  decimalAbove,
  hours,
  month,
  quiet,
  refTo,
  section,
  text,
  textAs,
  timeZone,
  weekday,
} from '../time/section';

/** Days of the week, Monday first. */
export const weekdays = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'] as const;
export type Weekday = (typeof weekdays)[number];

/** The organisation's own settings; those that enter figures are dated like all else. */
export const Organisation = z.strictObject({
  name: text(),
  /** The logo, by the digest of its bytes. */
  logo: quiet(text()).nullable(),
  /** As it stands on letters, several lines. */
  address: textAs(z.string().trim().min(1).max(500), { long: true }).nullable(),
  country: country(),
  timeZone: timeZone(),
  languages: choices('en', 'de'),
  dateFormat: choice('D MMM YYYY', 'DD.MM.YYYY', 'YYYY-MM-DD', 'DD/MM/YYYY', 'MM/DD/YYYY'),
  /** None: as the reader's language writes them. */
  numberFormat: choice('1,234.56', '1.234,56', '1 234,56', '1’234.56').nullable(),
  currency: currency(),
  fiscalMonth: month(),
  weekStart: weekday(),
  /** Days on which work is done where nothing else is said; none said: Monday to Friday. */
  workingDays: choices(...weekdays).nullable(),
  /** Full-time hours a week where neither agreement nor location says otherwise. */
  fullTime: byMovement('change_full_time', hours(Hundredths.min(1))),
  /** First day for which figures are complete. */
  figuresFrom: day(),
});
export type Organisation = z.infer<typeof Organisation>;
/** There is one; seen by everybody with the right. */
export const organisation = section('organisation', 'organisation', Organisation, { scope: 'everybody' });

/** A day on which nobody works at a location; without one, nowhere. */
export const Holiday = z.strictObject({
  day: day(),
  name: text(),
  locationId: refTo('location').nullable(),
});
export type Holiday = z.infer<typeof Holiday>;
/** Seen by everybody with the right. */
export const holiday = section('holiday', 'holiday', Holiday, { scope: 'everybody' });

/** So many units of a currency for one of the organisation's own, from a day on, as banks publish it. */
export const ExchangeRate = z.strictObject({
  /** The currency; there is one rate of each a day. */
  code: currencyCode(),
  rate: decimalAbove(0),
});
export type ExchangeRate = z.infer<typeof ExchangeRate>;
/** One of each currency; a new rate is a version of it. */
export const exchangeRate = section('exchange_rate', 'exchange_rate', ExchangeRate, { scope: 'everybody' });
