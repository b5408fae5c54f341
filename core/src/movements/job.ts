// A job begins, of nothing or of what another one says, and changes, with the positions that follow it.
import {
  type Bound,
  type Day,
  type JobPart,
  JobSaid,
  type NewValues,
  type Row,
  type SlipValue,
  type Values,
  jobParts,
} from '@gremium/contract';
import { BEGINNING, OPEN, earlier, isBefore, isOn, later } from '../time/calendar';
import type { Draft } from '../time/draft';
import { problem, thing } from '../time/problem';
import { isEqual } from '../time/timeline';
import type { Concerned, Decide } from './decide';
import { limitOf } from './limit';
import { slip } from './place';
import { changed, compared, said } from './position';

type JobValues = Values<'job'>;
type Said = Partial<Omit<JobValues, 'pattern'>>;

const FIELDS = Object.keys(JobSaid.shape) as (keyof Said)[];

const PART_FIELDS: { [P in JobPart]?: readonly (keyof Said)[] } = {
  described: ['title', 'summary', 'description', 'familyId', 'functionId', 'typeId', 'level'],
  terms: ['fte', 'hours', 'averagedOver', 'workerTypeId', 'gradeId', 'mostPositions', 'branchId'],
  tasks: ['taskIds'],
  responsibilities: ['responsibilityIds'],
  checks: ['checkIds'],
};
const PART_REQUIREMENTS = {
  skills: 'skillIds',
  certificates: 'certificateIds',
  education: 'educationIds',
} as const;

type Copy = { likeId: number; parts: readonly JobPart[]; without: ReadonlySet<number>; on: Day };

const kept = (ids: readonly number[] | null, { without }: Copy): number[] | null => {
  const left = (ids ?? []).filter((id) => !without.has(id));
  return left.length > 0 ? left : null;
};

// Values of the parts that are copied, without the entries that are left out.
const fieldsCopied = (like: JobValues, copy: Copy): Said =>
  Object.fromEntries(
    copy.parts
      .flatMap((part) => PART_FIELDS[part] ?? [])
      .map((field) => {
        const value = like[field];
        return [field, Array.isArray(value) ? kept(value, copy) : value];
      }),
  );

type Owned = Row<'job_requirement'> | Row<'job_pay_basis'>;

// What belongs to a job and is copied with the parts, as values of the other job.
const ownedCopied = (draft: Draft, jobId: number, copy: Copy): Owned[] => {
  const { register } = draft;
  const on = (row: Row) => isOn(row, copy.on);
  const requirements = register
    .referrers('job_requirement', 'jobId', copy.likeId)
    .filter(on)
    .flatMap((row): Owned[] => {
      const part = (Object.keys(PART_REQUIREMENTS) as (keyof typeof PART_REQUIREMENTS)[]).find(
        (one) => row.values[PART_REQUIREMENTS[one]] !== null,
      );
      if (!part || !copy.parts.includes(part)) return [];
      const field = PART_REQUIREMENTS[part];
      const ids = kept(row.values[field], copy);
      return ids ? [{ ...row, values: { ...row.values, jobId, [field]: ids } }] : [];
    });
  if (!copy.parts.includes('pay_basis')) return requirements;
  const bases = register.referrers('job_pay_basis', 'jobId', copy.likeId).filter(on);
  return [...requirements, ...bases.map((row) => ({ ...row, values: { ...row.values, jobId } }))];
};

const beginOwned = (draft: Draft, from: Bound, rows: readonly Owned[]): void => {
  for (const { section, values } of rows) draft.create(section, from, values as never);
};

// Every entry of a list within the parts: whether it is copied. Each can be left out.
const entriesIn = (draft: Draft, like: JobValues, copy: Copy): Concerned['lines'] => {
  const all = { ...copy, without: new Set<number>() };
  const lists = [
    ...Object.entries(fieldsCopied(like, all)),
    ...ownedCopied(draft, copy.likeId, all).flatMap(({ values }) => Object.entries(values)),
  ];
  return lists.flatMap(([field, value]) =>
    Array.isArray(value)
      ? value.map((id) => ({
          what: thing('list_entry', Number(id)),
          where: null,
          values: [slip(field, !copy.without.has(Number(id)), 'job')],
        }))
      : [],
  );
};

const missing = (draft: Draft, id: number, day: Day, field: string): null => {
  draft.problems.push(problem('reference_missing', { what: thing('job', id), day }, field));
  return null;
};

