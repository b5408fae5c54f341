import { z } from 'zod';
import { Code, Text, refTo, section } from '../time/section';

/** A node of the organisation tree. What is null is inherited from the nearest unit above that says it. */
export const Unit = z.strictObject({
  code: Code,
  name: Text,
  kindId: refTo('list_entry'),
  parentId: refTo('unit').nullable(),
  headPositionId: refTo('position').nullable(),
  locationId: refTo('location').nullable(),
  costCentreId: refTo('cost_centre').nullable(),
  legalEntityId: refTo('legal_entity').nullable(),
  hiresNeedPosition: z.boolean().nullable(),
});
export type Unit = z.infer<typeof Unit>;
export const unit = section('unit', 'unit', Unit);

/** Values a unit gives to its hires. */
export const UnitHiring = z.strictObject({
  jobId: refTo('job').nullable(),
  locationId: refTo('location').nullable(),
  workerTypeId: refTo('list_entry').nullable(),
  contractKindId: refTo('list_entry').nullable(),
  /** Hours a week worked, in hundredths. */
  hours: z.int().min(1).max(16800).nullable(),
});
export type UnitHiring = z.infer<typeof UnitHiring>;
export const unitHiring = section('unit_hiring', 'unit', UnitHiring);
