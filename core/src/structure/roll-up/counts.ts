// Whole numbers of each unit, by its place among those of the day.
import { marksInOrder } from '../mark';

/** Figures that are plain whole numbers. */
export const COUNTS = ['people', 'notCounted', 'freePlaces', 'managers', 'reports'] as const;
/** Figures of units by their dense indices. */
export type Counts = Record<(typeof COUNTS)[number], Int32Array> & { depth: Int32Array; marks: Int32Array[] };

/** Counts of n units, all 0. */
export const noCounts = (n: number): Counts => ({
  people: new Int32Array(n),
  notCounted: new Int32Array(n),
  freePlaces: new Int32Array(n),
  managers: new Int32Array(n),
  reports: new Int32Array(n),
  depth: new Int32Array(n),
  marks: marksInOrder.map(() => new Int32Array(n)),
});
