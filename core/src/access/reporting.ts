// Who reports to whom, for scans: the days on which a place reports to one person, worked out for those places only that ever
// may, and kept while nothing is recorded that could change it.
import type { ConditionOf } from '@gremium/contract';
import { dayNumber } from '../time/calendar';
import type { Columns } from '../time/columns';
import { Pieces } from '../time/pieces';
import { type Spot, reportsTo } from './inside';

type Depth = ConditionOf<'reports'>['depth'];
/** First day and the day after the last, as numbers. */
export type Days = readonly [number, number];

const MOVES_LINES = new Set(['unit', 'position', 'placement', 'employment']);
const MOST_KEPT = 20;

/** The places that report to one person, and when. */
export class Below {
  private readonly near: ReadonlySet<number>;
  private readonly pieces: Pieces;
  private readonly known = new Map<string, readonly Days[]>();

  constructor(
    private readonly columns: Columns,
    private readonly to: number,
    private readonly depth: Depth,
  ) {
    this.near = everBelow(columns, to);
    this.pieces = new Pieces(columns);
  }

  /** Days on which whoever holds the position (ids; nobody: the position itself) reports to the person. */
  days({ positionId, personId }: Pick<Spot, 'positionId' | 'personId'>): readonly Days[] {
    if (!this.near.has(positionId)) return NEVER;
    const key = `${positionId} ${personId ?? 0}`;
    const known = this.known.get(key) ?? this.found({ positionId, personId });
    this.known.set(key, known);
    return known;
  }

  /** All positions that ever may report to the person. */
  get positions(): Iterable<number> {
    return this.near;
  }

  private found(spot: Pick<Spot, 'positionId' | 'personId'>): Days[] {
    const { columns, to, depth } = this;
    return columns
      .rows('position', spot.positionId)
      .flatMap((row) =>
        this.pieces
          .over(row, (reading, on) => reportsTo(reading, spot, { to, depth, on }))
          .flatMap(({ from, until, value }): Days[] => (value ? [[dayNumber(from), dayNumber(until)]] : [])),
      );
  }
}

const NEVER: readonly Days[] = [];

// Positions that on any day may be below one that the person holds on any day: more than there are, never fewer.
const everBelow = (columns: Columns, person: number): Set<number> => {
  const employments = columns.referrers('employment', 'personId', person).map(({ thing }) => thing);
  const open = [...new Set(employments)].flatMap((id) =>
    columns.referrers('placement', 'employmentId', id).map(({ values }) => values.positionId),
  );
  const [reached, found, units] = [new Set(open), new Set<number>(), new Set<number>()];
  const reach = (id: number) => {
    found.add(id);
    if (!reached.has(id)) open.push(id);
    reached.add(id);
  };
  const enter = (unit: number) => {
    if (units.has(unit)) return;
    units.add(unit);
    for (const { thing } of columns.referrers('position', 'unitId', unit)) reach(thing);
    for (const { thing } of columns.referrers('unit', 'parentId', unit)) enter(thing);
  };
  for (let id = open.pop(); id !== undefined; id = open.pop()) {
    for (const { thing } of columns.referrers('position', 'reportsToId', id)) reach(thing);
    for (const { thing } of columns.referrers('unit', 'headPositionId', id)) enter(thing);
  }
  return found;
};

/** Lines of reporting by person, kept until an entry moves one. */
export class Reporting {
  private readonly kept = new Map<string, Below>();

  constructor(private readonly columns: Columns) {
    columns.follow(({ recorded, superseded }) => {
      if ([...recorded, ...superseded].some(({ section }) => MOVES_LINES.has(section))) this.kept.clear();
    });
  }

  /** What reports to a person, directly or at all. */
  below(person: number, depth: Depth): Below {
    const key = `${person} ${depth}`;
    const known = this.kept.get(key) ?? new Below(this.columns, person, depth);
    if (this.kept.size >= MOST_KEPT) this.kept.delete(this.kept.keys().next().value as string);
    this.kept.set(key, known);
    return known;
  }
}
