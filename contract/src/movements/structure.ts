import { z } from 'zod';
import { PositionLimits, PositionSaid } from '../structure/position';
import { Unit, UnitSaid } from '../structure/unit';
import { choice, day, refTo, text, whole } from '../time/section';

const { unitId, jobId, standing, ...described } = PositionSaid.shape;

/** Begins a position, or several alike: what is left out comes from its job. */
export const NewPositionInput = z.strictObject({
  firstDay: day(),
  unitId: refTo('unit'),
  jobId: refTo('job'),
  count: whole(1, 200).optional(),
  standing: choice('planned', 'in_force').default('in_force'),
  ...PositionLimits.partial().shape,
  ...described,
  reason: text().optional(),
});
export type NewPositionInput = z.infer<typeof NewPositionInput>;

/** Begins positions like another one: what is left out is as there, its requirements and dotted lines too. */
export const CopyPositionInput = z.strictObject({
  likeId: refTo('position'),
  firstDay: day(),
  unitId,
  jobId,
  count: whole(1, 200).optional(),
  standing: choice('planned', 'in_force').default('in_force'),
  ...PositionLimits.partial().shape,
  ...described,
  reason: text().optional(),
});
export type CopyPositionInput = z.infer<typeof CopyPositionInput>;

/**
 * Changes a position from a day, or until a last one: its standing, its limits, where it stands; what is left out stays. Hours
 * and cost centre carry to its holders, or they keep what they have; `others`: placements for which the other of the two holds.
 */
export const ChangePositionInput = z.strictObject({
  positionId: refTo('position'),
  firstDay: day(),
  /** After it what was there before holds again. */
  lastDay: day().optional(),
  unitId,
  jobId,
  standing,
  ...PositionLimits.partial().shape,
  ...described,
  /** Left out: they follow. */
  holders: choice('follow', 'keep').optional(),
  others: z.array(refTo('placement')).max(500).optional(),
  reason: text().optional(),
});
export type ChangePositionInput = z.infer<typeof ChangePositionInput>;

/** Limits that are others in a season, every year: from its first to its last day, and on the other days. */
export const LimitsBySeasonInput = z.strictObject({
  positionId: refTo('position'),
  /** The first day of the first season; the day and month of those that follow. */
  firstDay: day(),
  lastDay: day(),
  years: whole(1, 30).default(5),
  places: PositionLimits.shape.places.optional(),
  fte: PositionLimits.shape.fte.optional(),
  otherPlaces: PositionLimits.shape.places.optional(),
  otherFte: PositionLimits.shape.fte.optional(),
  reason: text().optional(),
});
export type LimitsBySeasonInput = z.infer<typeof LimitsBySeasonInput>;

/** Begins a unit. */
export const NewUnitInput = z.strictObject({
  firstDay: day(),
  ...UnitSaid.shape,
  name: Unit.shape.name,
  kindId: Unit.shape.kindId,
  /** The unit above; none only for the first of all. */
  parentId: refTo('unit').nullable().default(null),
  reason: text().optional(),
});
export type NewUnitInput = z.infer<typeof NewUnitInput>;

/** Changes a unit from a day: its name, what is above it (its branch moves along), who leads it. What is left out stays. */
export const ChangeUnitInput = z.strictObject({
  unitId: refTo('unit'),
  firstDay: day(),
  ...UnitSaid.shape,
  reason: text().optional(),
});
export type ChangeUnitInput = z.infer<typeof ChangeUnitInput>;

/** Closes a unit after its last day; refused while anything stands in it. */
export const CloseUnitInput = z.strictObject({
  unitId: refTo('unit'),
  lastDay: day(),
  reason: text().optional(),
});
export type CloseUnitInput = z.infer<typeof CloseUnitInput>;

/** Merges a unit into another one from a day: all that stands in it moves there, and it closes the day before. */
export const MergeUnitInput = z.strictObject({
  unitId: refTo('unit'),
  intoId: refTo('unit'),
  firstDay: day(),
  reason: text().optional(),
});
export type MergeUnitInput = z.infer<typeof MergeUnitInput>;

/** Splits a new unit off another one from a day, beside it, with the positions and units below that go along. */
export const SplitUnitInput = z.strictObject({
  unitId: refTo('unit'),
  firstDay: day(),
  name: Unit.shape.name,
  /** Proposed if left out. */
  code: Unit.shape.code.optional(),
  /** Left out: that of the unit it comes from. */
  kindId: Unit.shape.kindId.optional(),
  positionIds: z.array(refTo('position')).max(500).default([]),
  unitIds: z.array(refTo('unit')).max(500).default([]),
  reason: text().optional(),
});
export type SplitUnitInput = z.infer<typeof SplitUnitInput>;
