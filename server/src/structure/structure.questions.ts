import type { PositionLine, UnitLine, WhichPositions } from '@gremium/contract';
import {
  type Register,
  type Table,
  type Things,
  dayNumber,
  holderDifferences,
  inherited,
  isOn,
  isUnconfirmedTop,
  managerChain,
  managerPosition,
  markOf,
  personOf,
  qualifiedFor,
  treeOf,
  unitChain,
} from '@gremium/core';
import type { Looking } from '../time/lens';
import type { Asking } from '../time/questions';
import { aroundJob, aroundUnit } from './around';
import { aroundGrade, stepsDue } from './grades';
import { figuresOut, headOf, managersOut, nameIn, positionLine } from './lines';
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

type PositionsAsk = {
  unit?: number | undefined;
  branch?: number | undefined;
  free?: 'yes' | undefined;
  job?: number | undefined;
  least?: number | undefined;
  which?: WhichPositions | undefined;
};

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
        own: figuresOut(own, sight),
        branch: ups.has(unit.at) ? figuresOut(branch, sight) : null,
      };
    });
    return { units, count: seen.length, levels: tree.levels };
  },

  positions: (asking: Asking, ask: PositionsAsk): { positions: PositionLine[] } => {
    const { facts, sight, looking } = asking;
    const { columns } = facts;
    const day = dayNumber(looking.on);
    const positions = [...columns.allOn('position', looking.on)]
      .filter(
        ({ thing, values }) =>
          sight.position(thing, day) &&
          (ask.job === undefined || values.jobId === ask.job) &&
          isAsked(columns, values.unitId, ask, looking) &&
          isOfThose(asking, thing, ask.which),
      )
      .sort((a, b) => a.thing - b.thing)
      .map(({ thing, values }) => positionLine(asking, { thing, ...values }))
      .filter(({ mark }) => !ask.free || mark === 'vacant' || mark === 'part_filled')
      .filter(({ hireFte }) => ask.least === undefined || hireFte === null || hireFte >= ask.least);
    return { positions };
  },

  /** What stands around a position on the day: managers above, positions below, values it inherits. */
  aroundPosition: (asking: Asking, id: number) => {
    const { facts, sight, looking } = asking;
    const { columns } = facts;
    const { on } = looking;
    const day = dayNumber(on);
    const isThere = columns.at('position', id, looking.on) !== undefined;
    const chain = isThere && sight.has('person_name') ? managerChain(columns, id, looking.on, 0) : [];
    const below = positionsBelow(columns, id, looking).filter((other) => sight.position(other, day));
    return {
      inherited: inheritedOn(columns, id, looking),
      managers: managersOut(asking, chain),
      hasManager: !isThere || managerPosition(columns, id, on) !== null,
      below: byTitle(columns, below, looking),
      qualified: isThere ? qualifiedHolders(asking, id) : [],
    };
  },

  aroundUnit,
  aroundJob,
  aroundGrade,
  stepsDue,
};

const QUALIFIES = ['held_certificate', 'held_skill', 'held_education'] as const;

// Whether those who hold a position on the day bring what it asks for; of those of whom all that takes may be seen.
const qualifiedHolders = (asking: Asking, id: number) => {
  const { facts, sight, looking } = asking;
  const { columns } = facts;
  if (![...QUALIFIES, 'person_name' as const].every((section) => sight.has(section))) return [];
  const holders = new Set(
    columns
      .referrers('placement', 'positionId', id)
      .flatMap((row) => (isOn(row, looking.on) ? (personOf(columns, row.values, looking.on) ?? []) : [])),
  );
  return [...holders]
    .filter((one) => sight.person(one) && QUALIFIES.every((section) => sight.person(one, section)))
    .flatMap((personId) =>
      qualifiedFor(columns, personId, id, looking.on).map(({ row, state, until }) => ({
        ...{ personId, name: nameIn(columns, personId, looking) },
        ...{ requirement: row.id, state, until },
      })),
    );
};

// Over a limit, with somebody above it by right whose review is due, or not: both are to be looked at.
const isOfThose = (
  { facts: { columns }, sight, looking: { on } }: Asking,
  id: number,
  which: WhichPositions | undefined,
): boolean => {
  if (which === undefined) return true;
  if (which === 'top') return isUnconfirmedTop(columns, id, on);
  if (which === 'above') return markOf(columns, id, on) === 'over_held';
  return sight.has('placement') && holderDifferences(columns, id, on).length > 0;
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
