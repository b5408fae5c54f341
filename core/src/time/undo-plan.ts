// Undo by its definition (docs/model.md, "Entries, journal, undo"). The plan asks its caller for what it needs (entries,
// parts of the register) by yielding, so that the same code runs over a whole history in tests and over SQL in the server.
import type { Catalogue, Change, Problem, Row } from '@gremium/contract';
import { ownFieldId, preset } from '@gremium/contract';
import { laws } from '../laws';
import { type Period, overlaps } from './calendar';
import type { NewId } from './draft';
import { madePossible } from './existence';
import { Miss, type RegisterKey } from './knowledge';
import type { Offence } from './offence';
import { isError, problem } from './problem';
import type { Register } from './register';

/** An entry with what it did. `undoes` are ids of entries; an entry is alive unless an alive one undoes it. */
export type PastEntry = Change & { id: number; number: number; undoes: number[] };

/** What a plan asks of whoever carries it out. */
export type UndoAsk =
  /** Entries with all they did, in the order of their numbers. */
  | { ask: 'entries'; ids: number[] }
  /**
   * Ids of alive entries that superseded one of the lineages, or recorded rows that name or belong to one of the things, or
   * undo one of the entries, in the order of their numbers. There may be more of them than depend.
   */
  | { ask: 'dependents'; lineages: number[]; things: number[]; turned: number[] }
  /** A register, without the change, that holds the neighbourhood of what it touches. */
  | { ask: 'register'; change: Change }
  /** What a register that was handed out was asked for and does not know: the answer is nothing, it knows it then. */
  | { ask: 'missed'; key: RegisterKey }
  /** The entry that first recorded each row's lineage, and the one that recorded the row itself. */
  | { ask: 'owners'; rows: Row[] };

/** Which entries go, and the change that takes them back. */
export type UndoPlan = {
  /** Latest first: the order in which they are undone. */
  entries: PastEntry[];
  change: Change;
  /** An error refuses the undo. */
  problems: Problem[];
};

type Asking<T> = Generator<UndoAsk, T, unknown>;

/** The least set of entries to be undone with `target`, and the change that undoes them. */
export function* undoPlan(
  target: number,
  newId: NewId,
  entry: number,
  catalogue: Catalogue = preset,
): Asking<UndoPlan> {
  const known: Known = new Map();
  const [first] = yield* entriesOf([target], known);
  if (!first) return refused([], problem('entry_unknown'));
  const members = new Map([[first.id, first]]);
  for (let fresh = [first]; ;) {
    yield* addDependents(members, fresh, { known, catalogue });
    if (members.size > MOST_ENTRIES) return refused([], problem('undo_too_long', { most: MOST_ENTRIES }));
    const change = yield* reversal(members, entry);
    if (!change) return refused(latestFirst(members), problem('undo_refused'));
    const register = (yield { ask: 'register', change }) as Register;
    const judged = () => {
      register.apply(change);
      try {
        return laws(register, change).filter((offence) => isError(offence.problem));
      } finally {
        register.revert(change);
      }
    };
    const offences = yield* knowing(judged);
    if (offences.length === 0)
      return { entries: latestFirst(members), change: withIds(change, newId), problems: [] };
    const owners = (yield* guilty(offences, first)).filter(({ id }) => !members.has(id));
    if (owners.length === 0)
      return refused(latestFirst(members), problem('undo_refused'), ...offences.map((o) => o.problem));
    for (const owner of owners) members.set(owner.id, owner);
    fresh = owners;
  }
}

/** A longer plan is refused: nobody can judge it, and working it out would hold everybody else up. */
export const MOST_ENTRIES = 200;

const withIds = ({ recorded, superseded }: Change, newId: NewId): Change => ({
  superseded,
  recorded: recorded.map((row) => ({ ...row, id: newId() })),
});

const refused = (entries: PastEntry[], ...problems: Problem[]): UndoPlan => ({
  entries,
  change: { recorded: [], superseded: [] },
  problems,
});

const latestFirst = (members: ReadonlyMap<number, PastEntry>): PastEntry[] =>
  [...members.values()].sort((a, b) => b.number - a.number);

// A step over an open register: what it does not know is asked for, and the step is made again.
function* knowing<T>(step: () => T): Asking<T> {
  for (;;) {
    try {
      return step();
    } catch (error) {
      if (!(error instanceof Miss)) throw error;
      yield { ask: 'missed', key: error.key };
    }
  }
}

type Known = Map<number, PastEntry>;

// Each entry is asked for once.
function* entriesOf(ids: readonly number[], known: Known): Asking<PastEntry[]> {
  const open = ids.filter((id) => !known.has(id));
  const found = open.length > 0 ? ((yield { ask: 'entries', ids: open }) as PastEntry[]) : [];
  for (const entry of found) known.set(entry.id, entry);
  return ids.flatMap((id) => known.get(id) ?? []);
}

