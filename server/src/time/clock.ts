import type { Day, Moment } from '@gremium/contract';

/** Where every moment and "today" come from; the machine's date is read nowhere else. */
export type Clock = { now: () => Moment };

const iso = (milliseconds: number): Moment =>
  new Date(milliseconds).toISOString().replace(/(\.\d{3})Z$/, '$1000Z') as Moment;

export const systemClock: Clock = { now: () => iso(Date.now()) };

/** A clock that starts at a moment and goes on from there: demo, tests, screenshots. */
export const clockFrom = (start: string): Clock => {
  const offset = Date.parse(start) - Date.now();
  return { now: () => iso(Date.now() + offset) };
};

/** The clock the environment asks for: GREMIUM_CLOCK=2026-11-23T09:40:00Z pins its start. */
export const environmentClock = (): Clock => {
  const start = process.env['GREMIUM_CLOCK'];
  return start ? clockFrom(start) : systemClock;
};

/** The calendar date of a moment in a time zone. */
export const dayIn = (moment: Moment, timeZone: string): Day => {
  const style = { year: 'numeric', month: '2-digit', day: '2-digit' } as const;
  const dayBy = (zone: string) =>
    new Intl.DateTimeFormat('en-CA', { ...style, timeZone: zone }).format(new Date(moment)) as Day;
  try {
    return dayBy(timeZone);
  } catch {
    return dayBy('UTC'); // a zone that this machine does not know (any more) must not keep everybody out
  }
};
