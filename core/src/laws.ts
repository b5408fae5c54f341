import type { Catalogue, Change, Kind, ProblemCode, Row, SectionName } from '@gremium/contract';
import { madePossible } from './time/existence';
import type { Register } from './time/register';
import type { Offence } from './time/offence';
import { ownFieldsFit } from './time/own-laws';
import { problem, thing } from './time/problem';
import { settingsFit } from './time/setting-laws';
import { type Period, earlier, isOn, later, overlaps, uncovered } from './time/calendar';
import { absencesFit } from './people/absences';
import {
  coversFit,
  employmentsApart,
  lentFits,
  placementsFit,
  termsWithin,
  wholeEmployment,
} from './people/employment-laws';
import { daysInOrder, honouredIn, honoursFit, splitWhole, timesFit } from './people/record-laws';
import { holdersStand, notToItself, standingOrder, withinLimits } from './structure/position-laws';
import { requirementOne, reviewNeeded } from './structure/work-laws';
import { noReportingRings, noUnitRings, oneRoot } from './structure/unit-laws';

/** The things whose laws a change can break: what it touches and what that belongs to or refers to. */
export type Affected = { [K in 'unit' | 'position' | 'person' | 'employment']: Set<number> } & {
  rows: Row[];
  period: Period;
};

/** What the laws of a change are asked of. The register may hold the change or not. */
export const affectedBy = ({ recorded, superseded }: Change, register: Register): Affected => {
  const rows = [...recorded, ...superseded];
  const affected: Affected = {
    unit: new Set(),
    position: new Set(),
    person: new Set(),
    employment: new Set(),
    rows,
    period: periodOf(rows),
  };
  for (const row of rows) {
    const { kind } = register.catalogue.section(row.section);
    if (kind in affected) (affected[kind as 'unit'] as Set<number>).add(row.thing);
    const values = row.values as { [F in (typeof OWNERS)[number][0]]?: number | null };
    for (const [field, owner] of OWNERS) {
      const id = values[field];
      if (id) affected[owner].add(id);
    }
    if (row.section === 'placement' && row.values) {
      // who covers whom stands on the position of the cover
      for (const cover of register.referrers('placement', 'forPlacementId', row.thing))
        affected.position.add(cover.values.positionId);
    }
  }
  return affected;
};

const OWNERS = [
  ['positionId', 'position'],
  ['employmentId', 'employment'],
  ['personId', 'person'],
] as const;

const periodOf = (rows: readonly Period[]): Period => {
  const [first] = rows;
  if (!first) return { from: '-infinity', until: '-infinity' };
  let { from, until } = first;
  for (const row of rows) {
    from = earlier(from, row.from);
    until = later(until, row.until);
  }
  return { from, until };
};

/**
 * All laws that a change may have broken, asked of the register after it; only what is broken on days the change touches.
 * The one function behind slip, import, bulk change, undo and tests. The register must hold the neighbourhood of what is
 * affected (the whole tree of units and positions where `touchesReporting`).
 */
export const laws = (register: Register, change: Change): Offence[] => {
  const affected = affectedBy(change, register);
  const fresh = new Set<number>();
  for (const { section, id } of change.recorded) if (section === 'placement') fresh.add(id);
  const limits = (r: Register, id: number) => withinLimits(r, id, fresh);
  const recorded = new Set(change.recorded.map(({ id }) => id));
  const isSaidNow = ({ problem: { code }, rows }: Offence) =>
    !STANDING.includes(code) || rows.some(({ id }) => recorded.has(id));
  const each = (ids: Iterable<number>, ...checks: ((r: Register, id: number) => Offence[])[]) => {
    const found: Offence[] = [];
    for (const id of ids) for (const check of checks) found.push(...check(register, id));
    return found;
  };
  return [
    ...overlapping(register, change),
    ...missingReferences(register, change),
    ...otherLists(register, change),
    ...constantsChanged(register, change),
    ...severalAtOnce(register, change),
    ...ownFieldsFit(register, change),
    ...settingsFit(register, change),
    ...secondOrganisation(register, change),
    ...change.recorded.flatMap(requirementOne),
    ...change.recorded.flatMap(reviewNeeded),
    ...change.recorded.flatMap(daysInOrder),
    ...change.recorded.flatMap(timesFit),
    ...each(affected.position, standingOrder, notToItself, holdersStand, limits, coversFit),
    ...each(
      affected.employment,
      wholeEmployment,
      placementsFit,
      lentFits,
      absencesFit,
      termsWithin,
      splitWhole,
    ),
    ...each(affected.person, employmentsApart),
    ...(honouredIn(change) ? each(affected.person, (r, id) => honoursFit(r, id, change)) : []),
    ...structureLaws(register, change, affected),
  ].filter(
    ({ on, ...offence }) =>
      isSaidNow({ on, ...offence }) &&
      (overlaps({ from: on.from, until: later(on.until, on.from) }, affected.period) || on.from === on.until),
  );
};

// What is over by right, or by a limit that is lowered, is asked of whoever says it; not of each later change near it.
const STANDING: readonly ProblemCode[] = ['over_by_right', 'limit_lowered', 'limit_lowered_fte'];

