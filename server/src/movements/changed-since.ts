// What later entries did to the person and the position that a movement is prepared for, field by field.
import type { Day, Problem, SectionName } from '@gremium/contract';
import { isEqual, problem, withoutHidden } from '@gremium/core';
import type { ClientBase } from 'pg';
import { many } from '../database/sql';
import type { Seer } from '../time/catalogues';
import type { Seed } from '../time/neighbourhood';
import { seenOf } from '../time/seen';
import { type Owned, type Touched, touchedSince } from './changed-since.sql';

const OF: [SectionName, Seed['kind'], Owned][] = [
  ['person', 'person', 'thing'],
  ['person_name', 'person', 'thing'],
  ['employment', 'person', 'person'],
  ['contract', 'person', 'employment'],
  ['placement', 'person', 'employment'],
  ['pay', 'person', 'employment'],
  ['position', 'position', 'thing'],
  ['position_limits', 'position', 'thing'],
  ['unit', 'unit', 'thing'],
  ['unit_hiring', 'unit', 'thing'],
  ['job', 'job', 'thing'],
];

type Asked = { seeds: readonly Seed[]; seen: number; today: Day };

/** A `movement_conflict` for each thing that changed since, with its fields as they were and are: what the viewer may see of it. */
export const changedSince = async (
  tx: ClientBase,
  viewer: Seer,
  { seeds, seen, today }: Asked,
): Promise<Problem[]> => {
  const conflicts: Problem[] = [];
  const idsOf = (kind: Seed['kind']) =>
    seeds.flatMap((seed) =>
      seed.kind === kind || (kind === 'person' && seed.kind === 'employment') ? seed.id : [],
    );
  for (const [section, kind, how] of OF) {
    const ids = idsOf(kind);
    if (ids.length === 0) continue;
    const rows = await many<Touched>(tx, touchedSince(viewer.catalogue.section(section), how, { ids, seen }));
    const things = [...new Set(rows.map(({ thing }) => thing))];
    const looking = { on: today, by: null, today };
    const seenThings = new Set(await seenOf(tx, viewer, section, things, looking));
    for (const thing of things) {
      const own = rows.filter((row) => row.thing === thing);
      const fields = seenThings.has(thing) ? withoutHidden(differing(own, seen), viewer) : [];
      const entry = Math.max(...own.flatMap(({ recorded, superseded }) => [recorded, superseded ?? 0]));
      conflicts.push(problem('movement_conflict', { entry, section, thing, fields: JSON.stringify(fields) }));
    }
  }
  return conflicts;
};

type Field = { section: SectionName; field: string; from: string; was: unknown; now: unknown };

const MOST = 40;

// Each field of what now stands, beside what stood on that day before.
const differing = (rows: readonly Touched[], seen: number): Field[] => {
  const before = rows.filter(({ recorded }) => recorded <= seen);
  const after = rows.filter(({ recorded, superseded }) => recorded > seen && superseded === null);
  const gone = before.filter((was) => !after.some(({ from, until }) => from < was.until && was.from < until));
  const valuesOf = (row: Touched | undefined) => (row?.values ?? {}) as Record<string, unknown>;
  const pairs = [
    ...after.map((now) => ({
      now,
      was: before.find(({ from, until }) => from <= now.from && now.from < until) ?? before[0],
    })),
    ...gone.map((was) => ({ now: undefined, was })),
  ];
  return pairs
    .flatMap(({ was, now }) => {
      const [old, is] = [valuesOf(was), valuesOf(now)];
      const row = (now ?? was) as Touched;
      const days = [
        { field: 'from', was: was?.from ?? null, now: now?.from ?? null },
        { field: 'until', was: was?.until ?? null, now: now?.until ?? null },
      ];
      const fields = [...new Set([...Object.keys(old), ...Object.keys(is)])].map((field) => ({
        field,
        was: old[field] ?? null,
        now: is[field] ?? null,
      }));
      return [...fields, ...days]
        .filter((one) => !isEqual(one.was, one.now))
        .map((one) => ({ section: row.section, from: row.from, ...one }));
    })
    .slice(0, MOST);
};
