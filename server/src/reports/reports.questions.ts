// Views worked out over the register in memory: rows of a page, groups, totals; what can be picked; all rows for a file.
import type {
  Day,
  Kind,
  ReportFieldOut,
  ReportRun,
  SectionName,
  ViewColumn,
  ViewDefinition,
} from '@gremium/contract';
import { ledgers } from '@gremium/contract';
import {
  ConditionError,
  type Evaluated,
  type ReportField,
  type Value,
  type ViewTotal,
  evaluateView,
  fieldMap,
  fieldsOfSubject,
  fold,
  hiddenFor,
  problem,
  rounded,
  subjectsOf,
} from '@gremium/core';
import { Failure } from '../database/failure';
import { LastKept } from '../time/last-kept';
import type { Asking } from '../time/questions';
import { labelling, namesIn } from './labels';

type Language = 'en' | 'de';
type RunAsk = { view: ViewDefinition; language: Language; limit: number; offset: number };

/** What is wrong with a view is said with the names that whoever asks knows. */
export const orRefused = <T>(asking: Asking, language: Language, work: () => T): T => {
  try {
    return work();
  } catch (error) {
    if (!(error instanceof ConditionError)) throw error;
    const { code, params } = error;
    const names = namesIn(asking, language);
    const said =
      code === 'field_hidden' || code === 'each_twice'
        ? { ...params, section: names.section(String(params['section'])) }
        : code === 'condition_type'
          ? {
              ...params,
              expected: EXPECTED[language][String(params['expected'])] ?? String(params['expected']),
            }
          : params;
    throw new Failure(
      [problem(code, said, AT[code] ?? 'view.condition')],
      code === 'field_hidden' ? 403 : 400,
    );
  }
};

// Which part of the view is meant, where it is not the condition.
const AT: Record<string, string> = { each_twice: 'view.columns', period_turned: 'view.period' };

const EXPECTED: Record<Language, Record<string, string>> = {
  en: {
    number: 'a number',
    text: 'a text',
    day: 'a day',
    yes_no: 'yes or no',
    list: 'a list',
    value: 'one value',
  },
  de: {
    number: 'eine Zahl',
    text: 'ein Text',
    day: 'ein Tag',
    yes_no: 'ja oder nein',
    list: 'eine Liste',
    value: 'ein Wert',
  },
};

type Option = (value: string, field?: ReportField) => string;
/** A value as it leaves the server. */
export type Wire = string | number | boolean | null;

// Exact decimals leave as text: amounts whole, fractions to four places.
const exactText = (value: Exclude<Value, string | number | boolean | null | readonly number[]>): string =>
  rounded(value, 4).replace(/\.?0+$/, '');

const isExact = (
  value: Value,
): value is Exclude<Value, string | number | boolean | null | readonly number[]> =>
  typeof value === 'object' && value !== null && 'num' in value;

const plain = (field: ReportField, value: Value, { labelOf }: Evaluated, option: Option): Wire => {
  if (value === null) return null;
  if (isExact(value)) return exactText(value);
  if (field.kind === 'hundredths') return (value as number) / 100;
  if (field.kind === 'number' || field.kind === 'yes_no') return value as number | boolean;
  if (field.kind === 'choice')
    return String(value)
      .split(/, ?/)
      .map((one) => option(one, field))
      .join(', ');
  if (field.kind === 'entry' || field.kind === 'entries' || field.kind === 'thing')
    return labelOf(field, value) || null;
  return String(value);
};

/** What a cell shows of a field, at the row where the cursor stands. */
export const cellOf = (
  field: ReportField,
  several: ViewColumn['several'],
  found: Evaluated,
  option: Option,
): Wire => {
  const { cursor } = found;
  if (!field.readAll) return plain(field, field.read(cursor), found, option);
  if (several === 'count') return field.readAll(cursor).length;
  if (several === 'latest' || several === 'each') return plain(field, field.read(cursor), found, option);
  const all = field.readAll(cursor).flatMap((value) => plain(field, value, found, option) ?? []);
  return all.length > 0 ? all.join(', ') : null;
};

const totalOut = (field: ReportField | null, total: ViewTotal) => {
  if (!total || !field) return null;
  const { name, value } = total;
  if (isExact(value)) return { name, value: name === 'mean' ? rounded(value, 2) : exactText(value) };
  if (field.kind === 'hundredths' && name !== 'count' && typeof value === 'number')
    return { name, value: value / 100 };
  return { name, value: value as Wire };
};