/** Begins a job: of what is said, over what is copied, over what is usual (its name as title, 1.0 FTE, no limit). */
export const newJob: Decide<'new_job'> = (draft, input) => {
  const { firstDay, likeId } = input;
  const from = input.fromBeginning ? BEGINNING : firstDay;
  const like = likeId === undefined ? undefined : draft.register.at('job', likeId, firstDay);
  if (likeId !== undefined && !like) return missing(draft, likeId, firstDay, 'likeId');
  const copy: Copy | null =
    likeId === undefined
      ? null
      : { likeId, parts: input.parts ?? jobParts, without: new Set(input.without), on: firstDay };
  // it is called by its own name
  const { title: _, ...copied } = like && copy ? fieldsCopied(like, copy) : ({} as Said);
  const own = said(input, FIELDS);
  const values: NewValues<'job'> = {
    fte: 100,
    active: true,
    ...copied,
    title: input.name,
    ...own,
    code: input.code,
    name: input.name,
    ...(input.pattern ? { pattern: true } : {}),
  };
  const jobId = draft.create('job', from, values);
  const owned = copy ? ownedCopied(draft, jobId, copy) : [];
  beginOwned(draft, from, owned);
  const isTyped = (field: string) => field in own || field === 'code' || field === 'name';
  const taken = Object.keys(copied).filter((field) => (values[field as keyof Said] ?? null) !== null);
  const shown = ['code', 'name', 'title', ...taken, ...Object.keys(own)] as (keyof Said)[];
  return {
    things: { jobId },
    slip: [
      ...[...new Set(shown)].map((field) =>
        slip(
          field,
          sayable(values[field]),
          isTyped(field) ? 'typed' : field in copied ? 'job' : 'preset',
          null,
          'job',
        ),
      ),
      ...owned.flatMap(told),
    ],
    ...(like && copy ? concernedBy(entriesIn(draft, like, copy)) : {}),
  };
};

const concernedBy = (lines: Concerned['lines']): { concerned?: Concerned } =>
  lines.length > 0 ? { concerned: { count: lines.length, lines } } : {};

// What was copied beside the job itself: of a requirement how many it names, of a pay basis the country.
const told = ({ section, values }: Owned): SlipValue[] =>
  Object.entries(values)
    .filter(([field, value]) => (field.endsWith('Ids') && value !== null) || field === 'country')
    .map(([field, value]) => slip(field, sayable(value), 'job', null, section));

// Lists of ids are said by how many there are.
const sayable = (value: unknown): SlipValue['after'] =>
  Array.isArray(value) ? value.length : ((value ?? null) as SlipValue['after']);

// What of a job positions follow, by the field of the position; their FTE is a limit beside it.
const FOLLOWED = ['title', 'gradeId', 'hours', 'averagedOver', 'fte'] as const;
type Followed = (typeof FOLLOWED)[number];

type Following = {
  jobId: number;
  from: Day;
  values: Said;
  follow: boolean;
  others: ReadonlySet<number>;
  /** Where each field of the job changes again by itself. */
  ends: { [F in Followed]?: Bound };
};

const nextChange = (draft: Draft, { jobId, from, values }: Omit<Following, 'ends'>, field: Followed): Bound =>
  draft.register
    .rows('job', jobId)
    .filter((row) => isBefore(from, row.from) && !isEqual(row.values[field], values[field]))
    .reduce((first: Bound, row) => earlier(first, row.from), OPEN);

const valueOf = (draft: Draft, row: Row<'position'>, field: Followed, on: Bound): SlipValue['before'] =>
  field === 'fte'
    ? (draft.register.at('position_limits', row.thing, on)?.fte ?? null)
    : (row.values[field] ?? null);

// One version of a position: which of the changed fields it takes over, and what it says of them.
const followOne = (draft: Draft, row: Row<'position'>, following: Following): SlipValue[] => {
  const { from, values, follow, others, ends } = following;
  const fields = FOLLOWED.filter((field) => field in values);
  const day = later<Bound>(row.from, from);
  const told: SlipValue[] = [];
  for (const field of fields) {
    const until = earlier(row.until, ends[field] ?? OPEN);
    if (!isBefore(day, until)) continue;
    // what was set for another field of this version stands already
    const now = draft.register.at('position', row.thing, day) as Values<'position'>;
    const before = valueOf(draft, { ...row, values: now }, field, day);
    const isFollower = now.sources[field] === 'job';
    const takes = isFollower ? follow !== others.has(row.thing) : others.has(row.thing);
    const after = field === 'fte' ? limitOf(values.fte ?? 0) : ((values[field] ?? null) as typeof before);
    const section = field === 'fte' ? 'position_limits' : 'position';
    if (takes) {
      if (field === 'fte')
        draft.set('position_limits', row.thing, {
          from: day,
          until,
          values: { fte: after as number | null },
        });
      else draft.set('position', row.thing, { from: day, until, values: { [field]: after } });
    }
    if (takes !== isFollower) {
      const sources = { ...now.sources, [field]: takes ? ('job' as const) : ('own' as const) };
      draft.set('position', row.thing, { from: day, until, values: { sources } });
    }
    told.push(slip(field, takes ? after : before, takes ? 'job' : 'before', before, section));
  }
  return told;
};