// There is one: what is today, and the hours of full time, could not be said of two.
const secondOrganisation = (register: Register, { recorded }: Change): Offence[] =>
  recorded.flatMap((row): Offence[] => {
    if (row.section !== 'organisation') return [];
    const other = [...register.all('organisation')].find((one) => one.thing !== row.thing);
    return other ? [{ problem: problem('organisation_there'), rows: [row, other], on: row }] : [];
  });

// One version a day of every section of every thing.
const overlapping = (register: Register, { recorded }: Change): Offence[] => {
  const found: Offence[] = [];
  for (const row of recorded) {
    const all = register.rows(row.section, row.thing);
    const other = all.length > 1 ? all.find((o) => o.id !== row.id && overlaps(o, row)) : undefined;
    if (!other) continue;
    const params = { from: other.from, until: other.until };
    found.push({ problem: problem('overlap', params), rows: [row, other], on: other });
  }
  return found;
};

/**
 * Whether a change touches who is above whom, so that rings must be looked for over the whole structure: the tree or the
 * heads of units, or where a position stands that somebody may report to.
 */
export const touchesReporting = (change: Change, register: Register): boolean => {
  if (touchesTree(change)) return true;
  const [after, before] = [positionsIn(change.recorded), positionsIn(change.superseded)];
  return [...new Set([...after.keys(), ...before.keys()])].some(
    (id) =>
      edges(after.get(id)) !== edges(before.get(id)) &&
      register.referrers('position', 'reportsToId', id).length +
        register.referrers('unit', 'headPositionId', id).length >
        0,
  );
};

const positionsIn = (rows: readonly Row[]): Map<number, Row<'position'>[]> => {
  const found = new Map<number, Row<'position'>[]>();
  for (const row of rows)
    if (isPosition(row)) {
      const known = found.get(row.thing);
      if (known) known.push(row);
      else found.set(row.thing, [row]);
    }
  return found;
};

const isPosition = (row: Row): row is Row<'position'> => row.section === 'position';
const isUnit = (row: Row): row is Row<'unit'> => row.section === 'unit';

const written = (rows: readonly Row[], shape: (row: Row) => unknown[]): string =>
  rows
    .map((row) => [row.thing, row.from, row.until, ...shape(row)].join(' '))
    .sort()
    .join();

const edges = (rows: readonly Row<'position'>[] = []): string =>
  written(rows, ({ values }) => {
    const { unitId, reportsToId, standing } = values as Row<'position'>['values'];
    return [unitId, reportsToId, standing];
  });

const touchesTree = ({ recorded, superseded }: Change): boolean => {
  const shape = ({ values }: Row) => {
    const { parentId, headPositionId } = values as Row<'unit'>['values'];
    return [parentId, headPositionId];
  };
  return written(recorded.filter(isUnit), shape) !== written(superseded.filter(isUnit), shape);
};

const structureLaws = (register: Register, change: Change, { period }: Affected): Offence[] => {
  const rings = touchesTree(change)
    ? [...noUnitRings(register, change.recorded.filter(isUnit)), ...oneRoot(register, period)]
    : [];
  if (rings.length > 0 || !touchesReporting(change, register)) return rings;
  return noReportingRings(register, period);
};

// Every reference of a recorded row, and every reference to something whose existence was taken away, must be covered by
// the existence of what it names. A closed position needs nothing any more.
const missingReferences = (register: Register, { recorded, superseded }: Change): Offence[] => {
  const { catalogue } = register;
  const outward: Offence[] = [];
  for (const row of recorded) if (isBelieved(register, row)) outward.push(...dangling(register, row));
  // taken away is what existed only by what is superseded, and is not recorded again
  const lost = madePossible({ recorded: superseded, superseded: recorded }, catalogue);
  const gone = superseded.filter((row) => lost.has(row.thing) && catalogue.section(row.section).base);
  const inward = gone.flatMap((row) =>
    referrersOf(register, row).flatMap((referrer) => dangling(register, referrer, row.thing)),
  );
  const ownSections = gone.flatMap((row) => outlived(register, row));
  return [...outward, ...inward, ...ownSections];
};

const isBelieved = (register: Register, row: Row): boolean =>
  register.rows(row.section, row.thing).some(({ id }) => id === row.id);

const isExempt = (row: Row): boolean =>
  row.section === 'position' && (row.values as Row<'position'>['values']).standing === 'closed';

/** The things that a field of a row names. */
const targetsOf = (row: Row, field: string): readonly number[] => {
  const value = (row.values as Record<string, unknown>)[field];
  if (value === null || value === undefined) return [];
  return Array.isArray(value) ? (value as number[]) : [value as number];
};

// An entry of a list is chosen on the first day of a row: whoever retires it later leaves what was chosen as it is, and so does
// a later version that only goes on saying it.
const unchosen = (
  register: Register,
  row: Row,
  { field, id, there }: { field: string; id: number; there: readonly Row[] },
): Period[] => {
  if (there.some((entry) => isOn(entry, row.from))) return [];
  const goesOn = register
    .rows(row.section, row.thing)
    .some((before) => before.until === row.from && targetsOf(before, field).includes(id));
  return goesOn ? [] : [row];
};

