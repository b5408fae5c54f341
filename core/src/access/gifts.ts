// What was given to an account: on which days a role holds, and where a unit that it names lives on in another one.
import { type AccountRole, type Condition, type Day, type Grant, conditionsOf } from '@gremium/contract';
import { isBefore } from '../time/calendar';

/** Whether a role given to an account holds on a day. */
export const isGiven = ({ from, lastDay }: AccountRole, on: Day): boolean =>
  (from === undefined || !isBefore(on, from)) && (lastDay === undefined || !isBefore(lastDay, on));

/** The roles of an account that hold on a day. */
export const givenOn = <G extends AccountRole>(roles: readonly G[], on: Day): G[] =>
  roles.filter((role) => isGiven(role, on));

/** A unit that went into another one, and the first day it is no longer there itself. */
export type Successor = { unitId: number; successorId: number; from: Day };

/** A unit, and those it went into by a day, one after the other. */
const livesOnIn = (successors: readonly Successor[], unitId: number, on: Day): number[] => {
  const found = [unitId];
  for (const id of found)
    for (const one of successors)
      if (one.unitId === id && !isBefore(on, one.from) && !found.includes(one.successorId))
        found.push(one.successorId);
  return found;
};

/**
 * Grants, where a branch that they name has gone into another one by `on` with that one beside it: who has a branch keeps it after
 * a merger. The branch itself stays: its days before it went are theirs to see still.
 */
export const withSuccessors = (given: Grant[], successors: readonly Successor[], on: Day): Grant[] => {
  const also = given.flatMap((grant): Grant[] => {
    const each = conditionsOf(grant.scope).map((one) =>
      one.type === 'branch'
        ? livesOnIn(successors, one.unitId, on).map((unitId): Condition => ({ type: 'branch', unitId }))
        : [one],
    );
    const all = each.reduce<Condition[][]>(
      (lists, choices) => lists.flatMap((list) => choices.map((one) => [...list, one])),
      [[]],
    );
    // the first is the grant as it was given
    return all.slice(1).map((of) => ({
      ...grant,
      scope: of.length === 1 ? (of[0] as Condition) : { type: 'every', of },
    }));
  });
  return also.length === 0 ? given : [...given, ...also];
};
