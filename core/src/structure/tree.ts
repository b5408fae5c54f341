import type { Bound, Values } from '@gremium/contract';
import type { Reading, Register } from '../time/register';

/** The unit and all above it on a day, nearest first. A ring or a missing parent ends the list. */
export const unitChain = (register: Reading, unitId: number, on: Bound): number[] => {
  const chain: number[] = [];
  for (let at: number | null | undefined = unitId; at && !chain.includes(at);) {
    const unit: Values<'unit'> | undefined = register.at('unit', at, on);
    if (!unit) break;
    chain.push(at);
    at = unit.parentId;
  }
  return chain;
};

/** Units of a day with their children, and the tops. */
export type UnitTree = {
  values: Map<number, Values<'unit'>>;
  children: Map<number, number[]>;
  roots: number[];
};

/** The units of a day with their parents and children. */
export const unitTree = (register: Register, on: Bound): UnitTree => {
  const values = new Map<number, Values<'unit'>>();
  for (const row of register.allOn('unit', on)) values.set(row.thing, row.values);
  const children = new Map<number, number[]>();
  const roots: number[] = [];
  for (const [id, { parentId }] of values) {
    if (parentId === null || !values.has(parentId)) roots.push(id);
    else children.set(parentId, [...(children.get(parentId) ?? []), id]);
  }
  return { values, children, roots };
};

/** Units from the leaves to the tops: every unit after all below it. */
export const leavesFirst = ({ children, roots }: UnitTree): number[] => {
  const order: number[] = [];
  const visit = [...roots];
  while (visit.length > 0) {
    const id = visit.pop() as number;
    order.push(id);
    visit.push(...(children.get(id) ?? []));
  }
  return order.reverse();
};

type Inherited = 'locationId' | 'costCentreId' | 'legalEntityId' | 'agreementId';

// A position, or what one will be: where it stands, with what is said of it.
type Placed = Pick<Values<'position'>, 'unitId'> & Partial<Pick<Values<'position'>, Inherited>>;

/** A value of a position on a day: its own, else that of the nearest unit above that has one; with where it came from. */
export const inherited = (
  register: Reading,
  position: Placed,
  field: Inherited,
  on: Bound,
): { value: number | null; source: 'position' | 'unit'; unitId?: number } => {
  const own = position[field] ?? null;
  if (own !== null) return { value: own, source: 'position' };
  for (const unitId of unitChain(register, position.unitId, on)) {
    const value = register.at('unit', unitId, on)?.[field] ?? null;
    if (value !== null) return { value, source: 'unit', unitId };
  }
  return { value: null, source: 'unit' };
};

/** Whether hires into a unit need a position on a day; where no unit above says so, they do. */
export const hiresNeedPosition = (register: Register, unitId: number, on: Bound): boolean => {
  for (const id of unitChain(register, unitId, on)) {
    const said = register.at('unit', id, on)?.hiresNeedPosition ?? null;
    if (said !== null) return said;
  }
  return true;
};

/** What gives a placement its full-time hours. */
export type FullTime = { hours: number; source: 'agreement' | 'location' | 'organisation' };

/**
 * Full-time hours a week, in hundredths, in a position on a day: those of its collective agreement, else of its location, else
 * of the organisation (40 before it is described). Agreement and location may be those of a unit above.
 */
export const fullTimeOf = (register: Register, position: Placed, on: Bound): FullTime => {
  const locationId = inherited(register, position, 'locationId', on).value;
  const agreementId = inherited(register, position, 'agreementId', on).value;
  const agreed = agreementId === null ? undefined : register.at('list_entry', agreementId, on);
  if (agreed?.flags.fullTime !== undefined) return { hours: agreed.flags.fullTime, source: 'agreement' };
  const local = locationId === null ? null : (register.at('location', locationId, on)?.fullTime ?? null);
  if (local !== null) return { hours: local, source: 'location' };
  for (const row of register.allOn('organisation', on))
    return { hours: row.values.fullTime, source: 'organisation' };
  return { hours: 4000, source: 'organisation' };
};
