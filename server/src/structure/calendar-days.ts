// The whole days of a calendar file (RFC 5545): taken apart by a library, what repeats is followed through the period asked for
// and no further. It runs in a worker (calendar-worker.mjs): a rule that no day fits is looked for by the library without end.
import ICAL from 'ical.js';

// Steps of all that repeats in one file; a daily event of a century has fewer.
const MOST_STEPS = 40_000;
const DAYS_LONG = 31;

/** What of a file is asked for: days as texts, both inside; so many at most. */
export type CalendarAsk = { text: string; from: string; until: string; most: number };

/** Days with their names, in the order of the file; `left`: events with times. Or what is wrong. */
export type CalendarFound =
  | { days: { day: string; name: string }[]; left: number }
  | { wrong: 'calendar_unread' | 'too_many_days' | 'calendar_too_much' };

const eventsIn = (text: string): ICAL.Event[] | null => {
  try {
    // a file may hold several calendars
    const parsed = ICAL.parse(text.replace(/^\uFEFF/, '').trim()) as unknown[];
    const calendars = (typeof parsed[0] === 'string' ? [parsed] : parsed) as unknown[][];
    if (calendars.length === 0 || calendars.some(([name]) => name !== 'vcalendar')) return null;
    return calendars.flatMap((one) =>
      new ICAL.Component(one as never).getAllSubcomponents('vevent').map((event) => new ICAL.Event(event)),
    );
  } catch {
    return null;
  }
};

const dayOf = (time: ICAL.Time): string => time.toString().slice(0, 10);

// The days of an event from one of its beginnings on: of one with several days all of them.
const daysFrom = (event: ICAL.Event, begin: ICAL.Time): string[] => {
  const length = Math.min(DAYS_LONG, Math.max(1, Math.round(event.duration.toSeconds() / 86_400)));
  return Array.from({ length }, (_, i) => {
    const day = begin.clone();
    day.adjust(i, 0, 0, 0);
    return dayOf(day);
  });
};

type Steps = { left: number };

const beginnings = (event: ICAL.Event, until: string, steps: Steps): ICAL.Time[] => {
  if (!event.isRecurring()) return [event.startDate];
  const found: ICAL.Time[] = [];
  try {
    const each = event.iterator();
    while (steps.left > 0) {
      steps.left--;
      const next = each.next();
      if (!next || dayOf(next) > until) break;
      found.push(next);
    }
  } catch {
    // a rule that whole days cannot follow (each second) is none: the day itself stays
    return [event.startDate];
  }
  return found;
};

/** Reads the days of a period. */
export const daysOfCalendar = ({ text, from, until, most }: CalendarAsk): CalendarFound => {
  const events = eventsIn(text);
  if (!events) return { wrong: 'calendar_unread' };
  const steps: Steps = { left: MOST_STEPS };
  const found = new Map<string, { day: string; name: string }>();
  let left = 0;
  for (const event of events) {
    // an event moved from its series is one of its own
    if (!event.startDate?.isDate) {
      left++;
      continue;
    }
    const name = (event.summary ?? '').trim().slice(0, 200);
    for (const begin of beginnings(event, until, steps))
      for (const day of daysFrom(event, begin))
        if (from <= day && day <= until && name !== '') found.set(`${day} ${name}`, { day, name });
    if (steps.left === 0) return { wrong: 'calendar_too_much' };
    if (found.size > most) return { wrong: 'too_many_days' };
  }
  return { days: [...found.values()], left };
};
