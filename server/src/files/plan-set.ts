// Several files as one decision: each is planned over the register as those before it leave it, whatever order they came in; what
// names things of a later file, and may be empty, is set when all are there.
import type { Change, Viewer } from '@gremium/contract';
import { type PlainRow, type RowResult, filesInOrder, madeKinds, unionOf } from '@gremium/core';
import type { Deciding, Decision } from '../time/act';
import { type PlanAsk, type PlannedImport, planImport } from './plan-import';
import { planPlainImport } from './plan-plain';

/** One of the files, with what planning it asks for. */
export type SetPart = Omit<PlanAsk, 'viewer' | 'amongOthers'> & {
  id: number;
  subject: string;
  /** The same rows for a plain subject. */
  plainRows: () => Promise<PlainRow[]>;
};

/** Decides an import of several files. Its problems are those of rows. */
export const planSet = async (
  deciding: Deciding,
  parts: readonly SetPart[],
  viewer: Viewer,
): Promise<Decision<PlannedImport>> => {
  const ordered = filesInOrder(deciding.catalogue, parts);
  const results = new Map<number, RowResult[]>();
  const changes: Change[] = [];
  const standIns = new Set<string>();
  const again: { part: SetPart; rows: PlainRow[] }[] = [];
  for (const [i, part] of ordered.entries()) {
    const after = madeKinds(
      deciding.catalogue,
      ordered.slice(i + 1).map(({ subject }) => subject),
    );
    if (part.subject === 'people') {
      const { result } = await planImport(deciding, { ...part, viewer, amongOthers: true });
      for (const one of result.standIns) standIns.add(one);
      results.set(part.id, result.results);
      changes.push(result.change);
      continue;
    }
    const ask = { ...part, rows: part.plainRows, viewer, later: after };
    const { result } = await planPlainImport(deciding, ask);
    results.set(part.id, result.results);
    changes.push(result.change);
    if (result.later.length > 0) again.push({ part, rows: result.later });
  }
  let isWhole = false;
  for (const { part, rows } of again) {
    const ask = { ...part, rows: () => Promise.resolve(rows), viewer };
    const { result } = await planPlainImport(deciding, ask);
    changes.push(result.change);
    isWhole ||= result.results.some(({ status }) => status === 'refused');
    results.set(part.id, joined(results.get(part.id) as RowResult[], result.results));
  }
  const all = ordered.flatMap(({ id }) => results.get(id) as RowResult[]);
  const change = unionOf(changes);
  return {
    change,
    problems: [],
    result: { results: all, change, standIns, parts: results, isWhole },
    isJudged: true,
  };
};

// What a row does, and what became of its second pass: refused there, it is refused.
const joined = (first: readonly RowResult[], second: readonly RowResult[]): RowResult[] => {
  const later = new Map(second.map((one) => [one.row, one]));
  return first.map((one) => {
    const more = later.get(one.row);
    if (!more) return one;
    const status = more.status === 'refused' ? 'refused' : one.status === 'same' ? more.status : one.status;
    return {
      ...one,
      status,
      faults: [...one.faults, ...more.faults],
      warnings: [...one.warnings, ...more.warnings],
      changes: [...one.changes, ...more.changes],
    };
  });
};
