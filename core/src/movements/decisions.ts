import type { MovementKind } from '@gremium/contract';
import type { Decide } from './decide';
import { back, changeReturn, transferForATime } from './for-a-time';
import { changeFullTime } from './full-time';
import { decideHire, decideRehire } from './hire';
import { giveHonour } from './honour';
import { decideLeave } from './leave';
import { changeJob, copyIntoJob, newJob } from './job';
import { changePosition, copyPosition, limitsBySeason, newPosition } from './position';
import { started } from './started';
import { applySteps } from './steps';
import { decideTransfer } from './transfer';
import { mergeUnit, splitUnit } from './regroup-units';
import { changeUnit, closeUnit, newUnit } from './unit';

/** The decision of each kind of movement. */
export const decisions: { [K in MovementKind]: Decide<K> } = {
  hire: decideHire,
  rehire: decideRehire,
  transfer: decideTransfer,
  transfer_for_a_time: transferForATime,
  change_return: changeReturn,
  started,
  back,
  leave: decideLeave,
  give_honour: giveHonour,
  new_position: newPosition,
  change_position: changePosition,
  copy_position: copyPosition,
  limits_by_season: limitsBySeason,
  new_job: newJob,
  change_job: changeJob,
  copy_into_job: copyIntoJob,
  apply_steps: applySteps,
  new_unit: newUnit,
  change_unit: changeUnit,
  close_unit: closeUnit,
  merge_unit: mergeUnit,
  split_unit: splitUnit,
  change_full_time: changeFullTime,
};

/** The decision of a kind that is known only when it runs. */
export const decisionOf = <K extends MovementKind>(kind: K): Decide<K> => decisions[kind] as Decide<K>;
