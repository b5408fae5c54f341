import { type Bound, type ManagerOut, type Viewer, gives } from '@gremium/contract';
import { type Manager, type Register, spokenName, unitChain } from '@gremium/core';
import type { Db } from '../database/sql';
import { personNames } from '../time/labels';
import type { Looking } from '../time/lens';

const nameIn = (register: Register, personId: number, on: Bound): string => {
  const name = register.at('person_name', personId, on) ?? register.rows('person_name', personId)[0]?.values;
  return name ? spokenName(name) : '';
};

// Whether a position stands above every part that the viewer may see: then its leader is of the chain upward.
const isAbove = (viewer: Viewer, register: Register, positionId: number, on: Bound): boolean => {
  const unitId = register.at('position', positionId, on)?.unitId;
  const chain = unitId === undefined ? [] : unitChain(register, unitId, on);
  return !viewer.grants.some(
    (grant) =>
      gives(grant, 'person_name', 'view') &&
      grant.scope.type === 'branch' &&
      chain.includes(grant.scope.unitId),
  );
};

export type Lead = Pick<Manager, 'personId' | 'positionId'>;

/**
 * Names of leaders by person: those whose record the viewer may see, and the managers above the viewer's own part, who are
 * known to all below them. Who led inside the part once and has left it since is not named.
 */
export const leaderNames = async (
  db: Db,
  viewer: Viewer,
  register: Register,
  { leads, looking }: { leads: readonly Lead[]; looking: Looking },
): Promise<Map<number, string>> => {
  const ids = [...new Set(leads.map(({ personId }) => personId))];
  const names = await personNames(db, viewer, ids, looking);
  for (const { personId, positionId } of leads)
    if (!names.has(personId) && isAbove(viewer, register, positionId, looking.on))
      names.set(personId, nameIn(register, personId, looking.on));
  return names;
};

/** A manager chain as it travels; a manager who may not be named is left nameless. */
export const managersOut = async (
  db: Db,
  viewer: Viewer,
  register: Register,
  { chain, looking }: { chain: readonly Manager[]; looking: Looking },
): Promise<ManagerOut[]> => {
  const names = await leaderNames(db, viewer, register, { leads: chain, looking });
  return chain.map(({ personId, positionId, bridged }) => ({
    personId: names.has(personId) ? personId : 0,
    positionId,
    bridged,
    name: names.get(personId) ?? '',
    title: register.at('position', positionId, looking.on)?.title ?? '',
  }));
};
