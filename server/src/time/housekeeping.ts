// What is kept for a while only is dropped by and by, away from anybody's request.
import type { Pool } from 'pg';
import { dropOldTries } from '../access/sign-in.sql';
import { closeIdleSessions } from '../access/session.sql';
import { many } from '../database/sql';
import { forgetDeleted } from '../reports/reports.sql';
import { dropUnnamed } from '../files/kept-files.sql';
import { dropGone, markOld } from '../files/take-outs.sql';
import { dropOldReplies, dropOldTouches } from './act.sql';
import type { Clock } from './clock';

const EVERY = 10 * 60_000;
const MOST_AT_ONCE = 5000;

type Place = { pool: Pool; clock: Clock };

/** Drops replies kept for thirty days, what entries touched a day ago, sessions nobody used, tries to sign in that no longer count, reports deleted thirty days ago, and files taken out or sent for nothing as long ago. */
export const tidy = async ({ pool, clock }: Place): Promise<void> => {
  const now = clock.now();
  await many(pool, dropOldReplies(now, MOST_AT_ONCE));
  await many(pool, dropOldTouches(now, MOST_AT_ONCE));
  await many(pool, closeIdleSessions(now));
  await many(pool, dropOldTries(now));
  await many(pool, forgetDeleted(now));
  await many(pool, markOld(now));
  await many(pool, dropGone);
  await many(pool, dropUnnamed(now));
};

/** Tidies now and then; returns how to stop that. A database that is away is asked again the next time. */
export const keepTidy = (place: Place): (() => void) => {
  const timer = setInterval(() => void tidy(place).catch(() => undefined), EVERY).unref();
  return () => clearInterval(timer);
};
