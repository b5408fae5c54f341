import { z } from 'zod';
import { Label } from '../measures/cross-table';
import { Day, Moment } from '../time/day';
import { Id } from '../time/section';
import { AccountRole } from './roles';
import { Act, Grant, Level } from './viewer';

/** How it stands with an account: not yet opened by its link, let in, paused by hand, or ended with the employment. */
export const AccountState = z.enum(['invited', 'active', 'paused', 'ended']);
export type AccountState = z.infer<typeof AccountState>;

/** A role given to an account, with who gave it and why; gifts are only added and ended, so their place in the list names them. */
export const Gift = AccountRole.extend({
  why: z.string().max(200).optional(),
  by: z.string().optional(),
  at: Moment.optional(),
  endedBy: z.string().optional(),
  endedAt: Moment.optional(),
});
export type Gift = z.infer<typeof Gift>;

/** A gift as it travels: what its scope is called, beside. */
export const GiftOut = Gift.extend({ said: Label });
export type GiftOut = z.infer<typeof GiftOut>;

/** An account as those see it who may let others in. */
export const AccountOut = z.object({
  id: z.int(),
  email: z.string(),
  name: z.string(),
  language: z.enum(['en', 'de']),
  personId: Id.nullable(),
  state: AccountState,
  active: z.boolean(),
  /** When somebody signed in last, or was last seen. */
  seenAt: Moment.nullable(),
  /** Its last day, of the employment that gives it longest. */
  accessUntil: Day.nullable(),
  roles: z.array(GiftOut),
  /** Given to this account alone, beside its roles. */
  grants: z.array(Grant),
});
export type AccountOut = z.infer<typeof AccountOut>;

/** What somebody sees on a day. */
export const SightOut = z.object({
  on: Day,
  /** People of the day who are seen, of how many there are. */
  people: z.int(),
  of: z.int(),
  /** The level on each section of which anything is given. */
  sections: z.record(z.string(), Level),
  acts: z.array(Act),
  /** Fields of sections that are seen, which are not. */
  hides: z.array(z.string()),
  /** By each gift that holds on the day: its place, and how many people it shows. */
  by: z.array(z.object({ gift: z.int().nullable(), role: z.string(), said: Label, people: z.int() })),
  samples: z.array(z.object({ id: Id, name: z.string() })),
});
export type SightOut = z.infer<typeof SightOut>;
