// The set of versions of one thing: non-overlapping periods, each with values. All operations are pure and return
// which versions to supersede and which to record; lookups and laws are stated in docs/model.md, "Time".
import type { Bound, Problem } from '@gremium/contract';
import { problem } from './problem';
import {
  OPEN,
  type Period,
  addDays,
  byFrom,
  earlier,
  intersection,
  isOn,
  later,
  overlaps,
  segments,
} from './calendar';

/** Values of a version by field. */
export type Fields = Record<string, unknown>;
/** Values over a period. */
export type Version<V extends Fields = Fields> = Period & { values: V };

/** What an operation on a timeline does; `problems` with an error means that nothing is to be done. */
export type Revision<T extends Version> = {
  superseded: T[];
  recorded: Version<T['values']>[];
  problems: Problem[];
};

const refuse = <T extends Version>(...problems: Problem[]): Revision<T> => ({
  superseded: [],
  recorded: [],
  problems,
});

/** Whether two values are the same, members in any order. */
export const isEqual = (a: unknown, b: unknown): boolean =>
  a === b || (typeof a === 'object' && typeof b === 'object' && canonical(a) === canonical(b));

const canonical = (value: unknown): string =>
  JSON.stringify(value, (_, inner: unknown) =>
    inner && typeof inner === 'object' && !Array.isArray(inner)
      ? Object.fromEntries(Object.entries(inner).sort(([a], [b]) => (a < b ? -1 : 1)))
      : inner,
  );

const sorted = <T extends Period>(versions: readonly T[]): T[] => [...versions].sort(byFrom);

/** The version that holds on a day, or undefined. */
export const asOf = <T extends Period>(versions: readonly T[], on: Bound): T | undefined =>
  versions.find((version) => isOn(version, on));

const isSame = (a: Fields, b: Fields): boolean =>
  Object.keys(a).every((field) => isEqual(a[field], b[field]));

/** Neighbours with equal values joined: for reading only, never in storage. */
export const joined = <T extends Version>(versions: readonly T[]): Version<T['values']>[] =>
  sorted(versions).reduce<Version<T['values']>[]>((done, { from, until, values }) => {
    const last = done.at(-1);
    if (last && last.until === from && isSame(last.values, values)) last.until = until;
    else done.push({ from, until, values });
    return done;
  }, []);

// Where a value set from `from` ends by itself: the first later boundary at which that field changes, or a gap.
const nextChangeOf = <T extends Version>(ordered: T[], field: string, from: Bound): Bound => {
  const start = ordered.findIndex((version) => isOn(version, from));
  for (let i = start; i < ordered.length; i++) {
    const [version, next] = [ordered[i] as T, ordered[i + 1]];
    if (!next || next.from !== version.until) return version.until;
    if (!isEqual(version.values[field], next.values[field])) return next.from;
  }
  return OPEN;
};

const endOfRun = <T extends Version>(ordered: T[], from: Bound): Bound => {
  let at = from;
  for (const version of ordered) if (isOn(version, at)) at = version.until;
  return at;
};

// Until when each field of an edit holds.
const endsOf = <T extends Version>(ordered: T[], { from, until, values, override }: Setting) => {
  const runEnd = endOfRun(ordered, from);
  const ends = Object.keys(values).map((field): [string, Bound] => {
    if (until !== undefined) return [field, earlier(until, runEnd)];
    return [field, override ? runEnd : nextChangeOf(ordered, field, from)];
  });
  return { runEnd, ends: new Map(ends) };
};

/** What is set from a day on: the fields given, until a day, until the end of the run, or as long as each goes on by itself. */
export type Setting = { from: Bound; until?: Bound | undefined; values: Fields; override?: boolean };

/** The parts of versions that a setting is about, whether its values differ from theirs or not. */
export const aimedAt = <T extends Version>(versions: readonly T[], edit: Setting): T[] => {
  const ordered = sorted(versions);
  if (!asOf(ordered, edit.from)) return [];
  const until = [...endsOf(ordered, edit).ends.values()].reduce(later, edit.from);
  return ordered.flatMap((version) => {
    const part = intersection(version, { from: edit.from, until });
    return part ? [{ ...version, ...part }] : [];
  });
};

/**
 * *It changed from a day on.* Writes only the fields given; each holds from `from` until the first later boundary at
 * which that same field itself changes (to the end of the run with `override`), or over exactly `[from, until)`.
 * Error `no_version_on_day` where nothing is in effect on `from`; note `nothing_changed`; warning `later_versions`.
 */
export const setFrom = <T extends Version>(versions: readonly T[], edit: Setting): Revision<T> => {
  const ordered = sorted(versions);
  const { from, values } = edit;
  if (edit.until !== undefined && edit.until <= from)
    return refuse(problem('period', { from, until: edit.until }));
  if (!asOf(ordered, from)) return refuse(problem('no_version_on_day', { day: from }));
  const { runEnd, ends } = endsOf(ordered, edit);
  const kept = [...ends].filter(([, end]) => edit.until === undefined && !edit.override && end < runEnd);
  const revision = rewrite(
    ordered,
    from,
    (period, old) => {
      const touched = Object.entries(values).filter(([field]) => period.from < (ends.get(field) as Bound));
      return { ...old, ...Object.fromEntries(touched) };
    },
    [...ends.values()],
  );
  if (kept.length > 0)
    revision.problems.push(problem('later_versions', { fields: kept.map(([field]) => field).join(', ') }));
  return revision;
};

