import type { Row } from '@gremium/contract';
import type { Offence } from '../time/offence';
import type { Register } from '../time/register';
import { problem, thing } from '../time/problem';
import {
  BEGINNING,
  OPEN,
  type Period,
  addDays,
  byFrom,
  intersection,
  isOn,
  overlaps,
  segments,
  uncovered,
} from '../time/calendar';
import { ZERO, exceeds, fraction, hundredths, minus, plus } from '../structure/fraction';
import { contractedShare } from '../structure/occupancy';
import { spanOf, spellsOf, workerFlags } from './employments';

/**
 * An employment has no gaps, one legal entity and one worker type, and one that continues it begins the day after its
 * last (`employment_gap`, `employment_constant`).
 */
export const wholeEmployment = (register: Register, employmentId: number): Offence[] => {
  const rows = [...register.rows('employment', employmentId)].sort(byFrom);
  const last = rows.at(-1)?.until;
  const broken = register
    .referrers('employment', 'continuesId', employmentId)
    .filter((next) => spanOf(register.rows('employment', next.thing))?.from !== last)
    .map((next): Offence => {
      const params = { employment: thing('employment', next.thing), day: next.from };
      return {
        problem: problem('employment_gap', params),
        rows: [next],
        on: { from: next.from, until: next.from },
      };
    });
  const inside = rows.slice(1).flatMap((row, i) => {
    const before = rows[i] as typeof row;
    const params = { employment: thing('employment', employmentId), day: row.from };
    const isConstant =
      row.values.legalEntityId === before.values.legalEntityId &&
      row.values.workerTypeId === before.values.workerTypeId &&
      row.values.personId === before.values.personId;
    const on = { from: before.from, until: row.until };
    return [
      ...(before.until === row.from
        ? []
        : [{ problem: problem('employment_gap', params), rows: [before, row], on }]),
      ...(isConstant ? [] : [{ problem: problem('employment_constant', params), rows: [before, row], on }]),
    ];
  });
  return [...broken, ...inside];
};

/** Employments of one person do not overlap within one legal entity. */
export const employmentsApart = (register: Register, personId: number): Offence[] => {
  const rows = spellsOf(register, personId).flatMap((spell) => spell.rows);
  return rows.flatMap((row) => {
    const other = rows.find(
      (o) =>
        o.thing !== row.thing &&
        o.values.legalEntityId === row.values.legalEntityId &&
        overlaps(o, row) &&
        (o.from < row.from || (o.from === row.from && o.thing < row.thing)),
    );
    if (!other) return [];
    const params = { person: thing('person', personId), from: other.from, until: other.until };
    return [{ problem: problem('employment_overlap', params, 'firstDay'), rows: [row], on: row }];
  });
};

const covers = (rows: readonly Row<'placement'>[]) => rows.filter(({ values }) => values.kind === 'cover');

/**
 * Placements lie within the employment, one primary one on each of its days (none needed for unplaced worker types),
 * shares in all at most 1.5 (above 1 a warning), nothing away that is not held.
 */
export const placementsFit = (register: Register, employmentId: number): Offence[] => {
  const span = spanOf(register.rows('employment', employmentId));
  const placements = register.referrers('placement', 'employmentId', employmentId);
  const employment = thing('employment', employmentId);
  const offences: Offence[] = placements.flatMap((row) => {
    const found: Offence[] = [];
    const outside = span ? uncovered(row, [span]) : [row];
    if (outside.length > 0)
      found.push({
        problem: problem('placement_outside_employment', {
          employment,
          day: (outside[0] as typeof row).from,
        }),
        rows: [row],
        on: outside[0] as typeof row,
      });
    if (row.values.lentHours + row.values.awayHours > row.values.hours)
      found.push({
        problem: problem('suspended_range', { employment, day: row.from }, 'awayHours'),
        rows: [row],
        on: row,
      });
    return found;
  });
  if (!span) return offences;
  const { workerTypeId } = (register.rows('employment', employmentId)[0] as Row<'employment'>).values;
  const primary = placements.filter(({ values }) => values.kind === 'primary');
  if (workerFlags(register, workerTypeId).placed)
    for (const gap of uncovered(span, primary)) {
      const rows = register.rows('employment', employmentId).filter((row) => overlaps(row, gap));
      offences.push({
        problem: problem('placement_none', { employment, day: gap.from }),
        rows: [...rows],
        on: gap,
      });
    }
  for (const segment of segments(placements, span)) {
    const here = placements.filter((row) => isOn(row, segment.from));
    const doubled = here.filter(({ values }) => values.kind === 'primary');
    if (doubled.length > 1)
      offences.push({
        problem: problem('placement_one_primary', { employment, day: segment.from }),
        rows: doubled,
        on: segment,
      });
    const share = here.map(({ values }) => contractedShare(values)).reduce(plus, ZERO);
    const code = exceeds(share, fraction(3, 2))
      ? 'share_too_high'
      : exceeds(share, fraction(1))
        ? 'share_above_one'
        : null;
    if (code)
      offences.push({
        problem: problem(code, { employment, day: segment.from }, 'hours'),
        rows: here.filter((row) => row.from === segment.from),
        on: segment,
      });
  }
  return offences;
};

