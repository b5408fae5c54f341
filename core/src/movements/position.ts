// A position begins, or changes from a day on: standing, limits, where it stands.
import type {
  Bound,
  ChangePositionInput,
  CopyPositionInput,
  Day,
  NewValues,
  Row,
  SlipValue,
  Values,
} from '@gremium/contract';
import { PositionSaid } from '@gremium/contract';
import { personOf } from '../people/employments';
import { inherited } from '../structure/tree';
import { takesNothing } from '../structure/occupancy';
import { OPEN, addDays, addMonths, earlier, isOn, later } from '../time/calendar';
import type { Draft } from '../time/draft';
import { problem, thing } from '../time/problem';
import { isEqual } from '../time/timeline';
import type { Concerned, Decide, MovedThings } from './decide';
import { limitOf } from './limit';
import { slip } from './place';

const FIELDS = Object.keys(PositionSaid.shape) as (keyof typeof PositionSaid.shape)[];
const LIMITS = ['places', 'fte', 'handoverDays'] as const;
// What follows a source until it is said otherwise.
const FOLLOWING = [
  'title',
  'gradeId',
  'hours',
  'averagedOver',
  'locationId',
  'costCentreId',
  'legalEntityId',
] as const;

type Said<I, F extends keyof I> = { [K in F]?: Exclude<I[K], undefined> };

/** The members of an input that were said. */
export const said = <I extends object, F extends keyof I>(input: I, fields: readonly F[]): Said<I, F> =>
  Object.fromEntries(
    fields.flatMap((field) => (input[field] === undefined ? [] : [[field, input[field]]])),
  ) as Said<I, F>;

/** Values of a section before and after, for those fields that are said. */
export const compared = (section: string, before: object | undefined, after: object): SlipValue[] =>
  Object.entries(after).map(([field, value]) =>
    slip(
      field,
      value as SlipValue['after'],
      'typed',
      (before as Record<string, never>)?.[field] ?? null,
      section,
    ),
  );

// What a position begins with: where its values come from beside what is said.
type Ground = {
  values: Partial<Values<'position'>>;
  sources: Values<'position'>['sources'];
  limits: Values<'position_limits'>;
  source: SlipValue['source'];
};

const fromJob = (job: Values<'job'>): Ground => ({
  values: { title: job.title, gradeId: job.gradeId, hours: job.hours, averagedOver: job.averagedOver },
  sources: { title: 'job', gradeId: 'job', hours: 'job', averagedOver: 'job', fte: 'job' },
  limits: { places: 1, fte: limitOf(job.fte), handoverDays: 0 },
  source: 'job',
});

type Made = Pick<CopyPositionInput, 'firstDay' | 'standing' | 'count'> & { unitId: number; jobId: number };

// Begins one position, or several alike; codes are proposed, or numbered where one was typed for several.
const begin = (
  draft: Draft,
  input: Made,
  own: Said<Values<'position'>, keyof Values<'position'>>,
  ground: Ground,
) => {
  const { firstDay: from, count = 1 } = input;
  const unit = draft.register.at('unit', input.unitId, from) as Values<'unit'>;
  const limits = { ...ground.limits, ...said(input as Partial<Values<'position_limits'>>, LIMITS) };
  const isLimitOwn = 'fte' in input && input.fte !== undefined;
  const sources = Object.fromEntries(
    Object.entries(ground.sources).filter(([field]) => !(field in own) && !(field === 'fte' && isLimitOwn)),
  );
  const period = { from, until: OPEN };
  return Array.from({ length: count }, (_, i) => {
    const positionId = draft.newId();
    const code = own.code && count > 1 ? `${own.code.slice(0, 36)}-${i + 1}` : own.code;
    const values: NewValues<'position'> = {
      ...({ temporary: false, ...ground.values } as Values<'position'>),
      ...own,
      code: code ?? `${unit.code}-${positionId}`.slice(0, 40),
      unitId: input.unitId,
      jobId: input.jobId,
      standing: input.standing,
      madeOnHire: false,
      confirmedTop: own.confirmedTop ?? false,
      sources,
    };
    draft.begin('position', positionId, period, values);
    draft.begin('position_limits', positionId, period, limits);
    return { positionId, values, limits };
  });
};

