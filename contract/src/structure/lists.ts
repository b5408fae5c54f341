// The lists that forms pick from: where they stand, and what is kept in each. A list is one of entries (`list_entry`) or a
// kind of thing of its own.
import { z } from 'zod';
import { endpoint } from '../endpoint';
import { SectionNameSchema } from '../catalogue';
import { Day } from '../time/day';
import type { ListName } from '../time/section';
import { Id, type Kind, Text } from '../time/section';
import { Words, Written } from '../time/records.endpoints';
import type { Flags } from './list-entry';

/** Groups of lists, in the order in which they stand. */
export const listGroups = ['place', 'work', 'reasons', 'record'] as const;
/** What lists are about. */
export type ListGroup = (typeof listGroups)[number];

type Acted = NonNullable<Flags['acts']>[number];

/** Kinds of things that lists hold. */
export const PickKind = z.enum([
  'list_entry',
  'location',
  'legal_entity',
  'cost_centre',
  'least_age',
  'unit',
  'job',
  'grade',
]);
export type PickKind = z.infer<typeof PickKind>;

/** A list as it is set up: `acts`: its entries are those that may be chosen for this act. `needed`: something asks for it. */
export type PickList = {
  id: string;
  kind: PickKind;
  list?: ListName;
  acts?: Acted;
  group: ListGroup;
  /** What it is called, where no option of a field says it. */
  name?: { en: string; de: string };
  /** Of the list `own`: the field whose choices they are. */
  ownField?: number;
  /** What cannot be recorded while it is empty; none: nothing asks for it yet. */
  asks?: { en: string; de: string };
};

/** An entry list is called as its name among the options of a field (`labels`). */
const entries = (
  list: ListName,
  group: ListGroup,
  { asks, name }: Pick<PickList, 'asks' | 'name'> = {},
): PickList => ({
  id: list,
  kind: 'list_entry',
  list,
  group,
  ...(asks ? { asks } : {}),
  ...(name ? { name } : {}),
});

const reasons = (acts: Acted, name: PickList['name']): PickList => ({
  id: `reason_${acts}`,
  kind: 'list_entry',
  list: 'reason',
  acts,
  group: 'reasons',
  ...(name ? { name } : {}),
});

const beforeHire = { en: 'nobody can be hired before', de: 'vorher kann niemand eingestellt werden' };

/** All lists, in the order in which they are shown and needed. */
export const pickLists: readonly PickList[] = [
  {
    id: 'legal_entity',
    kind: 'legal_entity',
    group: 'place',
    name: { en: 'Legal entities', de: 'Gesellschaften' },
    asks: beforeHire,
  },
  {
    id: 'location',
    kind: 'location',
    group: 'place',
    name: { en: 'Locations', de: 'Standorte' },
    asks: {
      en: 'full-time hours are those of the organisation everywhere',
      de: 'Vollzeitstunden gelten überall wie in der Organisation',
    },
  },
  {
    id: 'cost_centre',
    kind: 'cost_centre',
    group: 'place',
    name: { en: 'Cost centres', de: 'Kostenstellen' },
    asks: { en: 'costs are booked to nothing', de: 'Kosten werden nirgends gebucht' },
  },
  {
    id: 'least_age',
    kind: 'least_age',
    group: 'work',
    name: { en: 'Least ages', de: 'Mindestalter' },
    asks: { en: 'nobody is said to be too young', de: 'niemand gilt als zu jung' },
  },
  entries('union', 'place'),
  entries('bargaining_unit', 'place'),
  // among the sources of full-time hours it is one agreement
  entries('agreement', 'place', { name: { en: 'Collective agreements', de: 'Tarifverträge' } }),
  entries('unit_kind', 'work', {
    asks: { en: 'no unit can be made before', de: 'vorher lässt sich keine Einheit anlegen' },
  }),
  entries('worker_type', 'work', { asks: beforeHire }),
  entries('contract_kind', 'work', { asks: beforeHire }),
  entries('pay_kind', 'work', {
    asks: { en: 'no pay can be recorded before', de: 'vorher lässt sich kein Entgelt erfassen' },
  }),
  entries('job_family', 'work'),
  entries('job_function', 'work'),
  entries('job_type', 'work'),
  entries('evaluation_method', 'work'),
  entries('clearance', 'work'),
  entries('origin', 'place'),
  entries('task', 'work'),
  entries('responsibility', 'work'),
  reasons('hire', { en: 'Reasons for a hire', de: 'Gründe für Einstellungen' }),
  reasons('transfer', { en: 'Reasons for a move', de: 'Gründe für Versetzungen' }),
  reasons('leave', { en: 'Reasons for leaving', de: 'Austrittsgründe' }),
  reasons('change', { en: 'Reasons for a change of pay', de: 'Gründe für Entgeltänderungen' }),
  reasons('position', { en: 'Reasons for a position', de: 'Gründe für Planstellen' }),
  entries('title', 'record'),
  entries('education', 'record'),
  entries('certificate', 'record'),
  entries('skill', 'record'),
  entries('honour', 'record'),
  entries('document_kind', 'record'),
  entries('asset_kind', 'record'),
  entries('relation', 'record'),
  entries('identifier_kind', 'record'),
  entries('protected_status', 'record'),
  entries('training', 'record'),
  entries('medical', 'record'),
  entries('measure', 'record'),
  entries('benefit', 'record'),
  entries('declared_fact', 'record'),
  entries('absence_kind', 'record'),
  entries('check', 'record'),
];

