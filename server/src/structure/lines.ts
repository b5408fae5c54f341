// Lines of units and positions as they travel: names only of whom the viewer may see.
import type { FiguresOut, HeadOut, ManagerOut, PositionLine } from '@gremium/contract';
import {
  type DayRollUp,
  type Manager,
  type Register,
  type Sight,
  type UnitFigures,
  dayNumber,
  hundredths,
  managerChain,
  markOf,
  personOf,
  positionState,
  spokenName,
  unitChain,
  vacancyOn,
} from '@gremium/core';
import type { Looking } from '../time/lens';
import type { Asking } from '../time/questions';

/** What somebody is called on a day. */
export const nameIn = (register: Register, personId: number, { on }: Looking): string => {
  const name = register.at('person_name', personId, on) ?? register.rows('person_name', personId)[0]?.values;
  return name ? spokenName(name) : '';
};

// Whether a position stands above every branch that the viewer may see: then its leader is of the chain upward. Where other
// conditions than branches say what is seen, only who is above something seen is: `isOfChain`.
const isAbove = (
  { facts: { columns }, sight, looking: { on } }: Asking,
  positionId: number,
  isOfChain: boolean,
): boolean => {
  const part = sight.part(['person_name']);
  if (part === 'all') return true;
  const unitId = columns.at('position', positionId, on)?.unitId;
  const chain = unitId === undefined ? [] : unitChain(columns, unitId, on);
  return part.every(({ covering: { conditions }, isOneself }) => {
    if (isOneself) return true;
    const roots = conditions.flatMap((one) => (one.type === 'branch' ? [one.unitId] : []));
    if (roots.length === conditions.length) return !roots.every((root) => chain.includes(root));
    return isOfChain && !sight.position(positionId, dayNumber(on), 'placement');
  });
};

/**
 * The name of a leader: of whoever's record the viewer may see, and of managers above the viewer's own part, who are known to
 * all below them. Who led inside the part once and has left it since is not named (null).
 */
const leaderName = (
  asking: Asking,
  personId: number,
  { positionId, isOfChain = false }: { positionId: number; isOfChain?: boolean },
): string | null => {
  const isKnown = asking.sight.person(personId) || isAbove(asking, positionId, isOfChain);
  return isKnown ? nameIn(asking.facts.columns, personId, asking.looking) : null;
};

/** A manager chain as it travels; a manager who may not be named is left nameless. */
export const managersOut = (asking: Asking, chain: readonly Manager[]): ManagerOut[] =>
  chain.map(({ personId, positionId, bridged }) => {
    const name = leaderName(asking, personId, { positionId, isOfChain: true });
    return {
      personId: name === null ? 0 : personId,
      positionId,
      bridged,
      name: name ?? '',
      title: asking.facts.columns.at('position', positionId, asking.looking.on)?.title ?? '',
    };
  });

/** Who leads a unit by its head position. */
export const headOf = (asking: Asking, positionId: number | null, leaderOn: DayRollUp['leader']): HeadOut => {
  const none: HeadOut = { positionId, personId: null, name: null, state: 'none' };
  if (positionId === null) return none;
  const leader = leaderOn(positionId);
  if (leader) {
    const name = leaderName(asking, leader.personId, { positionId });
    const personId = name === null ? null : leader.personId;
    return { positionId, personId, name, state: leader.isActing ? 'acting' : 'held' };
  }
  const [bridge] = managerChain(asking.facts.columns, positionId, asking.looking.on, 0);
  if (!bridge) return none;
  const name = leaderName(asking, bridge.personId, { positionId: bridge.positionId });
  const personId = name === null ? null : bridge.personId;
  return { positionId: bridge.positionId, personId, name, state: 'bridged' };
};

type At = { thing: number; code: string; title: string; unitId: number };

// The first of the days on which holders above the limit by right are looked at again.
const reviewOf = (holders: ReturnType<typeof positionState>['holders']): string | null =>
  holders.flatMap(({ values }) => values.reviewOn ?? []).sort()[0] ?? null;

const lineOf = (
  register: Register,
  { thing: id, code, title, unitId }: At,
  mayHolders: boolean,
  { on }: Looking,
): Omit<PositionLine, 'names'> => {
  const state = positionState(register, id, on);
  const limits = register.at('position_limits', id, on);
  return {
    id,
    code,
    title,
    unitId,
    mark: markOf(register, id, on) ?? 'closed',
    held: hundredths(state.held),
    limit: limits?.fte ?? null,
    places: limits?.places ?? null,
    freePlaces: state.freePlaces,
    freeFte: state.freeFte && hundredths(state.freeFte),
    hireFte: state.hireFte && hundredths(state.hireFte),
    vacantSince: vacancyOn(register, id, on)?.since ?? null,
    reviewOn: mayHolders ? reviewOf(state.holders) : null,
    holders: mayHolders ? state.holders.flatMap(({ values }) => personOf(register, values, on) ?? []) : [],
  };
};

const NAMES = 3;

/** A position as lists show one, with the names of its first few holders. */
export const positionLine = ({ facts, sight, looking }: Asking, at: At): PositionLine => {
  const { columns } = facts;
  const line = lineOf(columns, at, sight.has('placement'), looking);
  const named = line.holders.slice(0, NAMES).filter((id) => sight.person(id));
  return { ...line, names: named.map((id) => nameIn(columns, id, looking)) };
};

/** Figures as they travel. Field by field: spreading some ten thousand of them takes longer than working them out. */
export const figuresOut = (figures: UnitFigures, sight: Sight): FiguresOut => ({
  people: figures.people,
  notCounted: figures.notCounted,
  fte: figures.fte,
  fteNotCounted: figures.fteNotCounted,
  fteAtWork: figures.fteAtWork,
  marks: figures.marks,
  freePlaces: figures.freePlaces,
  freeFte: figures.freeFte,
  hireFte: figures.hireFte,
  depth: figures.depth,
  span: figures.managers === 0 ? null : figures.reports / figures.managers,
  cost: sight.has('pay') ? figures.cost : null,
});
