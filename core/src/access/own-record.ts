import type { Change, Problem, Row, SectionName } from '@gremium/contract';
import { problem } from '../time/problem';
import type { Register } from '../time/register';

const OWN: readonly SectionName[] = ['pay', 'contract', 'placement', 'employment'];

/** Nobody records their own pay, contract, placement or employment, on whatever way (`own_record`). Asked after the change. */
export const ownRecord = (change: Change, personId: number | null, register: Register): Problem[] => {
  if (personId === null) return [];
  const own = new Set(register.referrers('employment', 'personId', personId).map(({ thing }) => thing));
  const isOwn = ({ section, thing, values }: Row): boolean => {
    if (!OWN.includes(section)) return false;
    const named = values as { employmentId?: number; personId?: number };
    return named.personId === personId || own.has(named.employmentId ?? thing);
  };
  return [...change.recorded, ...change.superseded].some(isOwn) ? [problem('own_record')] : [];
};
