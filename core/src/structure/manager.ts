import type { Bound, Row } from '@gremium/contract';
import type { Reading } from '../time/register';
import { isOn } from '../time/calendar';
import { personOf, placementOf, spanOf } from '../people/employments';
import { isZero } from './fraction';
import { shareAtWork } from './occupancy';
import { unitChain } from './tree';

const isStanding = (register: Reading, positionId: number, on: Bound): boolean => {
  const standing = register.at('position', positionId, on)?.standing;
  return standing === 'in_force' || standing === 'on_hold';
};

/**
 * The position a position reports to on a day: its own *reports to* if that is in force or on hold, else the head of its
 * unit, else (and for the head itself) that of the nearest unit above having one; null for a top.
 */
export const managerPosition = (register: Reading, positionId: number, on: Bound): number | null => {
  const position = register.at('position', positionId, on);
  if (!position) return null;
  const own = position.reportsToId;
  if (own !== null && own !== positionId && isStanding(register, own, on)) return own;
  for (const unitId of unitChain(register, position.unitId, on)) {
    const head = register.at('unit', unitId, on)?.headPositionId ?? null;
    if (head !== null && head !== positionId && isStanding(register, head, on)) return head;
  }
  return null;
};

/** Who leads, by which placement; bridged where positions between have nobody. */
export type Manager = { personId: number; positionId: number; placement: Row<'placement'>; bridged: boolean };

/** Who leads a position on a day: whoever acts in it, else its holder at work (marked lead, earliest there, lowest number). */
export const leaderOf = (register: Reading, positionId: number, on: Bound, not = 0): Manager | null => {
  const holdings = register.referrers('placement', 'positionId', positionId).filter((row) => isOn(row, on));
  const candidates = holdings
    .filter(({ values }) => values.kind === 'acting' || !isZero(shareAtWork(values)))
    .map((placement) => ({ placement, personId: personOf(register, placement.values, on) as number }))
    .filter(({ personId }) => personId !== not)
    .sort((a, b) => rank(a) - rank(b) || (sortKey(register, a) < sortKey(register, b) ? -1 : 1));
  const [first] = candidates;
  return first ? { ...first, positionId, bridged: false } : null;
};

type Candidate = { placement: Row<'placement'>; personId: number };

const rank = ({ placement: { values } }: Candidate): number =>
  values.kind === 'acting' ? 0 : values.lead ? 1 : 2;

const sortKey = (register: Reading, { placement, personId }: Candidate): string => {
  const since = spanOf(register.rows('placement', placement.thing))?.from ?? placement.from;
  const number = register.rows('person', personId)[0]?.values.number ?? '';
  return `${since} ${number.padStart(20, '0')}`;
};

/**
 * The manager of a person on a day, over the primary placement. A position nobody leads is bridged to the next one
 * upwards; oneself is skipped. Null at a top, or where a ring (refused by law) would go round for ever.
 */
export const managerOf = (register: Reading, personId: number, on: Bound): Manager | null => {
  const placement = placementOf(register, personId, on);
  return placement ? managerAbove(register, placement.values.positionId, on, personId) : null;
};

/** The manager met when going up from a position on a day, for `personId` (who is skipped). */
export const managerAbove = (
  register: Reading,
  positionId: number,
  on: Bound,
  personId: number,
): Manager | null => {
  const seen = new Set([positionId]);
  let at = managerPosition(register, positionId, on);
  for (let bridged = false; at !== null && !seen.has(at); bridged = true) {
    seen.add(at);
    const leader = leaderOf(register, at, on, personId);
    if (leader) return { ...leader, bridged };
    at = managerPosition(register, at, on);
  }
  return null;
};

/** All managers above a position on a day for a person, nearest first. */
export const managerChain = (
  register: Reading,
  positionId: number,
  on: Bound,
  personId: number,
): Manager[] => {
  const chain: Manager[] = [];
  let next = managerAbove(register, positionId, on, personId);
  while (next && !chain.some((other) => other.positionId === next?.positionId)) {
    chain.push(next);
    next = managerAbove(register, next.positionId, on, next.personId);
  }
  return chain;
};

/**
 * Positions that report to a position on a day: those that name it, and where it leads a unit, those of the unit and of the
 * units below it down to the next one that has a head. Closed ones report to nobody.
 */
export const directReports = (register: Reading, positionId: number, on: Bound): number[] => {
  const near = new Set<number>();
  const here = <R extends { from: Bound; until: Bound; thing: number }>(rows: readonly R[]) =>
    rows.filter((row) => isOn(row, on)).map((row) => row.thing);
  for (const id of here(register.referrers('position', 'reportsToId', positionId))) near.add(id);
  // a set, as a change that is to be refused may have made a ring
  const units = new Set(here(register.referrers('unit', 'headPositionId', positionId)));
  for (const unit of units) {
    const head = register.at('unit', unit, on)?.headPositionId ?? null;
    const isLed = head !== null && head !== positionId && isStanding(register, head, on);
    if (isLed) near.add(head);
    if (isLed) continue;
    for (const id of here(register.referrers('position', 'unitId', unit))) near.add(id);
    for (const id of here(register.referrers('unit', 'parentId', unit))) units.add(id);
  }
  return [...near].filter(
    (id) =>
      id !== positionId &&
      register.at('position', id, on)?.standing !== 'closed' &&
      managerPosition(register, id, on) === positionId,
  );
};
