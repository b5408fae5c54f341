import {
  type FiguresOut,
  type HeadOut,
  type ManagerOut,
  type PositionLine,
  type UnitLine,
} from '@gremium/contract';
import {
  type DayRollUp,
  type Manager,
  type Register,
  type Sight,
  type Table,
  type Things,
  type UnitFigures,
  dayNumber,
  hundredths,
  inherited,
  managerChain,
  managerPosition,
  markOf,
  personOf,
  positionState,
  spokenName,
  treeOf,
  unitChain,
  vacancyOn,
} from '@gremium/core';
import type { Looking } from '../time/lens';
import type { Asking } from '../time/questions';
import { rolledUp } from './rolled-days';

// A unit of a day by the few values that the outline shows, each read when asked for: most units are folded away.
class UnitThen {
  constructor(
    private readonly table: Table,
    private readonly slot: number,
    readonly at: number,
    readonly id: number,
    readonly parentId: number | null,
  ) {}

  get name(): string {
    return this.text('name');
  }

  get code(): string {
    return this.text('code');
  }

  get headPositionId(): number | null {
    const { data, things } = this.table.field('headPositionId');
    return (things as Things).ids[data[this.slot] as number] ?? null;
  }

  private text(field: 'name' | 'code'): string {
    const { data, words } = this.table.field(field);
    return words.texts[data[this.slot] as number] as string;
  }
}

/** How many levels are unfolded (all), and the units that are folded or unfolded otherwise: ids parted by dots. */
type OutlineAsk = { levels?: number | undefined; turned?: string | undefined };

type PositionsAsk = { unit?: number | undefined; branch?: number | undefined; free?: 'yes' | undefined };

const NAMES = 3;

export const structureQuestions = {
  /** The units of the day that the viewer may see, those that are not folded away each with its figures. */
  outline: (asking: Asking, ask: OutlineAsk): { units: UnitLine[]; count: number; levels: number } => {
    const { facts, sight, looking } = asking;
    const { columns } = facts;
    const rolled = rolledUp(asking);
    const day = dayNumber(looking.on);
    const table = columns.table('unit');
    const ids = rolled.units;
    const parentOf = (at: number) => ids[rolled.parents[at] as number] ?? null;
    const seen = [...ids.keys()].filter((at) => sight.unit(ids[at] as number, day));
    const turned = new Set((ask.turned ?? '').split('.').filter(Boolean).map(Number));
    const { levels: unfolded = Infinity } = ask;
    const tree = treeOf(
      seen.map((at) => {
        const id = ids[at] as number;
        return new UnitThen(table, table.slotOn(table.things.find(id), day), at, id, parentOf(at));
      }),
      ({ id }, depth) => depth + 1 < unfolded !== turned.has(id),
    );
    const ups = new Set(rolled.parents);
    const mayName = sight.has('person_name');
    const units = tree.lines.map(({ unit, depth, hasBelow }): UnitLine => {
      const { own, branch } = rolled.figures(unit.at);
      return {
        id: unit.id,
        parentId: depth === 0 ? null : unit.parentId,
        depth,
        hasBelow,
        code: unit.code,
        name: unit.name,
        head: mayName ? headOf(asking, unit.headPositionId, rolled.leader) : null,
        own: outward(own, sight),
        branch: ups.has(unit.at) ? outward(branch, sight) : null,
      };
    });
    return { units, count: seen.length, levels: tree.levels };
  },

  positions: ({ facts, sight, looking }: Asking, ask: PositionsAsk): { positions: PositionLine[] } => {
    const { columns } = facts;
    const day = dayNumber(looking.on);
    const mayHolders = sight.has('placement');
    const positions = [...columns.allOn('position', looking.on)]
      .filter(
        ({ thing, values }) => sight.position(thing, day) && isAsked(columns, values.unitId, ask, looking),
      )
      .sort((a, b) => a.thing - b.thing)
      .map(({ thing, values }) => {
        const line = lineOf(columns, { thing, ...values }, mayHolders, looking);
        const named = line.holders.slice(0, NAMES).filter((id) => sight.person(id));
        return { ...line, names: named.map((id) => nameIn(columns, id, looking)) };
      })
      .filter(({ mark }) => !ask.free || mark === 'vacant' || mark === 'part_filled');
    return { positions };
  },

  /** What stands around a position on the day: managers above, positions below, values it inherits. */
  aroundPosition: (asking: Asking, id: number) => {
    const { facts, sight, looking } = asking;
    const { columns } = facts;
    const day = dayNumber(looking.on);
    const isThere = columns.at('position', id, looking.on) !== undefined;
    const chain = isThere && sight.has('person_name') ? managerChain(columns, id, looking.on, 0) : [];
    const below = positionsBelow(columns, id, looking).filter((other) => sight.position(other, day));
    return {
      inherited: inheritedOn(columns, id, looking),
      managers: managersOut(asking, chain),
      below: byTitle(columns, below, looking),
    };
  },
};