/** Refused where there is no such subject, or the viewer may not see it. */
export const mustSeeSubject = ({ sight, facts }: Asking, subject: SectionName): void => {
  if (!subjectsOf(facts.columns.catalogue).includes(subject))
    throw new Failure([problem('section_unknown', { named: subject }, 'view.subject')], 400);
  if (!sight.has(subject)) throw new Failure([problem('subject_hidden', {}, 'view.subject')], 403);
};

// A mean of hundredths is of hundredths too.
const meanOf = (field: ReportField | null, out: ReturnType<typeof totalOut>) =>
  out && field?.kind === 'hundredths' && out.name === 'mean'
    ? { ...out, value: Number(out.value) / 100 }
    : out;

const MOST_EVALUATED = 6;
const lastEvaluated = new WeakMap<Asking['facts'], LastKept<Evaluated>>();

/** Pages of one view after each other are one evaluation. */
export const evaluation = (asking: Asking, view: ViewDefinition, language: Language): Evaluated => {
  const { facts, sight, looking, number } = asking;
  const { on, today } = looking;
  const kept = lastEvaluated.get(facts) ?? new LastKept<Evaluated>(MOST_EVALUATED);
  lastEvaluated.set(facts, kept);
  const { grants, personId } = sight.viewer;
  const asked = JSON.stringify([number, view, looking, language, grants, personId]);
  const labels = labelling(asking, language);
  return kept.get(asked, () => evaluateView(facts, sight, { view, on, today, labels }));
};

/** A page of a view, with its columns, groups and totals. */
export const run = (asking: Asking, { view, language, limit, offset }: RunAsk): ReportRun => {
  mustSeeSubject(asking, view.subject);
  const { facts, sight, looking, number } = asking;
  const names = namesIn(asking, language);
  const hidden = hiddenFor(sight);
  const fields = fieldMap(facts, view.subject);
  const found = evaluation(asking, view, language);
  const { cursor, slots, columns } = found;
  const things = cursor.table.things.ids;
  const kind = cursor.table.declared.kind as Kind;
  const rows: ReportRun['rows'] = [];
  for (let i = offset; i < Math.min(slots.length, offset + limit); i++) {
    const slot = slots[i] as number;
    found.goTo(i);
    const cells = columns.map(({ field, asked }) =>
      field ? cellOf(field, asked.several, found, names.option) : null,
    );
    const person = kind === 'person' ? -1 : cursor.anchor('person');
    // what has no record of its own opens that of its person
    const opens = ledgers.has(view.subject)
      ? { kind: 'entry' as Kind, id: cursor.number(view.subject, 'number') }
      : person >= 0
        ? { kind: 'person' as Kind, id: cursor.idOf('person', person) }
        : { kind, id: things[cursor.table.thing[slot] as number] as number };
    rows.push({ ...opens, cells });
  }
  const totals = (all: readonly ViewTotal[]) =>
    all.map((total, i) => meanOf(columns[i]?.field ?? null, totalOut(columns[i]?.field ?? null, total)));
  return {
    columns: columns.map(({ asked, field, why }) => {
      const known = field ?? fields.get(asked.field);
      const section = known && why === 'hidden' ? hidden(known) : null;
      return {
        field: asked.field,
        label: asked.label ?? (known ? names.field(known) : asked.field),
        kind: asked.several === 'count' ? 'number' : (known?.kind ?? 'text'),
        why,
        ...(section ? { section: names.section(section) } : {}),
      };
    }),
    rows,
    groups: found.groups.map((group) => ({
      ...group,
      label: labelOfGroup(group.label, (value) =>
        names.option(value, fields.get(view.groups[group.depth] ?? '')),
      ),
      totals: totals(group.totals),
    })),
    totals: totals(found.totals),
    things: found.things,
    looked: found.looked,
    matched: found.matched,
    boundary: found.boundary,
    noValue: found.noValue,
    on: looking.on,
    entry: number,
  };
};

const labelOfGroup = (label: string, option: (value: string) => string): string =>
  /^[a-z_]+$/.test(label) ? option(label) : label;

type FieldsAsk = { subject: SectionName | undefined; language: Language };