const madeOf = (input: Made, made: ReturnType<typeof begin>, own: object, ground: Ground): MovedThings => {
  const { positionId, values, limits } = made[0] as (typeof made)[number];
  const isSaid = (field: string) => field in own || (input as Record<string, unknown>)[field] !== undefined;
  const shown = new Set([
    ...MAINLY,
    ...(Object.keys({ ...ground.values, ...own }) as (keyof typeof values)[]),
  ]);
  return {
    things: { positionId, unitId: input.unitId },
    slip: [
      ...[...shown].map((field) =>
        slip(
          field,
          (values[field] as SlipValue['after']) ?? null,
          isSaid(field) ? 'typed' : field === 'code' ? 'unit' : ground.source,
          null,
          'position',
        ),
      ),
      ...LIMITS.map((field) =>
        slip(
          field,
          limits[field],
          isSaid(field)
            ? 'typed'
            : field === 'fte' || ground.source === 'position'
              ? ground.source
              : 'preset',
          null,
          'position_limits',
        ),
      ),
    ],
    ...(made.length > 1
      ? {
          concerned: {
            count: made.length,
            lines: made.map((one) => ({
              what: thing('position', one.positionId),
              where: thing('unit', input.unitId),
              values: [slip('code', one.values.code, 'unit', null, 'position')],
            })),
          },
        }
      : {}),
  };
};

const MAINLY = ['title', 'code', 'unitId', 'jobId', 'standing', 'gradeId', 'hours'] as const;

const isThere = (
  draft: Draft,
  kind: 'job' | 'unit' | 'position',
  id: number,
  on: Day,
  field: string,
): boolean => {
  if (draft.register.at(kind, id, on)) return true;
  draft.problems.push(problem('reference_missing', { what: thing(kind, id), day: on }, field));
  return false;
};

/** Begins a position, or several alike; title, grade, hours and FTE come from the job where they are not said. */
export const newPosition: Decide<'new_position'> = (draft, input) => {
  const { firstDay: on, jobId, unitId } = input;
  if (!isThere(draft, 'job', jobId, on, 'jobId') || !isThere(draft, 'unit', unitId, on, 'unitId'))
    return null;
  const ground = fromJob(draft.register.at('job', jobId, on) as Values<'job'>);
  const own = said(input, FIELDS);
  return madeOf(input, begin(draft, input, own, ground), own, ground);
};

/** Begins a position like another one, with its requirements and dotted lines; of another job, what followed the job is its. */
export const copyPosition: Decide<'copy_position'> = (draft, input) => {
  const { firstDay: on, likeId } = input;
  const { register } = draft;
  if (!isThere(draft, 'position', likeId, on, 'likeId')) return null;
  const like = register.at('position', likeId, on) as Values<'position'>;
  const { unitId = like.unitId, jobId = like.jobId } = input;
  if (!isThere(draft, 'job', jobId, on, 'jobId') || !isThere(draft, 'unit', unitId, on, 'unitId'))
    return null;
  const { code: _code, confirmedTop: _top, sources, ...copied } = like;
  const limits = register.at('position_limits', likeId, on);
  const job = fromJob(register.at('job', jobId, on) as Values<'job'>);
  const followed = Object.fromEntries(
    Object.entries(job.values).filter(([field]) => sources[field as 'title'] === 'job'),
  );
  const ground: Ground = {
    values: { ...copied, ...followed },
    sources,
    limits: { ...(limits ?? job.limits), ...(sources.fte === 'job' ? { fte: job.limits.fte } : {}) },
    source: 'position',
  };
  const own = said(input, FIELDS);
  const made = begin(draft, { ...input, unitId, jobId }, own, ground);
  for (const { positionId } of made)
    for (const section of ['position_requirement', 'dotted_line'] as const)
      for (const row of register.referrers(section, 'positionId', likeId))
        if (isOn(row, on)) draft.create(section, on, { ...row.values, positionId } as never);
  return madeOf({ ...input, unitId, jobId }, made, own, ground);
};

