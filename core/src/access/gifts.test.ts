// Which units a gift reaches once those that it names have gone into others: worked out by hand.
import { describe, expect, test } from '@jest/globals';
import type { Day, Grant, Scope } from '@gremium/contract';
import { type Successor, withSuccessors } from './gifts';

const DAY = '2027-01-01' as Day;
const grant = (scope: Scope): Grant => ({ acts: [], sections: {}, scope });
const branch = (unitId: number) => ({ type: 'branch' as const, unitId });
const entity = { type: 'entity' as const, legalEntityId: 9 };
const went = (unitId: number, successorId: number, from = DAY): Successor => ({ unitId, successorId, from });
const reached = (scope: Scope, successors: Successor[], on = DAY) =>
  withSuccessors([grant(scope)], successors, on).map((one) => one.scope);

describe('a branch that went into another one', () => {
  test('is given with that one beside it from the day on, not the day before', () => {
    expect(reached(branch(1), [went(1, 2)])).toEqual([branch(1), branch(2)]);
    expect(reached(branch(1), [went(1, 2)], '2026-12-31' as Day)).toEqual([branch(1)]);
  });

  test('that went on itself leads further; two that went into each other end', () => {
    expect(reached(branch(1), [went(2, 3), went(1, 2)])).toEqual([branch(1), branch(2), branch(3)]);
    expect(reached(branch(1), [went(1, 2), went(2, 1)])).toEqual([branch(1), branch(2)]);
  });

  test('keeps the other conditions', () => {
    expect(reached({ type: 'every', of: [branch(1), entity] }, [went(1, 2)])).toEqual([
      { type: 'every', of: [branch(1), entity] },
      { type: 'every', of: [branch(2), entity] },
    ]);
  });

  test('changes nothing of other grants, which stay the same list', () => {
    const grants = [grant({ type: 'all' }), grant(branch(4)), grant(entity)];
    expect(withSuccessors(grants, [went(1, 2)], DAY)).toBe(grants);
  });
});
