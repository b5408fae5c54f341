import { z } from 'zod';
import { endpoint } from '../endpoint';
import { Organisation } from '../structure/organisation';
import { Day, Moment } from '../time/day';
import { Id, Text } from '../time/section';
import { AccountOut, SightOut } from './accounts';
import { AccountRole } from './roles';
import { Grant, Viewer } from './viewer';

const Email = z
  .string()
  .trim()
  .toLowerCase()
  .max(200)
  .regex(/^[^\s@]+@[^\s@]+$/, { error: 'value_invalid' });
const Password = z.string().min(12, { error: 'password_short' }).max(200);
const Token = z.string().min(20).max(100);
const Account = z.object({ id: z.coerce.number().int().positive() });

/** Who is signed in, and what every page needs of the organisation. */
export const Session = z.object({
  viewer: Viewer,
  /** Today in the organisation's time zone. */
  today: Day,
  organisation: z.string(),
  /** Its record; none before it is described. */
  organisationId: Id.nullable(),
  dateFormat: Organisation.shape.dateFormat,
  numberFormat: Organisation.shape.numberFormat,
  logo: Organisation.shape.logo,
  weekStart: Organisation.shape.weekStart,
  fiscalMonth: Organisation.shape.fiscalMonth,
});
export type Session = z.infer<typeof Session>;

/** Signing in, accounts and what they may do. */
export const accessEndpoints = {
  signIn: endpoint({
    method: 'POST',
    path: '/api/session',
    summary: 'Sign in; sets the session cookie',
    right: 'anybody',
    body: z.strictObject({ email: Email, password: z.string().max(200) }),
    reply: Session,
  }),
  whoAmI: endpoint({
    method: 'GET',
    path: '/api/session',
    summary: 'Who is signed in',
    right: 'signed_in',
    reply: Session,
  }),
  signOut: endpoint({
    method: 'DELETE',
    path: '/api/session',
    summary: 'Sign out',
    right: 'anybody',
    reply: z.object({}),
  }),
  entrance: endpoint({
    method: 'GET',
    path: '/api/entrance',
    summary: 'What the sign-in page shows: the organisation, and the accounts of a demo',
    right: 'anybody',
    reply: z.object({
      organisation: z.string(),
      logo: Organisation.shape.logo,
      demoAccounts: z.array(
        z.object({ email: z.string(), name: z.string(), what: z.string(), password: z.string() }),
      ),
    }),
  }),
  firstAdministrator: endpoint({
    method: 'POST',
    path: '/api/first-administrator',
    summary: 'Make the first administrator with the one-time link that the first start printed',
    right: 'anybody',
    body: z.strictObject({
      token: Token,
      email: Email,
      name: Text,
      password: Password,
    }),
    reply: z.object({ email: z.string() }),
  }),
  accounts: endpoint({
    method: 'GET',
    path: '/api/accounts',
    summary: 'All accounts and what they may do',
    right: { everywhere: 'access' },
    reply: z.object({ accounts: z.array(AccountOut) }),
  }),
  accountSight: endpoint({
    method: 'GET',
    path: '/api/accounts/:id/sight',
    summary: 'What somebody sees on a day: sections by level, how many people, by which gift',
    right: { everywhere: 'access' },
    params: Account,
    query: z.object({ on: Day.optional() }),
    reply: SightOut,
  }),
  giveRole: endpoint({
    method: 'POST',
    path: '/api/accounts/:id/gifts',
    summary:
      'Give an account a role within a scope, from a day to a day; previewed: how many people more are then seen',
    right: { everywhere: 'access' },
    params: Account,
    body: z.strictObject({
      gift: AccountRole,
      why: Text.nullable().default(null),
      preview: z.boolean().default(false),
    }),
    reply: z.object({ gift: z.int().nullable(), on: Day, people: z.int(), adds: z.int() }),
  }),
  endGift: endpoint({
    method: 'POST',
    path: '/api/accounts/:id/gifts/:gift/end',
    summary: 'End a role given to an account on a last day, at once, or take back what has not begun',
    right: { everywhere: 'access' },
    params: z.object({ id: z.coerce.number().int().positive(), gift: z.coerce.number().int().min(0) }),
    body: z.strictObject({ lastDay: Day.nullable() }),
    reply: z.object({ id: z.int() }),
  }),
  createAccount: endpoint({
    method: 'POST',
    path: '/api/accounts',
    summary: 'Make an account; without a password, with a one-time link by which it is set',
    right: { everywhere: 'access' },
    body: z.strictObject({
      email: Email,
      name: Text,
      password: Password.nullable().default(null),
      language: z.enum(['en', 'de']).default('en'),
      personId: Id.nullable().default(null),
      roles: z.array(AccountRole).max(50).default([]),
      grants: z.array(Grant).max(50).default([]),
    }),
    reply: z.object({ id: z.int(), token: z.string().nullable(), expires: Moment.nullable() }),
  }),
  changeAccount: endpoint({
    method: 'POST',
    path: '/api/accounts/:id',
    summary: 'Change an account: what is left out stays; a blocked one is signed out at once',
    right: { everywhere: 'access' },
    params: Account,
    body: z.strictObject({
      name: Text.optional(),
      language: z.enum(['en', 'de']).optional(),
      personId: Id.nullable().optional(),
      grants: z.array(Grant).max(50).optional(),
      active: z.boolean().optional(),
    }),
    reply: z.object({ id: z.int() }),
  }),
  passwordLink: endpoint({
    method: 'POST',
    path: '/api/accounts/:id/password-link',
    summary: 'Make a one-time link by which somebody sets a new password; earlier links of the account end',
    right: { everywhere: 'access' },
    params: Account,
    reply: z.object({ token: z.string(), expires: Moment }),
  }),
  setPassword: endpoint({
    method: 'POST',
    path: '/api/password',
    summary: 'Set a new password with a one-time link; whoever was signed in to the account is signed out',
    right: 'anybody',
    body: z.strictObject({ token: Token, password: Password }),
    reply: z.object({ email: z.string() }),
  }),
};
