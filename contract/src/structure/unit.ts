import { z } from 'zod';
import { code, hours, list, quiet, refTo, refToPast, section, text, yesNo } from '../time/section';

/** A node of the organisation tree. What is null is inherited from the nearest unit above that says it. */
export const Unit = z.strictObject({
  name: text(),
  code: code(),
  kindId: list('unit_kind'),
  parentId: refTo('unit', { followed: true }).nullable(),
  headPositionId: refTo('position', { followed: true }).nullable(),
  locationId: refTo('location').nullable(),
  costCentreId: refTo('cost_centre').nullable(),
  legalEntityId: refTo('legal_entity').nullable(),
  hiresNeedPosition: yesNo().nullable(),
  /** The collective agreement of those who work here; its full-time hours hold for them. */
  agreementId: list('agreement').nullable(),
  /** Of a unit that was merged: the one that took it in. */
  successorId: quiet(refToPast('unit').nullable()),
  /** Of a unit that was split off: the one it came from. */
  predecessorId: quiet(refToPast('unit').nullable()),
});
export type Unit = z.infer<typeof Unit>;
/** What is said of a unit; the rest follows from how it was merged or split. */
export const UnitSaid = Unit.omit({ successorId: true, predecessorId: true }).partial();
/** Seen where it stands in the tree, on its own days. */
export const unit = section('unit', 'unit', Unit, { scope: 'own_days' });

/** Values a unit gives to its hires. */
export const UnitHiring = z.strictObject({
  jobId: refTo('job').nullable(),
  locationId: refTo('location').nullable(),
  workerTypeId: list('worker_type').nullable(),
  contractKindId: list('contract_kind').nullable(),
  /** Hours a week worked, in hundredths. */
  hours: hours(z.int().min(1).max(16800)).nullable(),
});
export type UnitHiring = z.infer<typeof UnitHiring>;
/** Beside the unit, with days of its own. */
export const unitHiring = section('unit_hiring', 'unit', UnitHiring);
