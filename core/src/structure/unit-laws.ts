import type { Bound, Row } from '@gremium/contract';
import type { Offence } from '../time/offence';
import type { Register } from '../time/register';
import { problem, thing } from '../time/problem';
import { type Period, isOn, segments } from '../time/calendar';
import { managerPosition } from './manager';

const refs = (kind: 'unit' | 'position', ids: number[]) => ids.map((id) => thing(kind, id));

// The ring that going up from a unit leads into on a day, or null.
const ringFrom = (register: Register, unitId: number, on: Bound): number[] | null => {
  const path: number[] = [];
  for (let at: number | null = unitId; at !== null; at = register.at('unit', at, on)?.parentId ?? null) {
    const start = path.indexOf(at);
    if (start >= 0) return path.slice(start);
    path.push(at);
  }
  return null;
};

/** No unit is below itself on any day of the period; `unit_ring` names the path. Needs the whole tree. */
export const noUnitRings = (register: Register, changed: readonly Row<'unit'>[]): Offence[] =>
  changed.flatMap((row) => {
    const others = [...register.all('unit')];
    for (const { from } of segments(others, row)) {
      const ring = ringFrom(register, row.thing, from);
      if (!ring) continue;
      const params = { path: refs('unit', ring), day: from };
      const rows = ring.flatMap((id) => register.rows('unit', id).filter((r) => isOn(r, from)));
      return [{ problem: problem('unit_ring', params, 'parentId'), rows, on: { from, until: from } }];
    }
    return [];
  });

/** One root on every day of the period; `unit_roots` names them. Needs the whole tree. */
export const oneRoot = (register: Register, period: Period): Offence[] => {
  const tops = [...register.all('unit')].filter(({ values }) => values.parentId === null);
  return segments(tops, period).flatMap((segment) => {
    const roots = tops.filter((row) => isOn(row, segment.from));
    if (roots.length <= 1) return [];
    const params = {
      units: refs(
        'unit',
        roots.map((row) => row.thing),
      ),
      day: segment.from,
    };
    return [{ problem: problem('unit_roots', params, 'parentId'), rows: roots, on: segment }];
  });
};

/** Positions that somebody may report to: heads of units, and those a position names. Only these can be in a ring. */
export const pointedPositions = (register: Register): Set<number> =>
  new Set([...register.named('unit', 'headPositionId'), ...register.named('position', 'reportsToId')]);

/**
 * Nobody reports to themselves by a detour on any day of the period; `reporting_ring` names the positions. Needs all units
 * and all positions that somebody may report to.
 */
export const noReportingRings = (register: Register, period: Period): Offence[] => {
  const pointed = pointedPositions(register);
  const rows: Period[] = [...register.all('unit')];
  for (const id of pointed) rows.push(...register.rows('position', id));
  for (const { from } of segments(rows, period)) {
    const done = new Set<number>();
    for (const positionId of pointed) {
      const ring = done.has(positionId) ? null : ringOf(register, positionId, from, done);
      if (ring) return [ringOffence(register, ring, from)];
    }
  }
  return [];
};

// Goes up from a position; what was gone through without meeting a ring need not be gone through again.
const ringOf = (register: Register, positionId: number, on: Bound, done: Set<number>): number[] | null => {
  const path: number[] = [];
  for (
    let at: number | null = positionId;
    at !== null && !done.has(at);
    at = managerPosition(register, at, on)
  ) {
    if (path.includes(at)) return path.slice(path.indexOf(at));
    path.push(at);
  }
  for (const id of path) done.add(id);
  return null;
};

const ringOffence = (register: Register, ring: number[], on: Bound): Offence => {
  const rows = ring.flatMap((id) => register.rows('position', id).filter((row) => isOn(row, on)));
  const params = { path: refs('position', ring), day: on };
  return { problem: problem('reporting_ring', params, 'reportsToId'), rows, on: { from: on, until: on } };
};
