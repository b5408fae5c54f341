import type { Day, Organisation } from '@gremium/contract';
import { type Db, many, sql } from '../database/sql';
import { type Clock, dayIn } from '../time/clock';

type Settings = Pick<Organisation, 'name' | 'timeZone' | 'dateFormat'>;

/** The organisation's name and time zone as believed now; the zone in effect decides what "today" is, for everyone. */
export const organisationNow = async (db: Db, clock: Clock): Promise<Settings & { today: Day }> => {
  const rows = await many<Settings & { from: string; until: string }>(
    db,
    sql`select name, time_zone as "timeZone", date_format as "dateFormat", valid_from::text as "from", valid_until::text as "until"
      from organisation_version where superseded_by is null order by valid_from`,
  );
  const inUtc = dayIn(clock.now(), 'UTC');
  const row = rows.find(({ from, until }) => from <= inUtc && inUtc < until) ?? rows.at(-1);
  const { name = '', timeZone = 'UTC', dateFormat = 'D MMM YYYY' } = row ?? {};
  return { name, timeZone, dateFormat, today: dayIn(clock.now(), timeZone) };
};

export const todayOf = async (db: Db, clock: Clock): Promise<Day> => (await organisationNow(db, clock)).today;