/** On each day what a placement lends is what the temporary placements naming it take (`lent_unlike`). */
export const lentFits = (register: Register, employmentId: number): Offence[] => {
  const placements = register.referrers('placement', 'employmentId', employmentId);
  const lenders = new Set(
    placements.flatMap(({ thing: id, values }) =>
      values.kind === 'temporary' ? (values.forPlacementId ?? []) : values.lentHours > 0 ? id : [],
    ),
  );
  return [...lenders].flatMap((id) => {
    const own = register.rows('placement', id);
    const taking = placements.filter(
      ({ values }) => values.kind === 'temporary' && values.forPlacementId === id,
    );
    return own.flatMap((row) =>
      segments(taking, row).flatMap((segment): Offence[] => {
        const takes = taking.filter((one) => isOn(one, segment.from));
        const hours = takes.reduce((total, { values }) => total + values.hours, 0);
        // where full time is not the same, or shares were rounded each, the hours need not add up to the hundredth
        const isSameFull = takes.every(({ values }) => values.fullTime === row.values.fullTime);
        if (takes.length > 0 && !isSameFull) return [];
        if (Math.abs(hours - row.values.lentHours) < Math.max(1, takes.length)) return [];
        const params = { employment: thing('employment', employmentId), day: segment.from };
        return [{ problem: problem('lent_unlike', params, 'lentHours'), rows: [row, ...takes], on: segment }];
      }),
    );
  });
};

/**
 * A cover holds at most what the covered holder does not (`cover_too_large`), but for the position's days of handover just before
 * the absence and just after it; what has happened stands with a day of review (`over_by_right`).
 */
export const coversFit = (register: Register, positionId: number): Offence[] =>
  covers(register.referrers('placement', 'positionId', positionId)).flatMap((row) => {
    const covered = row.values.forPlacementId;
    if (covered === null) return [];
    const versions = register.rows('placement', covered);
    const days = register.at('position_limits', positionId, row.from)?.handoverDays ?? 0;
    const isAway = ({ values }: Row<'placement'>) => values.awayHours + values.lentHours > 0;
    const around = ({ from, until }: Period): Period[] => [
      ...(from === BEGINNING ? [] : [{ from: addDays(from, -days), until: from }]),
      ...(until === OPEN ? [] : [{ from: until, until: addDays(until, days) }]),
    ];
    const handsOver = (on: Period): boolean =>
      days > 0 && uncovered(on, versions.filter(isAway).flatMap(around)).length === 0;
    return versions.flatMap((version) => {
      const on = intersection(version, row);
      if (!on) return [];
      const away = fraction(version.values.awayHours + version.values.lentHours, version.values.fullTime);
      const more = minus(contractedShare(row.values), away);
      if (!exceeds(more, ZERO) || handsOver(on)) return [];
      const placement = thing('placement', row.thing);
      if (row.values.reviewOn !== null) {
        const params = { position: thing('position', positionId), day: on.from, holders: [placement] };
        return [{ problem: problem('over_by_right', params, 'reviewOn'), rows: [row], on }];
      }
      const params = { placement, day: on.from, over: hundredths(more) };
      return [{ problem: problem('cover_too_large', params, 'hours'), rows: [row, version], on: version }];
    });
  });

/** Contracts and pay lie within their employment (`outside_employment`). */
export const termsWithin = (register: Register, employmentId: number): Offence[] => {
  const span = spanOf(register.rows('employment', employmentId));
  const rows: Row[] = [
    ...register.referrers('contract', 'employmentId', employmentId),
    ...register.referrers('pay', 'employmentId', employmentId),
  ];
  return rows.flatMap((row) => {
    const outside = span ? uncovered(row, [span])[0] : row;
    if (!outside) return [];
    const params = { employment: thing('employment', employmentId), day: outside.from };
    return [{ problem: problem('outside_employment', params), rows: [row], on: outside }];
  });
};
