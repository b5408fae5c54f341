import { z } from 'zod';
import { Contract } from '../people/employment';
import { OneOffPayment } from '../people/records';
import { choice, day, list, refTo, text } from '../time/section';
import { PayInput, target, workedHours } from './hire';

const { kindId, fixedUntil, fixedGround, daysAWeek, probationUntil, probation } = Contract.partial().shape;
const { noticeByEmployeeDays, noticeByEmployerDays, signedOn } = Contract.partial().shape;

/**
 * Other terms of an employment from a day: hours, contract, and what is paid for them. What is left out stays. Hours of a last day
 * are what they were before again after it; a contract and pay are not for a time.
 */
export const ChangeTermsInput = z.strictObject({
  employmentId: refTo('employment'),
  firstDay: day(),
  /** The last day of the other hours; none: for good. */
  lastDay: day().nullable().optional(),
  hours: workedHours().optional(),
  contract: z
    .strictObject({
      ...{ kindId, fixedUntil, fixedGround, daysAWeek, probationUntil, probation },
      ...{ noticeByEmployeeDays, noticeByEmployerDays, signedOn },
    })
    .optional(),
  pay: z.array(PayInput).max(20).optional(),
  above: target.above,
  reasonId: list('reason').nullable().default(null),
  reason: text().optional(),
});
export type ChangeTermsInput = z.infer<typeof ChangeTermsInput>;

/** An employment goes on: to a later last day, or without one; what ended with it goes on with it. */
export const ExtendInput = z.strictObject({
  employmentId: refTo('employment'),
  /** The last day as it is then; null: it goes on without one. */
  lastDay: day().nullable().optional(),
  /** From the day after the old last day; left out: the contract goes on, fixed until the new one. */
  contractKindId: list('contract_kind').optional(),
  fixedGround: text().nullable().optional(),
  above: target.above,
  reason: text().optional(),
});
export type ExtendInput = z.infer<typeof ExtendInput>;

/** Other pay from a day: each component takes the place of the one of its kind; others go on. */
export const ChangePayInput = z.strictObject({
  employmentId: refTo('employment'),
  firstDay: day(),
  /** What is left out of a component is as the one before has it. */
  pay: z.array(PayInput).max(20).default([]),
  /** Changes of these components that are planned for later days; left out: kept, with a word. */
  laterOnes: choice('keep', 'replace').optional(),
  reasonId: list('reason').nullable().default(null),
  reason: text().optional(),
});
export type ChangePayInput = z.infer<typeof ChangePayInput>;

const once = OneOffPayment.shape;

/** Something paid once. */
export const PayOnceInput = z.strictObject({
  employmentId: refTo('employment'),
  paidOn: day(),
  kindId: list('pay_kind'),
  amount: once.amount,
  /** Left out: that of the legal entity. */
  currency: once.currency.optional(),
  reasonId: list('reason').nullable().default(null),
  reason: text().optional(),
});
export type PayOnceInput = z.infer<typeof PayOnceInput>;
