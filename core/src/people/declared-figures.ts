// What people declared of themselves, as figures that give nobody away.

/** How often something was declared; null where that is not told. */
export type DeclaredCell = { factId: number; count: number | null };
/** The answers to one question; the total where it gives nothing away. */
export type DeclaredFigures = { cells: DeclaredCell[]; total: number | null };

/** Fewer than so many are not told. */
export const LEAST_TOLD = 5;

/**
 * Counts of answers to one question, those under five left out. What is left out could be had by taking the others from the
 * total: so the next smallest are left out as well until those left out are two at least, and five people at least; where
 * that cannot be, there is no total.
 */
export const toldFigures = (counts: ReadonlyMap<number, number>): DeclaredFigures => {
  const all = [...counts].map(([factId, count]) => ({ factId, count }));
  const sorted = [...all].sort((a, b) => a.count - b.count || a.factId - b.factId);
  const hidden = new Set(sorted.filter(({ count }) => count > 0 && count < LEAST_TOLD));
  const sum = () => [...hidden].reduce((total, { count }) => total + count, 0);
  for (const one of sorted) {
    if (hidden.size === 0 || (hidden.size >= 2 && sum() >= LEAST_TOLD)) break;
    if (one.count > 0) hidden.add(one);
  }
  const isSafe = hidden.size === 0 || (hidden.size >= 2 && sum() >= LEAST_TOLD);
  return {
    cells: all.map((one) => ({ factId: one.factId, count: hidden.has(one) ? null : one.count })),
    total: isSafe ? all.reduce((total, { count }) => total + count, 0) : null,
  };
};
