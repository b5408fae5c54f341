// Headcount, joiners, leavers, moves and turnover (docs/model.md, "Measures"; ISO 30414 names them).
import type { Bound, Day, ReasonClass } from '@gremium/contract';
import type { Register } from '../src/time/register';
import { OPEN, addDays, addMonths, day, endOfMonth, isBefore, isOn, lastDay } from '../src/time/calendar';
import { spellsOf, workerFlags } from '../src/people/employments';
import type { Dimension, Presence } from './presence-by-rows';

/** What a headcount is broken down by. */
export type KeyOf = (presence: Presence) => Key;
export const byDimension =
  (dimension: Dimension): KeyOf =>
  ({ keys }) =>
    keys[dimension];

export type Key = number | null;

/** One thing that happened to headcount on a day, for one value of a dimension. */
export type Flow = {
  on: Day;
  kind: 'joiner' | 'leaver' | 'in' | 'out';
  key: Key;
  personId: number;
  employmentId: number;
};

const continues = ({ employment }: Presence): number | null => employment.rows[0]?.values.continuesId ?? null;

const isContinued = (register: Register, { employment }: Presence): boolean =>
  register.referrers('employment', 'continuesId', employment.id).length > 0;

// Whether somebody present until `a` ends and from `b` on was here without a break: an employment that counts goes on over
// that night, or the next continues the one that ended. A return on the very next day is a leaver and a joiner.
const isLinked = (register: Register, a: Presence, b: Presence): boolean =>
  a.until === b.from &&
  (continues(b) === a.employment.id ||
    spellsOf(register, a.personId).some(
      ({ from, until, rows }) =>
        isBefore(from, b.from) &&
        isBefore(b.from, until) &&
        workerFlags(register, rows[0]?.values.workerTypeId ?? 0).counted,
    ));

/**
 * Everything that changed headcount by a dimension. Presences of one person, in order. Joiners belong to the first day,
 * leavers to the last; a move to the first day at the new value. By this opening + joiners + in − leavers − out = closing.
 */
export const flowsOf = (register: Register, presences: readonly Presence[], by: KeyOf): Flow[] =>
  presences.flatMap((presence, i) => {
    const [before, after] = [presences[i - 1], presences[i + 1]];
    const { personId, from } = presence;
    const of = { personId, employmentId: presence.employment.id };
    const flows: Flow[] = [];
    const isStart = !before || !isLinked(register, before, presence);
    if (isStart && from !== '-infinity') {
      const isJoiner = from === presence.employment.from && continues(presence) === null;
      flows.push({ on: from as Day, kind: isJoiner ? 'joiner' : 'in', key: by(presence), ...of });
    }
    if (!isStart && before && by(before) !== by(presence)) {
      flows.push({ on: from as Day, kind: 'out', key: by(before), ...of });
      flows.push({ on: from as Day, kind: 'in', key: by(presence), ...of });
    }
    const isEnd = presence.until !== OPEN && (!after || !isLinked(register, presence, after));
    if (isEnd) {
      const isLeaver = presence.until === presence.employment.until && !isContinued(register, presence);
      const on = isLeaver ? addDays(presence.until, -1) : presence.until;
      flows.push({ on: on as Day, kind: isLeaver ? 'leaver' : 'out', key: by(presence), ...of });
    }
    return flows;
  });

/** Headcount on a day by a dimension, last day included. */
export const headcountOn = (presences: readonly Presence[], on: Bound, by: KeyOf): Map<Key, number> =>
  tally(presences.filter((presence) => isOn(presence, on)).map(by));

/** Headcount at the close of a day: whoever has the day as last day has gone, unless another employment continues. */
export const headcountAtClose = (
  register: Register,
  presences: readonly Presence[],
  on: Day,
  by: KeyOf,
): Map<Key, number> =>
  tally(
    presences
      .filter((presence) => isOn(presence, on))
      .filter((presence) => !isGone(register, presences, presence, on))
      .map(by),
  );

// The day is their last by which they count, nothing goes on, and no other employment continues the one that ends.
const isGone = (register: Register, presences: readonly Presence[], presence: Presence, on: Day): boolean =>
  lastDay(presence) === on &&
  presence.until === presence.employment.until &&
  !isContinued(register, presence) &&
  !presences.some(
    (next) =>
      next.personId === presence.personId &&
      next.from === presence.until &&
      isLinked(register, presence, next),
  );

const tally = (keys: Key[]): Map<Key, number> => {
  const counts = new Map<Key, number>();
  for (const key of keys) counts.set(key, (counts.get(key) ?? 0) + 1);
  return counts;
};

/** The month-end days of the `n` months that end with the month of `on`. */
export const monthEnds = (on: Day, n: number): Day[] =>
  Array.from({ length: n }, (_, i) => endOfMonth(addMonths(day(`${on.slice(0, 7)}-01`), i - n + 1)));

export type Rate = {
  /** Null: nobody was there to leave. */
  rate: number | null;
  leavers: number;
  average: number;
};

/** Rolling 12-month turnover: leavers of the 12 months ending with the month of `on` ÷ mean of their 12 closes. */
export const turnover = (
  register: Register,
  presences: readonly Presence[],
  { on, by = byDimension('whole'), key = 0, only }: { on: Day; by?: KeyOf; key?: Key; only?: ReasonClass },
): Rate => {
  const ends = monthEnds(on, 12);
  const first = day(`${(ends[0] as Day).slice(0, 7)}-01`);
  const leavers = perPerson(presences)
    .flatMap((own) => flowsOf(register, own, by))
    .filter((flow) => flow.kind === 'leaver' && flow.key === key)
    .filter((flow) => first <= flow.on && flow.on <= (ends.at(-1) as Day))
    .filter((flow) => !only || reasonClass(register, flow.employmentId) === only).length;
  const closes = ends.map((end) => headcountAtClose(register, presences, end, by).get(key) ?? 0);
  const average = closes.reduce((sum, n) => sum + n, 0) / closes.length;
  return { rate: average === 0 ? null : leavers / average, leavers, average };
};

/** The class of the reason an employment ended for; `other` where none is given. */
export const reasonClass = (register: Register, employmentId: number): ReasonClass => {
  const reasonId = register.rows('employment', employmentId).find(({ values }) => values.endReasonId !== null)
    ?.values.endReasonId;
  return (reasonId && register.rows('list_entry', reasonId)[0]?.values.flags.class) || 'other';
};

/** Presences grouped by person, keeping their order. */
export const perPerson = (presences: readonly Presence[]): Presence[][] => {
  const groups = new Map<number, Presence[]>();
  for (const presence of presences) {
    const own = groups.get(presence.personId);
    if (own) own.push(presence);
    else groups.set(presence.personId, [presence]);
  }
  return [...groups.values()];
};

/** Changes of position by people who stay, without those whose reason is administrative. */
export const internalMoves = (register: Register, presences: readonly Presence[]): Flow[] =>
  perPerson(presences).flatMap((own) =>
    own.slice(1).flatMap((presence, i) => {
      const before = own[i] as Presence;
      const [was, is] = [before.placement?.values.positionId, presence.placement?.values];
      if (!isLinked(register, before, presence) || !is || was === undefined || was === is.positionId)
        return [];
      const flags = is.reasonId === null ? {} : register.rows('list_entry', is.reasonId)[0]?.values.flags;
      if (flags?.administrative) return [];
      const flow = { on: presence.from as Day, kind: 'in' as const, key: is.positionId };
      return [{ ...flow, personId: presence.personId, employmentId: presence.employment.id }];
    }),
  );
