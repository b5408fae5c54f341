/** A row as far as a chart chooses by it: its values by month, and how much it weighs beside others. */
type Weighed = { key: string; values: readonly (number | null)[]; weight: number };

/** So many lines can be told apart. */
export const MOST_LINES = 5;

const peak = ({ values }: Weighed): number =>
  Math.max(-Infinity, ...values.map((value) => value ?? -Infinity));

/** The rows a chart draws: those that weigh most, in that order, with the one that reaches highest always among them. */
export const chartLines = <R extends Weighed>(rows: readonly R[]): R[] => {
  const byWeight = [...rows].sort((a, b) => b.weight - a.weight);
  const largest = byWeight.slice(0, MOST_LINES);
  const highest = byWeight.reduce<R | undefined>(
    (high, row) => (high === undefined || peak(row) > peak(high) ? row : high),
    undefined,
  );
  if (!highest || largest.includes(highest) || peak(highest) === peak(largest[0] as R)) return largest;
  return [...largest.slice(0, MOST_LINES - 1), highest];
};
