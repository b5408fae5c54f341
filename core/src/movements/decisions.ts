import type { MovementKind } from '@gremium/contract';
import { followAbsences } from '../people/absences';
import {
  acting,
  changeAbsence,
  cover,
  endStandIn,
  longAbsence,
  returnFromAbsence,
  secondPlacement,
} from './absence';
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
import { changePay, changeTerms, extend, payOnce } from './terms';
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
  change_terms: changeTerms,
  change_pay: changePay,
  pay_once: payOnce,
  extend,
  long_absence: longAbsence,
  return_from_absence: returnFromAbsence,
  change_absence: changeAbsence,
  cover,
  acting,
  second_placement: secondPlacement,
  end_stand_in: endStandIn,
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

/** The decision of a kind that is known only when it runs; what is away of a place follows whatever it did to the place. */
export const decisionOf =
  <K extends MovementKind>(kind: K): Decide<K> =>
  (draft, input, given) => {
    const moved = (decisions[kind] as Decide<K>)(draft, input, given);
    if (moved) followAbsences(draft);
    return moved;
  };
