import type { Day, Organisation } from '@gremium/contract';
import { type Db, many, sql } from '../database/sql';
import { type Clock, dayIn } from '../time/clock';

type Settings = Pick<
  Organisation,
  'name' | 'timeZone' | 'dateFormat' | 'numberFormat' | 'weekStart' | 'fiscalMonth' | 'logo'
> & { organisationId: number | null };

// What holds before anybody described it.
const UNDESCRIBED: Settings = {
  organisationId: null,
  name: '',
  timeZone: 'UTC',
  dateFormat: 'D MMM YYYY',
  numberFormat: null,
  weekStart: 1,
  fiscalMonth: 1,
  logo: null,
};

/** The organisation's settings that every page needs, as believed now; the zone in effect decides what "today" is, for everyone. */
export const organisationNow = async (db: Db, clock: Clock): Promise<Settings & { today: Day }> => {
  const rows = await many<Settings & { from: string; until: string }>(
    db,
    sql`select organisation_id as "organisationId", name, time_zone as "timeZone", date_format as "dateFormat",
        number_format as "numberFormat", week_start as "weekStart", fiscal_month as "fiscalMonth", logo, valid_from::text as "from", valid_until::text as "until"
      from organisation_version where superseded_by is null order by valid_from`,
  );
  const inUtc = dayIn(clock.now(), 'UTC');
  const row = rows.find(({ from, until }) => from <= inUtc && inUtc < until) ?? rows.at(-1);
  if (!row) return { ...UNDESCRIBED, today: inUtc };
  const { from: _, until: __, ...settings } = row;
  return { ...settings, today: dayIn(clock.now(), settings.timeZone) };
};

export const todayOf = async (db: Db, clock: Clock): Promise<Day> => (await organisationNow(db, clock)).today;