const nameIn = (register: Register, personId: number, { on }: Looking): string => {
  const name = register.at('person_name', personId, on) ?? register.rows('person_name', personId)[0]?.values;
  return name ? spokenName(name) : '';
};

// Whether a position stands above every part that the viewer may see: then its leader is of the chain upward.
const isAbove = (sight: Sight, register: Register, positionId: number, { on }: Looking): boolean => {
  const unitId = register.at('position', positionId, on)?.unitId;
  const chain = unitId === undefined ? [] : unitChain(register, unitId, on);
  const part = sight.part(['person_name']);
  return part === 'all' || !part.some((root) => chain.includes(root));
};

/**
 * The name of a leader: of whoever's record the viewer may see, and of managers above the viewer's own part, who are known to
 * all below them. Who led inside the part once and has left it since is not named (null).
 */
const leaderName = (
  { facts, sight, looking }: Asking,
  personId: number,
  positionId: number,
): string | null => {
  const { columns } = facts;
  const isKnown = sight.person(personId) || isAbove(sight, columns, positionId, looking);
  return isKnown ? nameIn(columns, personId, looking) : null;
};

/** A manager chain as it travels; a manager who may not be named is left nameless. */
export const managersOut = (asking: Asking, chain: readonly Manager[]): ManagerOut[] =>
  chain.map(({ personId, positionId, bridged }) => {
    const name = leaderName(asking, personId, positionId);
    return {
      personId: name === null ? 0 : personId,
      positionId,
      bridged,
      name: name ?? '',
      title: asking.facts.columns.at('position', positionId, asking.looking.on)?.title ?? '',
    };
  });

const headOf = (asking: Asking, positionId: number | null, leaderOn: DayRollUp['leader']): HeadOut => {
  const none: HeadOut = { positionId, personId: null, name: null, state: 'none' };
  if (positionId === null) return none;
  const leader = leaderOn(positionId);
  if (leader) {
    const name = leaderName(asking, leader.personId, positionId);
    const personId = name === null ? null : leader.personId;
    return { positionId, personId, name, state: leader.isActing ? 'acting' : 'held' };
  }
  const [bridge] = managerChain(asking.facts.columns, positionId, asking.looking.on, 0);
  if (!bridge) return none;
  const name = leaderName(asking, bridge.personId, bridge.positionId);
  const personId = name === null ? null : bridge.personId;
  return { positionId: bridge.positionId, personId, name, state: 'bridged' };
};

const isAsked = (
  register: Register,
  unitId: number,
  { unit, branch }: PositionsAsk,
  { on }: Looking,
): boolean => {
  if (unit !== undefined && unitId !== unit) return false;
  return branch === undefined || unitChain(register, unitId, on).includes(branch);
};

type At = { thing: number; code: string; title: string; unitId: number };

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
    vacantSince: vacancyOn(register, id, on)?.since ?? null,
    holders: mayHolders ? state.holders.flatMap(({ values }) => personOf(register, values, on) ?? []) : [],
  };
};

const positionsBelow = (register: Register, positionId: number, { on }: Looking): number[] =>
  [...register.allOn('position', on)]
    .filter(({ values }) => values.standing !== 'closed')
    .map(({ thing }) => thing)
    .filter((id) => id !== positionId && managerPosition(register, id, on) === positionId);

const inheritedOn = (register: Register, id: number, { on }: Looking) => {
  const position = register.at('position', id, on);
  const value = (field: 'locationId' | 'costCentreId' | 'legalEntityId') =>
    position ? inherited(register, position, field, on).value : null;
  return {
    locationId: value('locationId'),
    costCentreId: value('costCentreId'),
    legalEntityId: value('legalEntityId'),
  };
};

const byTitle = (register: Register, ids: readonly number[], { on }: Looking) => {
  const counts = new Map<string, number>();
  for (const id of ids) {
    const title = register.at('position', id, on)?.title ?? '';
    counts.set(title, (counts.get(title) ?? 0) + 1);
  }
  return [...counts].map(([title, count]) => ({ title, count })).sort((a, b) => b.count - a.count);
};

// Field by field: spreading some ten thousand of them takes longer than working them out.
const outward = (figures: UnitFigures, sight: Sight): FiguresOut => ({
  people: figures.people,
  notCounted: figures.notCounted,
  fte: figures.fte,
  fteAtWork: figures.fteAtWork,
  marks: figures.marks,
  freePlaces: figures.freePlaces,
  freeFte: figures.freeFte,
  depth: figures.depth,
  span: figures.managers === 0 ? null : figures.reports / figures.managers,
  cost: sight.has('pay') ? figures.cost : null,
});
