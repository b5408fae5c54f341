// Who reports to somebody, asked of the register in memory for those whose scope says so, and kept until the next entry.
import type { ConditionOf } from '@gremium/contract';
import { may } from '@gremium/contract';
import type { Asking } from '../time/questions';
import type { Lines, LinesBelow, Seer } from '../time/catalogues';
import { look } from '../time/lens';
import type { RegisterThread } from '../time/register-thread';
import type { Server } from '../time/act';
import { boundOf, dayNumber } from '@gremium/core';

type Depth = ConditionOf<'reports'>['depth'];

const noLines = (): Lines => ({ things: [], from: [], until: [] });

const add = (lines: Lines, thing: number, [from, until]: readonly [number, number]): void => {
  lines.things.push(thing);
  lines.from.push(boundOf(from));
  lines.until.push(boundOf(until));
};

export const accessQuestions = {
  /** The days on which positions, and placements in them, report to the viewer. */
  linesBelow: ({ facts, sight }: Asking, { depth }: { depth: Depth }): LinesBelow => {
    const found = { positions: noLines(), placements: noLines() };
    const { personId } = sight.viewer;
    if (personId === null) return found;
    const { columns } = facts;
    const below = facts.reporting.below(personId, depth);
    for (const positionId of below.positions) {
      for (const days of below.days({ positionId, personId: null })) add(found.positions, positionId, days);
      for (const { thing, from, until, values } of columns.referrers('placement', 'positionId', positionId)) {
        const holder = columns.rows('employment', values.employmentId)[0]?.values.personId ?? null;
        for (const days of below.days({ positionId, personId: holder })) {
          const cut = [Math.max(days[0], dayNumber(from)), Math.min(days[1], dayNumber(until))] as const;
          if (cut[0] < cut[1]) add(found.placements, thing, cut);
        }
      }
    }
    return found;
  },
};

const MOST_KEPT = 50;

/** Gives whoever asks what reports to them, where a scope of theirs asks that. */
export class LinesKept {
  private readonly kept = new Map<string, LinesBelow>();

  constructor(
    private readonly server: Pick<Server, 'pool' | 'clock'>,
    private readonly register: RegisterThread,
  ) {}

  /** `entry`: the number of the last entry, as of which they are wanted at least. */
  async know(viewer: Seer, entry: number): Promise<Seer> {
    const depths = may(viewer)
      .conditions('reports')
      .map(({ depth }) => depth);
    if (depths.length === 0) return viewer;
    const below: Seer['below'] = {};
    for (const depth of new Set(depths)) {
      const key = `${viewer.personId} ${depth} ${entry}`;
      const found = this.kept.get(key) ?? (await this.ask(viewer, depth));
      if (this.kept.size >= MOST_KEPT) this.kept.clear();
      this.kept.set(key, found);
      below[depth] = found;
    }
    return { ...viewer, below };
  }

  private async ask(viewer: Seer, depth: Depth): Promise<LinesBelow> {
    const looking = await look(this.server.pool, this.server.clock, {});
    return this.register.ask('linesBelow', { viewer, looking }, { depth });
  }
}
