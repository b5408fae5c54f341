import type { Day, Fault } from '@gremium/contract';
import { CLEAR } from '@gremium/contract';
import { placementOf, spellsOf } from '../people/employments';
import { fold } from '../people/names';
import { managerOf } from '../structure/manager';
import { isBefore } from '../time/calendar';
import { Draft } from '../time/draft';
import { problem } from '../time/problem';
import type { Importing, Planned } from './import-people';
import { emailKey, type People } from './recognise';

type Target = { personId: number } | { refused: Planned } | { fault: Fault };

const fault = (found: ReturnType<typeof problem>, ...offers: string[]): { fault: Fault } => ({
  fault: { field: 'manager', problem: found, offers },
});

/** Finds the managers that rows name: by number, email or name, on the register or in the file, in any order of rows. */
export class Managers {
  private readonly inFile = new Map<string, Set<Planned>>();

  constructor(
    private readonly people: People,
    private readonly importing: Importing,
    rows: readonly Planned[],
  ) {
    if (!rows.some(({ cells }) => cells.manager !== undefined)) return;
    for (const row of rows) {
      const { number, email, given, family, name } = row.cells;
      const keys = [number, email && emailKey(email), name && fold(name)];
      for (const key of [...keys, fold([given, family].filter(Boolean).join(' '))])
        if (key) this.inFile.set(key, (this.inFile.get(key) ?? new Set()).add(row));
    }
  }

  /** A draft that has each position report to the manager its row names, where the rule would give another. */
  set(row: Planned, taken: Map<number, { managerId: number; positionId: number }>): Draft | { fault: Fault } {
    const { register, newId, entry } = this.importing;
    const draft = new Draft(register, newId, entry);
    const { personId, on } = row;
    const own = personId === null ? undefined : placementOf(register, personId, on);
    if (!own || personId === null) return draft;
    const { positionId } = own.values;
    if (row.cells.manager?.toLowerCase() === CLEAR) {
      if (typeof register.at('position', positionId, on)?.reportsToId === 'number')
        draft.set('position', positionId, { from: on, values: { reportsToId: null } });
      return draft;
    }
    const target = this.find(row.cells.manager as string);
    if ('fault' in target) return target;
    if ('refused' in target) return fault(problem('manager_refused', { row: target.refused.row }));
    const { personId: managerId } = target;
    const before = taken.get(positionId);
    if (before && before.managerId !== managerId)
      return fault(problem('manager_differs', { name: this.people.nameOn(before.managerId, on) }));
    if (managerId === personId) return fault(problem('manager_ring'));
    taken.set(positionId, { managerId, positionId });
    const since = this.placedFrom(managerId, on);
    if (since === null || !isBefore(since, own.until)) return fault(problem('manager_unplaced', { day: on }));
    if (managerOf(register, personId, since)?.personId === managerId) return draft;
    const at = placementOf(register, managerId, since)?.values.positionId;
    if (at === undefined || at === positionId) return fault(problem('manager_ring'));
    draft.set('position', positionId, { from: since, values: { reportsToId: at } });
    return draft;
  }

  // From when somebody can lead from a day on: that day, or the first on which they hold a position.
  private placedFrom(personId: number, on: Day): Day | null {
    const { register } = this.importing;
    if (placementOf(register, personId, on)) return on;
    const [next] = spellsOf(register, personId).filter(({ from }) => isBefore(on, from));
    return next && placementOf(register, personId, next.from) ? (next.from as Day) : null;
  }

  private find(text: string): Target {
    const known = new Set<number>();
    const number = this.people.byNumber.get(text);
    if (number !== undefined) known.add(number);
    const texts = [emailKey(text), fold(text)];
    for (const id of [...this.people.withEmail(text), ...this.people.withName(text)]) known.add(id);
    const seen = [...known].filter((id) => this.importing.sees('person_name', id));
    const rows = [text, ...texts].flatMap((key) => [...(this.inFile.get(key) ?? [])]);
    const ids = new Set(seen);
    for (const row of rows) if (row.personId !== null && row.faults.length === 0) ids.add(row.personId);
    const [first, ...others] = ids;
    if (others.length > 0)
      return fault(
        problem('value_ambiguous', { text }),
        ...[...ids].map((id) => this.people.numberOf(id)).filter(Boolean),
      );
    if (first !== undefined) return { personId: first };
    const [refused] = rows;
    return refused ? { refused } : fault(problem('value_unknown', { text }));
  }
}