// So many are looked at before it is asked whether there are too many already.
const AT_ONCE = 100;

// Adds what depends on fresh members, and on these, until there is nothing more or it is too much. What was found before not
// to depend on others need be compared with the fresh ones only.
function* addDependents(
  members: Map<number, PastEntry>,
  begun: readonly PastEntry[],
  { known, catalogue }: { known: Known; catalogue: Catalogue },
): Asking<void> {
  for (let fresh = begun; fresh.length > 0;) {
    const ground = { ...groundOf(fresh, catalogue), turned: yield* turnedBy(fresh, known) };
    const ids = (yield {
      ask: 'dependents',
      lineages: [...ground.lineages.keys()],
      things: [...ground.things.keys()],
      turned: [...ground.turned.keys()],
    }) as number[];
    const open = ids.filter((id) => !members.has(id));
    const added: PastEntry[] = [];
    for (let i = 0; i < open.length; i += AT_ONCE) {
      for (const later of yield* entriesOf(open.slice(i, i + AT_ONCE), known)) {
        if (!dependsOn(later, ground, catalogue)) continue;
        members.set(later.id, later);
        added.push(later);
      }
      if (members.size > MOST_ENTRIES) return;
    }
    fresh = added;
  }
}

// Entries that undoing entries brought back or took away, each with the number of the member: those they undo, those these
// undo, and so on. Two that cancel each other out leave no row to tell of it.
function* turnedBy(members: readonly PastEntry[], known: Known): Asking<Map<number, number>> {
  const turned = new Map<number, number>();
  for (const { number, undoes } of members)
    for (let open = undoes; open.length > 0;) {
      for (const id of open) turned.set(id, Math.min(number, turned.get(id) ?? number));
      open = (yield* entriesOf(open, known)).flatMap((entry) => entry.undoes);
    }
  return turned;
}

/** What members made: by lineage and by thing (with the days of its existence), each with the number of the entry. */
type Made = { lineages: Map<number, number>; things: Map<number, { number: number; period: Period }[]> };
/** With the entries that they turned. */
type Ground = Made & { turned: Map<number, number> };

const groundOf = (members: readonly PastEntry[], catalogue: Catalogue): Made => {
  const ground: Made = { lineages: new Map(), things: new Map() };
  for (const member of members) {
    const { number } = member;
    for (const { lineage } of member.recorded)
      ground.lineages.set(lineage, Math.min(number, ground.lineages.get(lineage) ?? number));
    for (const [thing, periods] of madePossible(member, catalogue)) {
      const made = ground.things.get(thing) ?? [];
      for (const period of periods) made.push({ number, period });
      ground.things.set(thing, made);
    }
  }
  return ground;
};

const dependsOn = (later: PastEntry, ground: Ground, catalogue: Catalogue): boolean =>
  buildsOn(later, ground) || undoesTurned(later, ground) || refersTo(later, ground, catalogue);

const buildsOn = ({ number, superseded }: PastEntry, { lineages }: Ground): boolean =>
  superseded.some(({ lineage }) => (lineages.get(lineage) ?? Infinity) < number);

// An undo of what a member brought back.
const undoesTurned = ({ number, undoes }: PastEntry, { turned }: Ground): boolean =>
  undoes.some((id) => (turned.get(id) ?? Infinity) < number);

// An undoing entry only records again what others recorded first; those others are asked instead.
const refersTo = (
  { number, undoes, recorded }: PastEntry,
  { things }: Ground,
  catalogue: Catalogue,
): boolean =>
  undoes.length === 0 &&
  recorded.some((row) =>
    named(row, catalogue).some((id) =>
      (things.get(id) ?? []).some((made) => made.number < number && overlaps(made.period, row)),
    ),
  );

const named = (row: Row, catalogue: Catalogue): number[] => {
  const values = row.values as Record<string, unknown>;
  const targets = catalogue.refs(row.section).map(({ field }) => values[field] as number | number[] | null);
  const ids = [row.thing, ...targets, ...definitions(row, catalogue)];
  return ids.flat().filter((id): id is number => id !== null && id !== undefined);
};

// What defines a row of an own section: the section, and the fields of which it has a value.
const definitions = (row: Row, catalogue: Catalogue): number[] => {
  const { own } = catalogue.section(row.section);
  if (own === null) return [];
  const filled = Object.entries(row.values).filter(([, value]) => value !== null);
  return [own, ...filled.flatMap(([name]) => ownFieldId(name) ?? [])];
};