// Rewrites all from `from` on, cut at `cuts`; pieces whose values stay as they are are not written.
const rewrite = <T extends Version>(
  ordered: T[],
  from: Bound,
  valuesOn: (period: Period, old: Fields) => Fields,
  cuts: Bound[],
): Revision<T> => {
  const revision: Revision<T> = { superseded: [], recorded: [], problems: [] };
  const marks = [{ from, until: OPEN }, ...cuts.map((cut) => ({ from: cut, until: OPEN }))];
  for (const version of ordered) {
    const pieces = segments(marks, version).map((piece) => ({
      ...piece,
      values: piece.from < from ? version.values : valuesOn(piece, version.values),
    }));
    if (pieces.every((piece) => isSame(piece.values, version.values))) continue;
    revision.superseded.push(version);
    revision.recorded.push(...(joined(pieces) as Version<T['values']>[]));
  }
  if (revision.superseded.length === 0) revision.problems.push(problem('nothing_changed', {}));
  return revision;
};

/** *It was recorded wrongly.* The same period with other values. */
export const mend = <T extends Version>(version: T, values: Fields): Revision<T> => {
  const next = { ...version.values, ...values };
  if (isSame(next, version.values)) return refuse(problem('nothing_changed', {}));
  const { from, until } = version;
  return { superseded: [version], recorded: [{ from, until, values: next }], problems: [] };
};

/** A first version, or one more after a gap. Error `overlap` where there is one already. */
export const begin = <T extends Version>(
  versions: readonly T[],
  version: Version<T['values']>,
): Revision<T> => {
  if (version.until <= version.from)
    return refuse(problem('period', { from: version.from, until: version.until }));
  const other = versions.find((existing) => overlaps(existing, version));
  if (other) return refuse(problem('overlap', { from: other.from, until: other.until }));
  return { superseded: [], recorded: [version], problems: [] };
};

/** Ends the timeline after `on`, its last day. Note `nothing_changed` if nothing lies later. */
export const endOn = <T extends Version>(versions: readonly T[], on: Bound): Revision<T> => {
  const until = addDays(on, 1);
  const superseded = versions.filter((version) => version.until > until);
  if (superseded.length === 0) return refuse(problem('nothing_changed', {}));
  const recorded = superseded
    .filter((version) => version.from < until)
    .map(({ from, values }) => ({ from, until, values }));
  return { superseded, recorded, problems: [] };
};

const before = <T extends Version>(versions: readonly T[], version: T): T | undefined =>
  versions.find((other) => other !== version && other.until === version.from);

/** Removes a version; the adjoining one before it extends over its period, else a gap is left and said (`gap_left`). */
export const remove = <T extends Version>(versions: readonly T[], version: T): Revision<T> => {
  const previous = before(versions, version);
  if (!previous) {
    const gap = problem('gap_left', { from: version.from, until: version.until });
    return { superseded: [version], recorded: [], problems: [gap] };
  }
  const grown = { from: previous.from, until: version.until, values: previous.values };
  return { superseded: [previous, version], recorded: [grown], problems: [] };
};

/**
 * Moves a version to another first day; the adjoining version before it gives or takes the days between.
 * Error `shift_past_neighbour` past that one's first day, past its own last day, or into an earlier one.
 */
export const shift = <T extends Version>(versions: readonly T[], version: T, from: Bound): Revision<T> => {
  if (from === version.from) return refuse(problem('nothing_changed', {}));
  const previous = before(versions, version);
  const earlierEnd = versions
    .filter((other) => other !== previous && other.until <= version.from)
    .reduce<Bound>((end, other) => later(end, other.until), '-infinity');
  const isPast = from >= version.until || (previous ? from <= previous.from : from < earlierEnd);
  if (isPast) return refuse(problem('shift_past_neighbour', { day: from }));
  const moved = { from, until: version.until, values: version.values };
  if (!previous) return { superseded: [version], recorded: [moved], problems: [] };
  const fitted = { from: previous.from, until: from, values: previous.values };
  return { superseded: [previous, version], recorded: [fitted, moved], problems: [] };
};

/** Days on which two timelines differ, and in which fields. */
export type Difference = Period & { before: Fields | null; after: Fields | null; fields: string[] };

/** Where two timelines differ, as periods with both sides and the fields that differ. */
export const difference = <T extends Version>(a: readonly T[], b: readonly T[]): Difference[] =>
  segments([...a, ...b]).flatMap((period) => {
    const [x, y] = [asOf(a, period.from)?.values ?? null, asOf(b, period.from)?.values ?? null];
    const names = [...new Set([...Object.keys(x ?? {}), ...Object.keys(y ?? {})])];
    const fields = names.filter((name) => !x || !y || !isEqual(x[name], y[name]));
    return fields.length > 0 ? [{ ...period, before: x, after: y, fields }] : [];
  });

/** The timeline after a revision. */
export const revised = <T extends Version>(
  versions: readonly T[],
  { superseded, recorded }: Pick<Revision<T>, 'superseded' | 'recorded'>,
): Version<T['values']>[] =>
  sorted([...versions.filter((version) => !superseded.includes(version)), ...recorded]);