/** Changes a position from a day on; only what is said is written, each until it changes again by itself. */
export const changePosition: Decide<'change_position'> = (draft, input) => {
  const { positionId, firstDay: from } = input;
  const until = input.lastDay === undefined ? undefined : addDays(input.lastDay, 1);
  if (until !== undefined && until <= from) {
    draft.problems.push(problem('period', { from, until: input.lastDay as Day }, 'lastDay'));
    return null;
  }
  const before = draft.register.at('position', positionId, from);
  if (!before) {
    const params = { what: thing('position', positionId), day: from };
    draft.problems.push(problem('reference_missing', params, 'positionId'));
    return null;
  }
  const limitsBefore = draft.register.at('position_limits', positionId, from);
  const period = { from, ...(until === undefined ? {} : { until }) };
  const values = changed(said(input, FIELDS), before);
  const limits = changed(said(input, LIMITS), limitsBefore);
  if (Object.keys(values).length > 0) {
    const own = FOLLOWING.filter((field) => field in values).map((field) => [field, 'own'] as const);
    const sources = own.length > 0 ? { sources: { ...before.sources, ...Object.fromEntries(own) } } : {};
    draft.set('position', positionId, { ...period, values: { ...values, ...sources } });
  }
  if (Object.keys(limits).length > 0) {
    changeLimits(draft, positionId, period, limits);
    const { sources } = draft.register.at('position', positionId, from) as typeof before;
    if (limits.fte !== undefined && sources.fte !== undefined)
      draft.set('position', positionId, { ...period, values: { sources: { ...sources, fte: 'own' } } });
  }
  const concerned = carryToHolders(draft, input, { before, values, until: until ?? OPEN });
  strangersIn(draft, input, before);
  return {
    things: { positionId, unitId: values.unitId ?? before.unitId },
    slip: [...compared('position', before, values), ...compared('position_limits', limitsBefore, limits)],
    ...(concerned ? { concerned } : {}),
  };
};

/** Of values that are said, those that differ from what stands. */
export const changed = <V extends object>(values: V, before: object | undefined): V =>
  Object.fromEntries(
    Object.entries(values).filter(
      ([field, value]) => !isEqual((before as Record<string, unknown> | undefined)?.[field] ?? null, value),
    ),
  ) as V;

const changeLimits = (
  draft: Draft,
  positionId: number,
  { from, until }: { from: Day; until?: Bound },
  limits: Partial<Values<'position_limits'>>,
): void => {
  if (draft.register.at('position_limits', positionId, from)) {
    draft.set('position_limits', positionId, { from, ...(until ? { until } : {}), values: limits });
    return;
  }
  const none = { places: null, fte: null, handoverDays: 0 };
  draft.begin('position_limits', positionId, { from, until: until ?? OPEN }, { ...none, ...limits });
};

// What of a position its holders have too.
const CARRIED = ['hours', 'costCentreId'] as const;

type Carrying = { before: Values<'position'>; values: Partial<Values<'position'>>; until: Bound };

// Cost centre: a holder without one of their own follows by itself, and keeps it by having the old one as their own. Hours: a
// holder who works those of the position follows by being written; unless it is said, hours are kept, as they are of a contract.
const carryToHolders = (
  draft: Draft,
  { positionId, firstDay, holders, others = [] }: ChangePositionInput,
  { before, values, until }: Carrying,
): Concerned | null => {
  const fields = CARRIED.filter((field) => field in values);
  if (fields.length === 0) return null;
  const { register } = draft;
  const lines: Concerned['lines'] = [];
  const rows = register
    .referrers('placement', 'positionId', positionId, { from: firstDay, until })
    .filter((row) => !takesNothing(row.values));
  for (const row of rows) {
    const from = later<Bound>(row.from, firstDay);
    const isOther = others.includes(row.thing);
    const told = fields.map((field) => {
      const usual = field === 'costCentreId' ? 'follow' : 'keep';
      const isFollowing = (holders ?? usual) === 'follow';
      return field === 'hours'
        ? carriedHours(row, { from, before, values, isFollowing, isOther })
        : carriedCostCentre(draft, row, { from, before, isFollowing, isOther });
    });
    const after = Object.fromEntries(told.flatMap(({ write }) => Object.entries(write)));
    if (Object.keys(after).length > 0)
      draft.set('placement', row.thing, { from, until: earlier(row.until, until), values: after });
    lines.push({ what: thing('placement', row.thing), where: null, values: told.map(({ value }) => value) });
  }
  return { count: new Set(lines.map(({ what }) => what.id)).size, lines };
};

