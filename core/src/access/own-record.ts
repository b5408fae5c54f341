import type { Change, Problem, Row } from '@gremium/contract';
import { problem } from '../time/problem';
import type { Register } from '../time/register';
import { personBehind } from './owner';

/** Nobody records their own pay, contract, placement or employment, on whatever way (`own_record`). Asked after the change. */
export const ownRecord = (change: Change, personId: number | null, register: Register): Problem[] => {
  if (personId === null) return [];
  const isOwn = (row: Row): boolean =>
    register.catalogue.section(row.section).notByOneself && personBehind(register, row) === personId;
  return [...change.recorded, ...change.superseded].some(isOwn) ? [problem('own_record')] : [];
};