/** What is picked from and has records or a page of its own: added in place too, with what it needs. */
const pickRecords: readonly PickList[] = [
  { id: 'unit', kind: 'unit', group: 'work', name: { en: 'Units', de: 'Einheiten' } },
  { id: 'job', kind: 'job', group: 'work', name: { en: 'Jobs', de: 'Tätigkeiten' } },
  { id: 'grade', kind: 'grade', group: 'work', name: { en: 'Grades', de: 'Entgeltgruppen' } },
];

/** The choices of an own field as a list. */
export const ownPickList = (ownField: number, name?: PickList['name']): PickList => ({
  ...{ id: `own_${ownField}`, kind: 'list_entry', list: 'own', group: 'record', ownField },
  ...(name ? { name } : {}),
});

/** The list that a field picks from: of entries by its name (and of reasons by the act), else by the kind; none where it is not set up here. */
export const pickListOf = (
  kind: Kind,
  { list, acts }: { list?: ListName; acts?: Acted } = {},
): PickList | undefined =>
  [...pickLists, ...pickRecords].find(
    (one) => one.kind === kind && one.list === list && (one.acts ?? acts) === acts,
  );

/** How many believed rows name a thing, and how many of them hold on or after a day. */
export const Uses = z.object({ id: Id, rows: z.int(), later: z.int() });
export type Uses = z.infer<typeof Uses>;

/** Where a thing is named: so many rows of a field of a section. */
export const UsedIn = z.object({
  section: SectionNameSchema,
  field: z.string(),
  rows: z.int(),
  later: z.int(),
});
export type UsedIn = z.infer<typeof UsedIn>;

const Ordering = z.strictObject({
  /** Entries of one list in the order in which they are to stand. */
  ids: z
    .array(Id)
    .min(2)
    .max(1000)
    .refine((ids) => new Set(ids).size === ids.length, { error: 'value_invalid' }),
  reason: Text.optional(),
  preview: z.boolean().default(false),
  words: Words,
});

const Replacing = z.strictObject({
  kind: PickKind,
  from: Id,
  to: Id,
  /** From this day on; null: on every day, as two entries that always meant the same. */
  day: Day.nullable(),
  reason: Text.optional(),
  preview: z.boolean().default(false),
  words: Words,
});

/** What lists are used for, and the two acts that move uses from one entry to another. */
export const listEndpoints = {
  uses: endpoint({
    method: 'GET',
    path: '/api/uses/:kind',
    summary: 'How often things of a kind are named by what the viewer may see, all in all and from today on',
    right: { section: 'list_entry', level: 'edit' },
    params: z.object({ kind: PickKind }),
    query: z.strictObject({}),
    reply: z.object({ uses: z.array(Uses) }),
  }),
  usedIn: endpoint({
    method: 'GET',
    path: '/api/uses/:kind/:id',
    summary: 'Where one thing is named: by which fields of which sections, how often',
    right: { section: 'list_entry', level: 'edit' },
    params: z.object({ kind: PickKind, id: z.coerce.number().int() }),
    query: z.strictObject({}),
    reply: z.object({ places: z.array(UsedIn) }),
  }),
  orderEntries: endpoint({
    method: 'POST',
    path: '/api/lists/order',
    summary: 'Let the entries of a list stand in an order of one’s own, wherever they are picked from',
    right: { section: 'list_entry', level: 'edit' },
    body: Ordering,
    reply: Written,
  }),
  replaceUses: endpoint({
    method: 'POST',
    path: '/api/uses/replace',
    summary:
      'Let what names one thing name another: on every day (they are merged), or from a day on (later plans follow, the past stays). The one replaced ends',
    right: { section: 'list_entry', level: 'edit' },
    body: Replacing,
    reply: Written.extend({ rows: z.int() }),
  }),
};