type Carry = { from: Bound; before: Values<'position'>; isFollowing: boolean; isOther: boolean };
type Carried = { write: Partial<Values<'placement'>>; value: SlipValue };

const carriedHours = (
  { values: { hours, fullTime } }: Row<'placement'>,
  { before, values, isFollowing, isOther }: Carry & { values: Partial<Values<'position'>> },
): Carried => {
  const isFollower = hours === (before.hours ?? fullTime);
  const takes = isFollower ? isFollowing !== isOther : isOther;
  const after = takes ? (values.hours ?? fullTime) : hours;
  return {
    write: after === hours ? {} : { hours: after },
    value: slip('hours', after, takes ? 'position' : 'before', hours, 'placement'),
  };
};

const carriedCostCentre = (
  { register }: Draft,
  { values: { positionId, costCentreId } }: Row<'placement'>,
  { from, before, isFollowing, isOther }: Carry,
): Carried => {
  const now = register.at('position', positionId, from);
  const [was, is] = [before, now].map((one) => one && inherited(register, one, 'costCentreId', from).value);
  const isFollower = costCentreId === null;
  const takes = isFollower ? isFollowing !== isOther : isOther;
  const [old, after] = [costCentreId ?? was ?? null, takes ? (is ?? null) : (costCentreId ?? was ?? null)];
  const write = takes === isFollower ? {} : { costCentreId: takes ? null : (was ?? null) };
  return { write, value: slip('costCentreId', after, takes ? 'position' : 'before', old, 'placement') };
};

/** Limits that are others in a season, every year for some years; outside of the seasons, and after the last, the other ones. */
export const limitsBySeason: Decide<'limits_by_season'> = (draft, input) => {
  const { positionId, firstDay, lastDay, years } = input;
  if (!isThere(draft, 'position', positionId, firstDay, 'positionId')) return null;
  if (lastDay < firstDay) {
    draft.problems.push(problem('period', { from: firstDay, until: lastDay }, 'lastDay'));
    return null;
  }
  if (lastDay >= addDays(addMonths(firstDay, 12), -1)) {
    draft.problems.push(problem('season_too_long', {}, 'lastDay'));
    return null;
  }
  const { places, fte, otherPlaces, otherFte } = input;
  const before = draft.register.at('position_limits', positionId, firstDay);
  const inside = said({ places, fte }, ['places', 'fte']);
  const outside = said({ places: otherPlaces, fte: otherFte }, ['places', 'fte']);
  changeLimits(draft, positionId, { from: firstDay, until: OPEN }, outside);
  for (let year = 0; year < years; year++) {
    const from = addMonths(firstDay, 12 * year);
    const until = addDays(addMonths(lastDay, 12 * year), 1);
    changeLimits(draft, positionId, { from, until }, inside);
  }
  const { sources, unitId } = draft.register.at('position', positionId, firstDay) as Values<'position'>;
  if (sources.fte !== undefined)
    draft.set('position', positionId, { from: firstDay, values: { sources: { ...sources, fte: 'own' } } });
  return {
    things: { positionId, unitId },
    slip: [
      ...compared('position_limits', before, inside),
      ...compared('position_limits', before, outside).map((value) => ({
        ...value,
        field: value.field === 'fte' ? 'otherFte' : 'otherPlaces',
      })),
    ],
  };
};

// Holders stay employed where they are: where the position comes to another legal entity, it wants a word.
const strangersIn = (
  { register, problems }: Draft,
  { positionId, firstDay: on }: ChangePositionInput,
  before: Values<'position'>,
): void => {
  const after = register.at('position', positionId, on);
  const entityOf = (position: Values<'position'>) => inherited(register, position, 'legalEntityId', on).value;
  if (!after || entityOf(after) === entityOf(before)) return;
  const strangers = register
    .referrers('placement', 'positionId', positionId)
    .filter((row) => isOn(row, on) && row.values.kind === 'primary')
    .flatMap(({ values }) => {
      const entity = register.rows('employment', values.employmentId)[0]?.values.legalEntityId;
      const person = personOf(register, values, on);
      return entity === entityOf(after) || person === undefined ? [] : thing('person', person);
    });
  const entity = entityOf(after);
  if (strangers.length > 0 && entity !== null)
    problems.push(
      problem('entity_differs', { people: strangers, entity: thing('legal_entity', entity) }, 'unitId'),
    );
};
