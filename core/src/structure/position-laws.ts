import type { Bound, Row, Standing } from '@gremium/contract';
import type { Offence } from '../time/offence';
import type { Register } from '../time/register';
import { problem, thing } from '../time/problem';
import { type Period, addDays, byFrom, isOn, overlaps, segments } from '../time/calendar';
import { spanOf } from '../people/employments';
import { ZERO, exceeds, fraction, hundredths, minus, sum } from './fraction';
import { handovers, heldOn, heldShare, isOver } from './occupancy';

/** What a standing can become. */
export const nextStandings: Record<Standing, Standing[]> = {
  planned: ['in_force', 'closed'],
  in_force: ['on_hold', 'closed'],
  on_hold: ['in_force', 'closed'],
  closed: ['in_force'],
};

/** Standings follow each other as the model allows; `standing_order` names the day and both. */
export const standingOrder = (register: Register, positionId: number): Offence[] => {
  const rows = [...register.rows('position', positionId)].sort(byFrom);
  return rows.slice(1).flatMap((row, i) => {
    const before = rows[i] as typeof row;
    const [was, is] = [before.values.standing, row.values.standing];
    if (was === is || nextStandings[was].includes(is)) return [];
    // whoever changes either of the two is at fault
    const on = { from: before.from, until: row.until };
    return [
      { problem: problem('standing_order', { was, is, day: row.from }, 'standing'), rows: [before, row], on },
    ];
  });
};

/** No position reports to itself (`reporting_ring`); longer ways round are looked for over the whole structure. */
export const notToItself = (register: Register, positionId: number): Offence[] =>
  register
    .rows('position', positionId)
    .filter(({ values }) => values.reportsToId === positionId)
    .map((row) => {
      const params = { path: [thing('position', positionId)], day: row.from };
      return { problem: problem('reporting_ring', params, 'reportsToId'), rows: [row], on: row };
    });

/**
 * Whoever begins on a position begins while it is in force (`position_not_in_force`), and holders are never on one that
 * is planned or closed (`position_stranded`, naming the holder).
 */
export const holdersStand = (register: Register, positionId: number): Offence[] => {
  const standings = register.rows('position', positionId);
  const holdings = register.referrers('placement', 'positionId', positionId);
  return holdings.flatMap((row): Offence[] => {
    const first = spanOf(register.rows('placement', row.thing))?.from;
    const start = standings.find((version) => isOn(version, row.from));
    const position = thing('position', positionId);
    if (row.from === first && start && start.values.standing !== 'in_force') {
      const params = { position, standing: start.values.standing, day: row.from };
      return [
        { problem: problem('position_not_in_force', params, 'positionId'), rows: [row, start], on: row },
      ];
    }
    const bad = standings.find(
      ({ values, ...period }) =>
        overlaps(period, row) && (values.standing === 'planned' || values.standing === 'closed'),
    );
    if (!bad) return [];
    const params = {
      position,
      standing: bad.values.standing,
      day: bad.from,
      holder: thing('placement', row.thing),
    };
    return [{ problem: problem('position_stranded', params, 'standing'), rows: [row, bad], on: bad }];
  });
};

type Holding = Row<'placement'>;

/**
 * Limits on every day. Over a limit where a holding begins is an error (`place_taken`, `fte_taken`) naming who holds it;
 * over only because a limit is lowered (`limit_lowered`), full-time hours became others (`over_by_full_time`) or by right
 * (`over_by_right`) is a warning. Placements in `fresh` (rows) are being recorded now: they are not named as who holds it.
 */
export const withinLimits = (
  register: Register,
  positionId: number,
  fresh: ReadonlySet<number> = new Set(),
): Offence[] => {
  const limits = register.rows('position_limits', positionId);
  const holdings = register.referrers('placement', 'positionId', positionId);
  return limits.flatMap((version) => {
    const exempt = handovers(holdings, version.values.handoverDays);
    const exemptions = [...exempt].map(([, from]) => ({ from, until: from }));
    const near = holdings.filter((row) => overlaps(row, version));
    return segments([...near, ...exemptions], version).flatMap((segment) =>
      overHeld(version, near, segment, { exempt, fresh }),
    );
  });
};

