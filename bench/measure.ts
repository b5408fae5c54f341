/** Runs something several times and returns the milliseconds of each run, sorted. */
export const timed = async (
  runs: number,
  work: (i: number) => Promise<unknown> | unknown,
): Promise<number[]> => {
  const times: number[] = [];
  for (let i = 0; i < runs; i++) {
    const began = performance.now();
    await work(i);
    times.push(performance.now() - began);
  }
  return times.sort((a, b) => a - b);
};

export const median = (sorted: readonly number[]): number => sorted[Math.floor(sorted.length / 2)] as number;
export const p95 = (sorted: readonly number[]): number =>
  sorted[Math.floor((sorted.length - 1) * 0.95)] as number;

export const ms = (value: number): string => `${value < 10 ? value.toFixed(1) : Math.round(value)} ms`;

export type Line = { what: string; measured: string; budget: string; yardstick: string };

/** Lines as a table in Markdown. */
export const asTable = (lines: readonly Line[]): string =>
  [
    '| part | measured | budget | yardstick in the same run |',
    '|---|---|---|---|',
    ...lines.map(
      ({ what, measured, budget, yardstick }) => `| ${what} | ${measured} | ${budget} | ${yardstick} |`,
    ),
  ].join('\n');
