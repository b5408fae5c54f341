import type { Day, Lens } from '@gremium/contract';
import { fail } from '../database/failure';
import { type Db, many, one } from '../database/sql';
import { todayOf } from '../structure/organisation.sql';
import type { Clock } from './clock';
import { closeMoment, head, lastNumberBy } from './journal.sql';

/** The two clocks, resolved: a day, and the entry after which to believe (null: the last). */
export type Looking = { on: Day; by: number | null; today: Day };

/**
 * Resolves a lens. "As recorded by M" is as believed after the entry with the greatest number whose moment is ≤ M. An act
 * in flight that already has its moment is waited for, and later ones get later moments, so the answer about M stays.
 */
export const look = async (db: Db, clock: Clock, { on, recordedBy }: Lens): Promise<Looking> => {
  const today = await todayOf(db, clock);
  if (!recordedBy) return { on: on ?? today, by: null, today };
  const { moment } = await one<{ moment: string }>(db, head);
  const known = moment > clock.now() ? moment : clock.now();
  if (padded(recordedBy) > known) fail('moment_later_than_now', { moment: recordedBy }, 'recordedBy');
  // nothing is written, and no lock waited for, where it is closed already
  if (padded(recordedBy) > moment) await many(db, closeMoment(recordedBy));
  const { number } = await one<{ number: number }>(db, lastNumberBy(recordedBy));
  return { on: on ?? today, by: number, today };
};

const padded = (moment: string): string => {
  const [seconds = '', fraction = ''] = moment.replace('Z', '').split('.');
  return `${seconds}.${fraction.padEnd(6, '0')}Z`;
};

export const headNumber = async (db: Db): Promise<number> => (await one<{ number: number }>(db, head)).number;
