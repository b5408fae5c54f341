// Names for the things that problems mention: those the viewer may see; any other is "a record you may not see".
import type { Named, Param, Problem, ThingRef } from '@gremium/contract';
import { may } from '@gremium/contract';
import { spokenName } from '@gremium/core';
import { type Db, many, manyById } from '../database/sql';
import type { Seer } from './catalogues';
import { namesOf } from './labels.sql';
import type { Looking } from './lens';
import { seenOf } from './seen';

type Labels = Map<string, { id: number; kind: ThingRef['kind']; label: string }>;

const keyOf = ({ kind, id }: ThingRef): string => `${kind} ${id}`;

const refsOf = (param: Param): ThingRef[] => {
  if (Array.isArray(param)) return param;
  return typeof param === 'object' ? [param] : [];
};

/** Problems with labels where the viewer may see the thing, and without a trace of it where not. */
export const labelled = async (
  db: Db,
  viewer: Seer,
  problems: readonly Problem[],
  looking: Looking,
): Promise<Problem[]> => {
  const refs = problems.flatMap(({ params }) => Object.values(params).flatMap(refsOf));
  const labels = await labelsOf(db, viewer, refs, looking);
  const shown = (ref: ThingRef): ThingRef =>
    labels.get(keyOf(ref)) ?? { kind: ref.kind, id: 0, hidden: true };
  const fill = (param: Param): Param => {
    if (Array.isArray(param)) return param.map(shown);
    return typeof param === 'object' ? shown(param) : param;
  };
  return problems.map((found) => {
    const params = Object.fromEntries(
      Object.entries(found.params).map(([name, param]) => [name, fill(param)]),
    );
    return { ...found, ...(isHidden(params['person']) ? withoutDays(found.code, params) : { params }) };
  });
};

const isHidden = (param: Param | undefined): boolean =>
  typeof param === 'object' && !Array.isArray(param) && param.hidden === true;

// When somebody hidden is or was employed is told to nobody.
const withoutDays = (code: Problem['code'], params: Problem['params']) => {
  const { from: _from, until: _until, day: _day, ...rest } = params;
  return { code: code === 'twin_returns' ? ('twin_birth' as const) : code, params: rest };
};

type Name = Parameters<typeof spokenName>[0];
type Found = { kind: ThingRef['kind']; id: number; person: number | null; label: unknown };

const labelsOf = async (db: Db, viewer: Seer, refs: ThingRef[], looking: Looking): Promise<Labels> => {
  const labels: Labels = new Map();
  const idsOf = (kind: ThingRef['kind']) => [
    ...new Set(refs.filter((ref) => ref.kind === kind).map(({ id }) => id)),
  ];
  const query = namesOf(viewer, idsOf, looking);
  if (!query) return labels;
  // over ids alone any plan is the one plan; a branch is worked out anew each time
  const isAll = may(viewer).hasWhole;
  const found = await (isAll ? manyById : many)<Found>(db, query);
  const people = [...new Set(found.flatMap(({ person }) => person ?? []))];
  const seen = new Set(await seenOf(db, viewer, 'person_name', people, looking));
  for (const { kind, id, person, label } of found) {
    const key = `${kind} ${id}`;
    // A holder is named as the person; the placement's or employment's own id says nothing more.
    if (person !== null && seen.has(person))
      labels.set(key, { kind: 'person', id: person, label: spokenName(label as Name) });
    if (person === null) labels.set(key, { kind, id, label: titleOf(label, viewer) });
  }
  return labels;
};

const titleOf = (label: unknown, { language }: Seer): string =>
  typeof label === 'string' ? label : ((label as Record<string, string>)[language] ?? '');

/** Names of things by "kind id"; employments and placements are named as their person. */
export const namesFor = async (
  db: Db,
  viewer: Seer,
  refs: ThingRef[],
  looking: Looking,
): Promise<Map<string, Named>> => {
  const labels = await labelsOf(db, viewer, refs, looking);
  return new Map([...labels].map(([key, { kind, id, label }]) => [key, { kind, id, name: label }]));
};