const dangling = (register: Register, row: Row, only?: number): Offence[] => {
  if (isExempt(row)) return [];
  const found: Offence[] = [];
  const look = (kind: Kind, id: number, field?: string) => {
    const there = register.rows(kind as SectionName, id);
    const [gap] =
      kind === 'list_entry' && field ? unchosen(register, row, { field, id, there }) : uncovered(row, there);
    if (!gap) return;
    const params = { what: thing(kind, id), day: gap.from };
    // asked backwards, it is what ends that cannot: what names it was there before
    const isOfEnd = kind === 'list_entry' && only !== undefined;
    const offence = isOfEnd ? problem('still_named', params) : problem('reference_missing', params, field);
    found.push({ problem: offence, rows: [row], on: gap });
  };
  for (const { field, kind, past } of register.catalogue.refs(row.section))
    for (const id of targetsOf(row, field))
      if (!past && (only === undefined || id === only)) look(kind, id, field);
  const { base, kind } = register.catalogue.section(row.section);
  if (!base && only === undefined) look(kind, row.thing);
  return found;
};

// What is chosen from a list is an entry of that list, and of an own field's choices one of its own.
const otherLists = (register: Register, { recorded }: Change): Offence[] => {
  const found: Offence[] = [];
  for (const row of recorded)
    for (const [field, meta] of register.catalogue.section(row.section).metas) {
      if (meta.is !== 'list' && meta.is !== 'lists') continue;
      const isWrong = ({ values }: Row<'list_entry'>) =>
        values.list !== meta.list || (meta.ownField !== undefined && values.ownFieldId !== meta.ownField);
      for (const id of targetsOf(row, field)) {
        const wrong = register.rows('list_entry', id).find((entry) => overlaps(entry, row) && isWrong(entry));
        if (!wrong) continue;
        const params = { list: meta.list, is: wrong.values.list };
        found.push({ problem: problem('list_wrong', params, field), rows: [row, wrong], on: row });
      }
    }
  return found;
};

// Whose something is never changes, as all that is known of an owner is found by them; nor does what is kept elsewhere rests
// on (of what kind an own field is). Asked of what stands and of what stood.
const constantsChanged = (register: Register, { recorded, superseded }: Change): Offence[] => {
  const found: Offence[] = [];
  const valueOf = (row: Row, field: string) => (row.values as Record<string, unknown>)[field];
  // looked for among all of them for each row, a large change would take the square of its rows
  const stood = new Map<string, Row[]>();
  for (const row of superseded) {
    const key = `${row.section} ${row.thing}`;
    const known = stood.get(key);
    if (known) known.push(row);
    else stood.set(key, [row]);
  }
  for (const row of recorded) {
    const { owner, name, metas } = register.catalogue.section(row.section);
    for (const [field, { constant }] of metas) {
      const isOwner = field === owner?.field;
      // an employment says whose it is by a law of its own
      if (!constant && !(isOwner && name !== 'employment')) continue;
      const isOther = (one: Row) => valueOf(one, field) !== valueOf(row, field);
      const other =
        register.rows(row.section, row.thing).find(isOther) ??
        stood.get(`${row.section} ${row.thing}`)?.find(isOther);
      if (!other || found.some((one) => one.problem.field === field && one.rows[0]?.thing === row.thing))
        continue;
      const code = isOwner ? 'owner_constant' : 'value_constant';
      found.push({ problem: problem(code, {}, field), rows: [row, other], on: row });
    }
  }
  return found;
};

// Where there is one row of an owner at a time, though each is a thing of its own.
const severalAtOnce = (register: Register, { recorded }: Change): Offence[] => {
  const found: Offence[] = [];
  for (const row of recorded) {
    const { owner, several } = register.catalogue.section(row.section);
    if (several || !owner || owner.field === 'thing') continue;
    const [mine] = targetsOf(row, owner.field);
    const other = register
      .referrers(row.section, owner.field as never, mine as number, row)
      .find((one) => one.thing !== row.thing);
    if (!other) continue;
    const params = { from: other.from, until: other.until };
    found.push({ problem: problem('overlap', params), rows: [row, other], on: other });
  }
  return found;
};

const outlived = (register: Register, { section, thing: id }: Row): Offence[] =>
  besideBase(register.catalogue, register.catalogue.section(section).kind)
    .flatMap((name) => [...register.rows(name, id)])
    .flatMap((row) => dangling(register, row));

const besideBase = (catalogue: Catalogue, kind: Kind): SectionName[] =>
  catalogue.of(kind).filter((name) => !catalogue.section(name).base);

/** All rows that name the thing of a row. */
const referrersOf = (register: Register, { section, thing: id }: Row): Row[] =>
  register.catalogue
    .naming(register.catalogue.section(section).kind)
    .flatMap(([name, { field }]) => register.referrers(name, field as never, id) as Row[]);
