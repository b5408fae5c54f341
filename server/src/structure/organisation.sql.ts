import type { Day } from '@gremium/contract';
import { type Db, many, sql } from '../database/sql';
import { type Clock, dayIn } from '../time/clock';

/** The organisation's name and time zone as believed now; the zone in effect decides what "today" is, for everyone. */
export const organisationNow = async (
  db: Db,
  clock: Clock,
): Promise<{ name: string; timeZone: string; today: Day }> => {
  const rows = await many<{ name: string; timeZone: string; from: string; until: string }>(
    db,
    sql`select name, time_zone as "timeZone", valid_from::text as "from", valid_until::text as "until"
      from organisation_version where superseded_by is null order by valid_from`,
  );
  const inUtc = dayIn(clock.now(), 'UTC');
  const row = rows.find(({ from, until }) => from <= inUtc && inUtc < until) ?? rows.at(-1);
  const { name = '', timeZone = 'UTC' } = row ?? {};
  return { name, timeZone, today: dayIn(clock.now(), timeZone) };
};

export const todayOf = async (db: Db, clock: Clock): Promise<Day> => (await organisationNow(db, clock)).today;
