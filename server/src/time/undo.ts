import type { Catalogue, Row, SectionName } from '@gremium/contract';
import { type PastEntry, type UndoAsk, type UndoPlan, problem, undoneEntries, undoPlan } from '@gremium/core';
import type { ClientBase } from 'pg';
import { type Db, many, maybeOne, one } from '../database/sql';
import type { Deciding, Decision } from './act';
import { undoings } from './journal.sql';
import { dependentEntries, entryHeads, entryOfNumber, recordersOf, rowsTouchedBy } from './undo.sql';
import { allOf } from './version.sql';

/** An entry that undoes others: their ids. */
export type Undoing = { id: number; number: number; undoes: number[] };

/** Which entries are undone, and by which entry in force. */
export const undoneBy = (rows: readonly Undoing[]): Map<number, { id: number; number: number }> => {
  const numbers = new Map(rows.map(({ id, number }) => [id, number]));
  return new Map(
    [...undoneEntries(rows)].map(([id, by]) => [id, { id: by, number: numbers.get(by) as number }]),
  );
};

/** Of some entries, which are undone, and by which entry in force. */
export const undoneAmong = async (db: Db, ids: readonly number[]) =>
  undoneBy((await one<{ undoings: Undoing[] }>(db, undoings(ids))).undoings);

type Head = { id: number; number: number; undoes: number[]; sections: SectionName[] };

/** Entries with all they recorded and superseded, of the sections they touched. For decisions. */
export const pastEntries = async (
  tx: ClientBase,
  catalogue: Catalogue,
  ids: readonly number[],
): Promise<PastEntry[]> => {
  const heads = await many<Head>(tx, entryHeads(ids));
  const past = new Map(
    heads.map(({ id, number, undoes }): [number, PastEntry] => [
      id,
      { id, number, undoes: undoes.map(Number), recorded: [], superseded: [] },
    ]),
  );
  const sections = [...new Set(heads.flatMap((head) => head.sections))].filter((name) => catalogue.has(name));
  if (sections.length === 0) return [...past.values()];
  const queries = sections.map((name) => rowsTouchedBy(catalogue.section(name), ids));
  for (const found of await many<Row & { supersededBy: number | null }>(tx, allOf(queries))) {
    const { supersededBy, ...row } = found;
    past.get(row.entry)?.recorded.push(row);
    if (supersededBy !== null) past.get(supersededBy)?.superseded.push(row);
  }
  return [...past.values()];
};

// Ids of entries that superseded one of the lineages, or recorded rows of, or naming, one of the things.
const dependents = async (
  tx: ClientBase,
  catalogue: Catalogue,
  asked: { lineages: number[]; things: number[]; turned: number[] },
): Promise<number[]> => {
  const found = await many<{ id: number }>(tx, dependentEntries(catalogue, asked));
  const undone = await undoneAmong(
    tx,
    found.map(({ id }) => id),
  );
  return found.flatMap(({ id }) => (undone.has(id) ? [] : id));
};

// Who first recorded each row's lineage, and who recorded the row itself (if it is recorded at all).
const owners = async (tx: ClientBase, catalogue: Catalogue, rows: readonly Row[]) => {
  const queries = [...new Set(rows.map((row) => row.section))].map((section) => {
    const lineages = rows.filter((row) => row.section === section).map(({ lineage }) => lineage);
    return recordersOf(catalogue.section(section), lineages);
  });
  const found = await many<{ id: number; entry: number }>(tx, allOf(queries));
  const firsts = new Map(found.map(({ id, entry }) => [id, entry]));
  const ids = new Set([...firsts.values(), ...rows.map(({ entry }) => entry)]);
  const past = new Map((await pastEntries(tx, catalogue, [...ids])).map((entry) => [entry.id, entry]));
  return rows.flatMap(({ lineage, entry }) => {
    const first = past.get(firsts.get(lineage) ?? -1);
    return first ? [{ lineage, first, now: past.get(entry) ?? null }] : [];
  });
};

/** Works out the undo plan of an entry from SQL. */
export const planUndo = async (deciding: Deciding, entryNumber: number): Promise<UndoPlan> => {
  const { tx, near, newId, entry, catalogue } = deciding;
  const nothing = { entries: [], change: { recorded: [], superseded: [] } };
  const target = await maybeOne<{ id: number }>(tx, entryOfNumber(entryNumber));
  if (!target) return { ...nothing, problems: [problem('entry_unknown', { number: entryNumber })] };
  const by = (await undoneAmong(tx, [target.id])).get(target.id);
  if (by)
    return { ...nothing, problems: [problem('already_undone', { number: entryNumber, by: by.number })] };
  const answer = async (asked: UndoAsk): Promise<unknown> => {
    if (asked.ask === 'entries') return pastEntries(tx, catalogue, asked.ids);
    if (asked.ask === 'dependents') return dependents(tx, catalogue, asked);
    if (asked.ask === 'owners') return owners(tx, catalogue, asked.rows);
    if (asked.ask === 'missed') return near.fetch(asked.key);
    return near.loadFor(asked.change);
  };
  const plan = undoPlan(target.id, newId, entry, catalogue);
  for (let step = plan.next(); ; step = plan.next(await answer(step.value))) if (step.done) return step.value;
};

/** The decision to undo an entry by the plan that was shown; refused if it has become another. */
export const decideUndo = async (
  deciding: Deciding,
  entryNumber: number,
  shown: readonly number[] | null,
): Promise<Decision<UndoPlan>> => {
  const plan = await planUndo(deciding, entryNumber);
  const numbers = plan.entries.map(({ number }) => number);
  const isOther = shown !== null && plan.problems.length === 0 && shown.join() !== numbers.join();
  const problems = isOther ? [problem('undo_plan_changed', { plan: numbers.join(', ') })] : plan.problems;
  return { change: plan.change, problems, result: plan, undoes: plan.entries.map(({ id }) => id) };
};