// Undoes the members from the latest to the earliest, lineage by lineage; what ends as it began is left alone. Null where a
// member cannot be taken back: an undone entry is to come back whose ground has itself been undone since.
function* reversal(members: ReadonlyMap<number, PastEntry>, entry: number): Asking<Change | null> {
  const ordered = latestFirst(members);
  const rows = new Map<number, Row>();
  for (const { recorded, superseded } of ordered)
    for (const row of [...recorded, ...superseded]) rows.set(row.lineage, row);
  const touched = { recorded: [...rows.values()], superseded: [] };
  const register = (yield { ask: 'register', change: touched }) as Register;
  const liveNow = yield* knowing(() => {
    const found = new Map<number, Row>();
    for (const { section, thing, lineage } of rows.values()) {
      const live = register.rows(section, thing).find((row) => row.lineage === lineage);
      if (live) found.set(lineage, live);
    }
    return found;
  });
  const live = new Set(liveNow.keys());
  for (const { recorded, superseded } of ordered) {
    if (!recorded.every(({ lineage }) => live.delete(lineage))) return null;
    if (superseded.some(({ lineage }) => live.has(lineage))) return null;
    for (const { lineage } of superseded) live.add(lineage);
  }
  return {
    superseded: [...liveNow.values()].filter(({ lineage }) => !live.has(lineage)),
    recorded: [...live]
      .filter((lineage) => !liveNow.has(lineage))
      // real ids are given when the plan is complete
      .map((lineage) => ({ ...(rows.get(lineage) as Row), id: -lineage, entry })),
  };
}

// Whoever recorded an offending row after the target: its first owner if that is later, else the undo that brought it back.
function* guilty(offences: Offence[], first: PastEntry): Asking<PastEntry[]> {
  const rows = offences.flatMap((offence) => [...offence.rows]);
  const owners = (yield { ask: 'owners', rows }) as {
    lineage: number;
    first: PastEntry;
    now: PastEntry | null;
  }[];
  const later = owners.flatMap((owner) => {
    if (owner.first.number > first.number) return [owner.first];
    return owner.now && owner.now.number > first.number ? [owner.now] : [];
  });
  return [...new Map(later.map((owner) => [owner.id, owner])).values()];
}

/** Ids of the entries that are undone: an alive entry undoes them. Entries in the order of their numbers. */
export const undoneEntries = (entries: readonly Pick<PastEntry, 'id' | 'undoes'>[]): Map<number, number> => {
  const undone = new Map<number, number>();
  for (const { id, undoes } of [...entries].reverse())
    if (!undone.has(id)) for (const member of undoes) undone.set(member, id);
  return undone;
};

/** Answers an undo plan from a whole history in memory. */
export const planFromHistory = (
  target: number,
  history: readonly PastEntry[],
  register: Register,
  newId: NewId,
): UndoPlan => {
  const undone = undoneEntries(history);
  if (undone.has(target)) return refused([], problem('already_undone'));
  const alive = history.filter(({ id }) => !undone.has(id));
  const recordedBy = (lineage: number, key: 'id' | 'lineage') =>
    alive.find(({ recorded }) => recorded.some((row) => row[key] === lineage));
  const answer = (asked: UndoAsk): unknown => {
    if (asked.ask === 'entries') return history.filter(({ id }) => asked.ids.includes(id));
    if (asked.ask === 'register') return register;
    if (asked.ask === 'dependents') return alive.map(({ id }) => id);
    // a whole history lacks nothing
    if (asked.ask === 'missed') return undefined;
    return asked.rows.flatMap(({ id, lineage }) => {
      const owner = recordedBy(lineage, 'id');
      return owner ? [{ lineage, first: owner, now: recordedBy(id, 'id') ?? null }] : [];
    });
  };
  const plan = undoPlan(target, newId, newId(), register.catalogue);
  for (let step = plan.next(); ; step = plan.next(answer(step.value))) if (step.done) return step.value;
};

/**
 * Puts back one thing only, as an ordinary new entry: what `entry` recorded of it is superseded, what it superseded is
 * recorded again. Error `put_back_superseded` if something later was built on it.
 */
export const putBack = (
  past: PastEntry,
  thing: number,
  register: Register,
  { newId, entry }: { newId: NewId; entry: number },
): { change: Change; problems: Problem[] } => {
  const change: Change = { recorded: [], superseded: [] };
  for (const row of past.recorded.filter((r) => r.thing === thing)) {
    const live = register.rows(row.section, thing).find(({ lineage }) => lineage === row.lineage);
    if (!live) return { change, problems: [problem('put_back_superseded')] };
    change.superseded.push(live);
  }
  for (const row of past.superseded.filter((r) => r.thing === thing))
    change.recorded.push({ ...row, id: newId(), entry });
  return { change, problems: [] };
};
