// Names for the things that problems mention: those the viewer may see; any other is "a record you may not see".
import type { Named, Param, Problem, ThingRef, Viewer } from '@gremium/contract';
import { spokenName } from '@gremium/core';
import { type Db, many } from '../database/sql';
import { type NamedKind, namesOn, personsBehind, thingNames } from './labels.sql';
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
  viewer: Viewer,
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

const labelsOf = async (db: Db, viewer: Viewer, refs: ThingRef[], looking: Looking): Promise<Labels> => {
  const labels: Labels = new Map();
  const ids = (kind: ThingRef['kind']) => refs.filter((ref) => ref.kind === kind).map(({ id }) => id);
  const seen: (readonly [NamedKind, number[]])[] = [];
  for (const kind of NAMED) seen.push([kind, await seenOf(db, viewer, kind, ids(kind), looking)]);
  const there = seen.filter(([, found]) => found.length > 0);
  if (there.length > 0)
    for (const { kind, id, label } of await many<NamedThing>(db, thingNames(there)))
      labels.set(`${kind} ${id}`, { kind, id, label });
  if (refs.every(({ kind }) => kind !== 'person' && kind !== 'employment' && kind !== 'placement'))
    return labels;
  const persons = await many<Behind>(db, personsBehind(ids('person'), ids('employment'), ids('placement')));
  const names = await personNames(db, viewer, [...new Set(persons.map(({ person }) => person))], looking);
  for (const { kind, id, person } of persons) {
    const label = names.get(person);
    // A holder is named as the person; the placement's or employment's own id says nothing more.
    if (label !== undefined) labels.set(`${kind} ${id}`, { kind: 'person', id: person, label });
  }
  return labels;
};

/** Names of things by "kind id"; employments and placements are named as their person. */
export const namesFor = async (
  db: Db,
  viewer: Viewer,
  refs: ThingRef[],
  looking: Looking,
): Promise<Map<string, Named>> => {
  const labels = await labelsOf(db, viewer, refs, looking);
  return new Map([...labels].map(([key, { kind, id, label }]) => [key, { kind, id, name: label }]));
};

type NamedThing = { kind: NamedKind; id: number; label: string };

const NAMED = ['unit', 'position', 'job', 'location', 'legal_entity', 'grade', 'cost_centre'] as const;

type Behind = { kind: string; id: number; person: number };

/** Spoken names of the persons the viewer may see, as of the day looked at, else the first name known. */
export const personNames = async (
  db: Db,
  viewer: Viewer,
  ids: readonly number[],
  looking: Looking,
): Promise<Map<number, string>> => {
  if (ids.length === 0) return new Map();
  const seen = await seenOf(db, viewer, 'person_name', ids, looking);
  if (seen.length === 0) return new Map();
  const rows = await many<Parameters<typeof spokenName>[0] & { id: number }>(db, namesOn(seen, looking.on));
  return new Map(rows.map((row) => [row.id, spokenName(row)]));
};
