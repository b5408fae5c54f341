import { z } from 'zod';
import { PositionLimits, PositionSaid } from '../structure/position';
import { Unit, UnitSaid } from '../structure/unit';
import { choice, day, refTo, text } from '../time/section';

const { unitId, jobId, standing, ...described } = PositionSaid.shape;

/** Begins a position: what is left out comes from its job. */
export const NewPositionInput = z.strictObject({
  firstDay: day(),
  unitId: refTo('unit'),
  jobId: refTo('job'),
  standing: choice('planned', 'in_force').default('in_force'),
  ...PositionLimits.partial().shape,
  ...described,
  reason: text().optional(),
});
export type NewPositionInput = z.infer<typeof NewPositionInput>;

/** Changes a position from a day: its standing, its limits, where it stands; what is left out stays. */
export const ChangePositionInput = z.strictObject({
  positionId: refTo('position'),
  firstDay: day(),
  unitId,
  jobId,
  standing,
  ...PositionLimits.partial().shape,
  ...described,
  reason: text().optional(),
});
export type ChangePositionInput = z.infer<typeof ChangePositionInput>;

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