const fieldOut = (field: ReportField, names: ReturnType<typeof namesIn>): ReportFieldOut => ({
  id: field.id,
  section: field.section,
  group: names.section(field.section),
  label: names.field(field),
  kind: field.kind,
  isSeveral: field.isSeveral === true,
  isWorkedOut: field.isWorkedOut === true,
  isOwn: field.section.startsWith('own.'),
  ...(field.kind === 'choice'
    ? { options: optionsOf(field).map((value) => ({ value, label: names.option(value, field) })) }
    : {}),
});

const optionsOf = ({ meta, name }: ReportField): string[] => {
  if (meta?.is === 'choice' || meta?.is === 'choices') return [...meta.options];
  if (name === 'status') return ['at_work', 'away', 'coming', 'left'];
  return ['vacant', 'part_filled', 'filled', 'over_held', 'planned', 'on_hold', 'closed'];
};

type ChoicesAsk = { subject: SectionName; field: string; search: string; language: Language };
const MOST_CHOICES = 60;

// A view of nothing but a condition.
const viewOf = (subject: SectionName, condition: string): ViewDefinition => ({
  subject,
  columns: [{ field: `${subject}.inEffectFrom` }],
  condition,
  order: [],
  groups: [],
});

/** Whether people fit a condition, by the slots of their names; refused as reports are where it is wrong. */
export const fitting = (asking: Asking, where: string): ((slot: number) => boolean) => {
  const { language } = asking.sight.viewer;
  const { ids } = matchingOf(asking, { subject: 'person_name', condition: where, language });
  const table = asking.facts.columns.table('person_name');
  const known = new Set(ids);
  return (slot) => known.has(table.things.ids[table.thing[slot] as number] as number);
};

type MatchingAsk = { subject: SectionName; condition: string; language: Language };

const matchingOf = (asking: Asking, { subject, condition, language }: MatchingAsk) =>
  orRefused(asking, language, () => {
    mustSeeSubject(asking, subject);
    const { slots, cursor, looked, boundary, noValue } = evaluation(
      asking,
      viewOf(subject, condition),
      language,
    );
    const { table } = cursor;
    const ids = Array.from(slots, (slot) => table.things.ids[table.thing[slot] as number] as number);
    return { ids, looked, boundary, noValue };
  });

/** Questions of list reports. */
export const reportQuestions = {
  runReport: (asking: Asking, ask: RunAsk): ReportRun =>
    orRefused(asking, ask.language, () => run(asking, ask)),

  matching: matchingOf,

  reportFields: (asking: Asking, { subject, language }: FieldsAsk) => {
    const { catalogue } = asking.facts.columns;
    const names = namesIn(asking, language);
    const hidden = hiddenFor(asking.sight);
    const subjects = subjectsOf(catalogue)
      .filter((name) => asking.sight.has(name))
      .map((name) => ({ name, label: names.section(name) }));
    if (subject !== undefined) mustSeeSubject(asking, subject);
    const fields =
      subject === undefined
        ? []
        : fieldsOfSubject(catalogue, subject).filter((field) => hidden(field) === null);
    return { subjects, fields: fields.map((field) => fieldOut(field, names)) };
  },

  reportChoices: (asking: Asking, { subject, field: id, search, language }: ChoicesAsk) => {
    mustSeeSubject(asking, subject);
    const { columns } = asking.facts;
    const field = fieldMap(asking.facts, subject).get(id);
    if (!field || hiddenFor(asking.sight)(field) !== null) return { choices: [] };
    const labels = labelling(asking, language);
    const { meta } = field;
    const kind = meta?.is === 'ref' ? meta.kind : 'list_entry';
    const wanted = fold(search).split(' ').filter(Boolean);
    const choices: { code: string; label: string }[] = [];
    for (const { thing, values } of columns.allOn(kind as 'list_entry', asking.looking.on)) {
      if ((meta?.is === 'list' || meta?.is === 'lists') && values.list !== meta.list) continue;
      const [code, label] = [labels.codeOf(field, thing), labels.labelOf(field, thing)];
      if (code === null || label === '') continue;
      const text = fold(`${label} ${code}`);
      if (wanted.every((word) => text.includes(word))) choices.push({ code, label });
      if (choices.length > 5000) break;
    }
    choices.sort((a, b) => a.label.localeCompare(b.label));
    return { choices: choices.slice(0, MOST_CHOICES) };
  },
};

/** The day of a view that is asked. */
export type ReportDay = { on: Day };
