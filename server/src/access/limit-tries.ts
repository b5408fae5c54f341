// How often a password may be tried: by account and address together, and by account from anywhere. Whoever tries somebody
// else's password cannot keep them out: addresses from which an account signed in before are not counted with the others,
// and a link from an administrator lets in without a password.
import { createHash } from 'node:crypto';
import { problem } from '@gremium/core';
import { Failure } from '../database/failure';
import { type Db, many } from '../database/sql';
import type { Clock } from '../time/clock';
import { countTries, forgetTries, forgetTry, noteTry } from './sign-in.sql';

const MINUTES = 5;
/** Wrong passwords within five minutes: from one address, and from all that the account is not known by. */
const MOST_HERE = 6;
const MOST_ANYWHERE = 40;

type Try = { here: string; anywhere: string; known: string; from: string; at: string };

const subjectsOf = (email: string, address: string): Omit<Try, 'at'> => {
  const account = createHash('sha256').update(email).digest('hex').slice(0, 32);
  return {
    here: `here ${account} ${address}`,
    anywhere: `anywhere ${account}`,
    known: `known ${account} ${address}`,
    from: `from ${address}`,
  };
};

export type Trying = {
  email: string;
  address: string;
  /** Wrong passwords of whatever accounts within the minutes from one address, before it is kept waiting. */
  mostFrom: number;
};

/**
 * Notes a try before the password is compared; refuses it with `too_many_requests` where there were too many. Only those that
 * fail go on counting (`succeed`): an office behind one address signs in on a Monday, and an address from which an account was
 * used before lets it in whatever others tried there.
 */
export const beginTry = async (db: Db, clock: Clock, { email, address, mostFrom }: Trying): Promise<Try> => {
  const own = subjectsOf(email, address);
  const now = clock.now();
  const since = new Date(Date.parse(now) - MINUTES * 60_000).toISOString();
  const isKnown = (await many(db, countTries([own.known], new Date(0).toISOString()))).length > 0;
  await many(db, noteTry(own.here, now));
  if (!isKnown) {
    await many(db, noteTry(own.anywhere, now));
    await many(db, noteTry(own.from, now));
  }
  const counts = await many<{ subject: string; tries: number }>(
    db,
    countTries([own.here, own.anywhere, own.from], since),
  );
  const of = (subject: string) => counts.find((count) => count.subject === subject)?.tries ?? 0;
  const isTooMany = of(own.anywhere) > MOST_ANYWHERE || of(own.from) > mostFrom;
  if (of(own.here) > MOST_HERE || (!isKnown && isTooMany))
    throw new Failure([problem('too_many_requests', { minutes: MINUTES })]);
  return { ...own, at: now };
};

/** The password was right: its tries are forgotten, the address is known from now on. */
export const succeed = async (
  db: Db,
  clock: Clock,
  { here, anywhere, known, from, at }: Try,
): Promise<void> => {
  await many(db, forgetTries([here, known]));
  await many(db, forgetTry(anywhere, at));
  await many(db, forgetTry(from, at));
  await many(db, noteTry(known, clock.now()));
};

/** A new password: no try of the old one counts. */
export const forgive = async (db: Db, email: string, address: string): Promise<void> => {
  const { here, anywhere } = subjectsOf(email, address);
  await many(db, forgetTries([here, anywhere]));
};
