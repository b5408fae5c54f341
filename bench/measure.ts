import { readFileSync } from 'node:fs';

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

// Hundredths of a second, of all cores, since the machine began: asked for, and given.
const cpuTime = (): { asked: number; given: number } => {
  const [user = 0, nice = 0, system = 0, , , irq = 0, soft = 0, stolen = 0] = readFileSync(
    '/proc/stat',
    'utf8',
  )
    .split('\n', 1)[0]!
    .split(/\s+/)
    .slice(1)
    .map(Number);
  const given = user + nice + system + irq + soft;
  return { asked: given + stolen, given };
};

/**
 * Begins to watch how much of the processor time that was asked for this machine got; the rest went to others on the same
 * hardware, and what is measured takes longer by as much. Answers with percent since then.
 */
export const watchShare = (): (() => number) => {
  const before = cpuTime();
  return () => {
    const { asked, given } = cpuTime();
    return Math.round((100 * (given - before.given)) / Math.max(asked - before.asked, 1));
  };
};

export type Line = { what: string; measured: string; budget: string; yardstick: string; share: number };

/** Lines as a table in Markdown. */
export const asTable = (lines: readonly Line[]): string =>
  [
    '| part | measured | share | budget | yardstick in the same run |',
    '|---|---|---|---|---|',
    ...lines.map(
      ({ what, measured, share, budget, yardstick }) =>
        `| ${what} | ${measured} | ${share} % | ${budget} | ${yardstick} |`,
    ),
  ].join('\n');
