import type { AccountRole, Day } from '@gremium/contract';
import { isBefore } from '../time/calendar';

/** Whether a role given to an account holds on a day. */
export const isGiven = ({ from, lastDay }: AccountRole, on: Day): boolean =>
  (from === undefined || !isBefore(on, from)) && (lastDay === undefined || !isBefore(lastDay, on));

/** The roles of an account that hold on a day. */
export const givenOn = <G extends AccountRole>(roles: readonly G[], on: Day): G[] =>
  roles.filter((role) => isGiven(role, on));
