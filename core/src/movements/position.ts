// A position begins, or changes from a day on: standing, limits, where it stands.
import type {
  ChangePositionInput,
  Day,
  NewPositionInput,
  NewValues,
  SlipValue,
  Values,
} from '@gremium/contract';
import { PositionSaid } from '@gremium/contract';
import { personOf } from '../people/employments';
import { inherited } from '../structure/tree';
import { isOn } from '../time/calendar';
import type { Draft } from '../time/draft';
import { problem, thing } from '../time/problem';
import { isEqual } from '../time/timeline';
import type { Decide } from './decide';
import { slip } from './place';

const FIELDS = Object.keys(PositionSaid.shape) as (keyof typeof PositionSaid.shape)[];
const LIMITS = ['places', 'fte', 'handoverDays'] as const;
// What follows a source until it is said otherwise.
const FOLLOWING = ['title', 'gradeId', 'hours', 'locationId', 'costCentreId', 'legalEntityId'] as const;

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

/** Begins a position; title, grade, hours and FTE come from the job where they are not said. */
export const newPosition: Decide<'new_position'> = (draft, input) => {
  const { register } = draft;
  const { firstDay: from } = input;
  const job = register.at('job', input.jobId, from);
  const unit = register.at('unit', input.unitId, from);
  if (!job || !unit) {
    const [kind, id] = job ? (['unit', input.unitId] as const) : (['job', input.jobId] as const);
    draft.problems.push(problem('reference_missing', { what: thing(kind, id), day: from }, `${kind}Id`));
    return null;
  }
  const positionId = draft.newId();
  const own = said(input, FIELDS);
  const fromJob = { title: job.title, gradeId: job.gradeId, hours: job.hours };
  const followed = Object.keys(fromJob).filter((field) => !(field in own));
  const values: NewValues<'position'> = {
    code: `${unit.code}-${positionId}`.slice(0, 40),
    temporary: false,
    ...fromJob,
    ...own,
    unitId: input.unitId,
    jobId: input.jobId,
    standing: input.standing,
    madeOnHire: false,
    confirmedTop: false,
    sources: Object.fromEntries(followed.map((field) => [field, 'job'])),
  };
  const limits = { places: 1, fte: job.fte > 0 ? job.fte : null, handoverDays: 0, ...said(input, LIMITS) };
  draft.begin('position', positionId, { from, until: 'infinity' }, values);
  draft.begin('position_limits', positionId, { from, until: 'infinity' }, limits);
  return {
    things: { positionId, unitId: input.unitId },
    slip: [
      ...(['title', 'code', 'unitId', 'jobId', 'standing', 'gradeId', 'hours'] as const).map((field) =>
        slip(field, values[field] ?? null, sourceOf(field, input), null, 'position'),
      ),
      ...LIMITS.map((field) =>
        slip(
          field,
          limits[field],
          input[field] !== undefined ? 'typed' : field === 'fte' ? 'job' : 'preset',
          null,
          'position_limits',
        ),
      ),
    ],
  };
};

const sourceOf = (field: keyof NewPositionInput, input: NewPositionInput): SlipValue['source'] => {
  if (input[field] !== undefined) return 'typed';
  return field === 'code' ? 'unit' : 'job';
};

/** Changes a position from a day on; only what is said is written, each until it changes again by itself. */
export const changePosition: Decide<'change_position'> = (draft, input) => {
  const { positionId, firstDay: from } = input;
  const before = draft.register.at('position', positionId, from);
  if (!before) {
    const params = { what: thing('position', positionId), day: from };
    draft.problems.push(problem('reference_missing', params, 'positionId'));
    return null;
  }
  const limitsBefore = draft.register.at('position_limits', positionId, from);
  const values = changed(said(input, FIELDS), before);
  const limits = changed(said(input, LIMITS), limitsBefore);
  if (Object.keys(values).length > 0) {
    const own = FOLLOWING.filter((field) => field in values).map((field) => [field, 'own'] as const);
    const sources = own.length > 0 ? { sources: { ...before.sources, ...Object.fromEntries(own) } } : {};
    draft.set('position', positionId, { from, values: { ...values, ...sources } });
  }
  if (Object.keys(limits).length > 0) changeLimits(draft, positionId, from, limits);
  strangersIn(draft, input, before);
  return {
    things: { positionId, unitId: values.unitId ?? before.unitId },
    slip: [...compared('position', before, values), ...compared('position_limits', limitsBefore, limits)],
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
  from: Day,
  limits: Partial<Values<'position_limits'>>,
): void => {
  if (draft.register.at('position_limits', positionId, from)) {
    draft.set('position_limits', positionId, { from, values: limits });
    return;
  }
  const none = { places: null, fte: null, handoverDays: 0 };
  draft.begin('position_limits', positionId, { from, until: 'infinity' }, { ...none, ...limits });
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