// Whether a version takes up more than the one of the same placement just before it, or is its first here.
const isMore = (row: Holding, holdings: Holding[]): boolean => {
  const previous = holdings.find((other) => other.thing === row.thing && other.until === row.from);
  return !previous || exceeds(heldShare(row.values), heldShare(previous.values));
};

// Whether a version holds more only because full-time hours became fewer while the hours were kept.
const isByFullTime = ({ values: { hours, keptHours } }: Holding): boolean =>
  keptHours !== null && hours <= keptHours;

// Whether somebody is above a limit by right: with a reason, until that is looked at again.
const isByRight = ({ values }: Holding): boolean => values.reviewOn !== null;

// Whoever is above a limit by right stops nobody whose beginning was recorded before: those by right, where without them there is room.
const makesRoom = (
  counted: Holding[],
  newcomers: Holding[],
  version: Row<'position_limits'>,
  fresh: ReadonlySet<number>,
): Holding[] | null => {
  const byRight = counted.filter(isByRight);
  if (byRight.length === 0 || newcomers.some((row) => !isByRight(row) && fresh.has(row.id))) return null;
  const others = counted.filter((row) => !isByRight(row));
  const on = newcomers[0]?.from ?? version.from;
  return isOver(heldOn(others, on, new Map()), version.values) ? null : byRight;
};

// On one segment. Whoever begins on its first day is at fault. Where nobody does, either the limit itself began there
// (a warning), or the segment continues one already said, or an exemption from the limits ended with a holder still there.
const overHeld = (
  version: Row<'position_limits'>,
  holdings: Holding[],
  segment: Period,
  { exempt, fresh }: { exempt: ReadonlyMap<number, Bound>; fresh: ReadonlySet<number> },
): Offence[] => {
  const held = heldOn(holdings, segment.from, exempt);
  const over = isOver(held, version.values);
  if (!over) return [];
  const position = thing('position', version.thing);
  const named = (rows: Holding[]) => rows.map(({ thing: id }) => thing('placement', id));
  const newcomers = held.counted.filter((row) => row.from === segment.from && isMore(row, holdings));
  const { fte } = version.values;
  const more = fte === null ? ZERO : minus(held.fte, fraction(fte, 100));
  if (newcomers.length === 0) {
    if (segment.from !== version.from) return [];
    const params = { position, day: segment.from, holders: named(held.counted) };
    const lowered =
      over === 'fte'
        ? problem('limit_lowered_fte', { ...params, over: hundredths(more) }, over)
        : problem('limit_lowered', params, over);
    return [{ problem: lowered, rows: [version, ...held.counted], on: segment }];
  }
  const byRight = newcomers.every(isByRight) ? newcomers : makesRoom(held.counted, newcomers, version, fresh);
  if (byRight) {
    const params = { position, day: segment.from, holders: named(byRight) };
    return [{ problem: problem('over_by_right', params, 'reviewOn'), rows: byRight, on: segment }];
  }
  const others = held.counted.filter((row) => !(newcomers.includes(row) && fresh.has(row.id)));
  if (over === 'fte' && newcomers.every(isByFullTime)) {
    const params = {
      position,
      day: segment.from,
      holders: named(newcomers),
      over: hundredths(more),
      exactly: `${more.num}/${more.den}`,
    };
    return [{ problem: problem('over_by_full_time', params, 'fullTime'), rows: newcomers, on: segment }];
  }
  const params = {
    position,
    day: segment.from,
    until: addDays(segment.until, -1),
    holders: named(others.length > 0 ? others : newcomers),
    share: hundredths(sum(newcomers.map(({ values }) => heldShare(values)))),
    ...(over === 'fte' ? { over: hundredths(more) } : {}),
  };
  const code = over === 'places' ? 'place_taken' : 'fte_taken';
  return [{ problem: problem(code, params, 'positionId'), rows: newcomers, on: segment }];
};