const followers = (draft: Draft, asked: Omit<Following, 'ends'>): Concerned => {
  const ends: Following['ends'] = {};
  for (const field of FOLLOWED) if (field in asked.values) ends[field] = nextChange(draft, asked, field);
  const lines: Concerned['lines'] = [];
  const rows = draft.register
    .referrers('position', 'jobId', asked.jobId, { from: asked.from, until: OPEN })
    .filter(({ values }) => values.standing !== 'closed');
  for (const row of rows) {
    const values = followOne(draft, row, { ...asked, ends });
    if (values.length > 0)
      lines.push({ what: thing('position', row.thing), where: thing('unit', row.values.unitId), values });
  }
  return { count: new Set(lines.map(({ what }) => what.id)).size, lines };
};

type Choice = { followers?: 'follow' | 'keep' | undefined; others?: readonly number[] | undefined };

const write = (
  draft: Draft,
  { jobId, from, values }: { jobId: number; from: Day; values: Said },
  choice: Choice,
): Pick<NonNullable<ReturnType<Decide<'change_job'>>>, 'things' | 'slip' | 'concerned'> => {
  const before = draft.register.at('job', jobId, from) as JobValues;
  if (Object.keys(values).length > 0) draft.set('job', jobId, { from, values });
  const concerned = followers(draft, {
    jobId,
    from,
    values,
    follow: choice.followers !== 'keep',
    others: new Set(choice.others),
  });
  return {
    things: { jobId },
    slip: compared('job', before, values).map((value) => ({
      ...value,
      before: sayable(value.before),
      after: sayable(value.after),
    })),
    ...(FOLLOWED.some((field) => field in values) ? { concerned } : {}),
  };
};

/** Changes a job from a day on; positions that follow it follow or keep, those with values of their own are told. */
export const changeJob: Decide<'change_job'> = (draft, input) => {
  const { jobId, firstDay: from } = input;
  const before = draft.register.at('job', jobId, from);
  if (!before) return missing(draft, jobId, from, 'jobId');
  return write(draft, { jobId, from, values: changed(said(input, FIELDS), before) }, input);
};

/** Copies parts of a job into another from a day on: fills what is empty, adds to lists, overwrites nothing. */
export const copyIntoJob: Decide<'copy_into_job'> = (draft, input) => {
  const { jobId, likeId, firstDay: from } = input;
  const [into, like] = [jobId, likeId].map((id) => draft.register.at('job', id, from));
  if (!into || !like) return missing(draft, into ? likeId : jobId, from, into ? 'likeId' : 'jobId');
  const copy: Copy = { likeId, parts: input.parts, without: new Set(input.without), on: from };
  const values = Object.fromEntries(
    Object.entries(fieldsCopied(like, copy)).flatMap(([field, value]): [string, unknown][] => {
      const now = into[field as keyof Said];
      if (Array.isArray(value)) {
        const all = [...new Set([...((now as number[] | null) ?? []), ...(value as number[])])];
        return isEqual(all, now) ? [] : [[field, all]];
      }
      return now === null && value !== null ? [[field, value]] : [];
    }),
  ) as Said;
  const there = [
    ...draft.register.referrers('job_requirement', 'jobId', jobId),
    ...draft.register.referrers('job_pay_basis', 'jobId', jobId),
  ].filter((row) => isOn(row, from));
  const fresh = ownedCopied(draft, jobId, copy).filter((row) => !there.some((one) => isAlike(one, row)));
  if (fresh.length === 0 && Object.keys(values).length === 0)
    draft.problems.push(problem('nothing_to_copy', {}, 'parts'));
  beginOwned(draft, from, fresh);
  const entries = entriesIn(draft, like, copy);
  const done = write(draft, { jobId, from, values }, input);
  const { count = 0, lines = [] } = done.concerned ?? {};
  return {
    ...done,
    slip: [...done.slip, ...fresh.flatMap(told)],
    ...(lines.length + entries.length > 0
      ? { concerned: { count: entries.length + count, lines: [...entries, ...lines] } }
      : {}),
  };
};

// Two requirements that name the same, or two pay bases of one country.
const isAlike = (a: Owned, b: Owned): boolean => {
  if (a.section !== b.section) return false;
  if (a.section === 'job_pay_basis') return a.values.country === (b as Row<'job_pay_basis'>).values.country;
  const named = (row: Row<'job_requirement'>) => {
    const { skillIds, certificateIds, educationIds } = row.values;
    return [...(skillIds ?? certificateIds ?? educationIds ?? [])].sort();
  };
  return isEqual(named(a as Row<'job_requirement'>), named(b as Row<'job_requirement'>));
};
