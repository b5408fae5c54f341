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

/** A list as it is set up: `acts`: its entries are those that may be chosen for this act. `needed`: something asks for it. */
export type PickList = {
  id: string;
  kind: Extract<Kind, 'list_entry' | 'location' | 'legal_entity' | 'cost_centre'>;
  list?: ListName;
  acts?: Acted;
  group: ListGroup;
  name: { en: string; de: string };
  /** What cannot be recorded while it is empty; none: nothing asks for it yet. */
  asks?: { en: string; de: string };
};

const entries = (
  list: ListName,
  group: ListGroup,
  name: PickList['name'],
  asks?: PickList['asks'],
): PickList => ({ id: list, kind: 'list_entry', list, group, name, ...(asks ? { asks } : {}) });

const reasons = (acts: Acted, name: PickList['name']): PickList => ({
  id: `reason_${acts}`,
  kind: 'list_entry',
  list: 'reason',
  acts,
  group: 'reasons',
  name,
});

/** All lists, in the order in which they are shown and needed. */
export const pickLists: readonly PickList[] = [
  {
    id: 'legal_entity',
    kind: 'legal_entity',
    group: 'place',
    name: { en: 'Legal entities', de: 'Gesellschaften' },
    asks: { en: 'nobody can be hired before', de: 'vorher kann niemand eingestellt werden' },
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
  entries('union', 'place', { en: 'Unions', de: 'Gewerkschaften' }),
  entries('bargaining_unit', 'place', { en: 'Bargaining units', de: 'Tarifeinheiten' }),
  entries('agreement', 'place', { en: 'Collective agreements', de: 'Tarifverträge' }),
  entries(
    'unit_kind',
    'work',
    { en: 'Kinds of units', de: 'Arten von Einheiten' },
    { en: 'no unit can be made before', de: 'vorher lässt sich keine Einheit anlegen' },
  ),
  entries(
    'worker_type',
    'work',
    { en: 'Worker types', de: 'Beschäftigungsarten' },
    { en: 'nobody can be hired before', de: 'vorher kann niemand eingestellt werden' },
  ),
  entries(
    'contract_kind',
    'work',
    { en: 'Contract kinds', de: 'Vertragsarten' },
    { en: 'nobody can be hired before', de: 'vorher kann niemand eingestellt werden' },
  ),
  entries(
    'pay_kind',
    'work',
    { en: 'Pay components', de: 'Entgeltbestandteile' },
    { en: 'no pay can be recorded before', de: 'vorher lässt sich kein Entgelt erfassen' },
  ),
  entries('job_family', 'work', { en: 'Job families', de: 'Tätigkeitsgruppen' }),
  entries('task', 'work', { en: 'Tasks', de: 'Aufgaben' }),
  entries('responsibility', 'work', { en: 'Responsibilities', de: 'Verantwortungen' }),
  reasons('hire', { en: 'Reasons for a hire', de: 'Gründe für Einstellungen' }),
  reasons('transfer', { en: 'Reasons for a move', de: 'Gründe für Versetzungen' }),
  reasons('leave', { en: 'Reasons for leaving', de: 'Austrittsgründe' }),
  reasons('change', { en: 'Reasons for a change of pay', de: 'Gründe für Entgeltänderungen' }),
  entries('title', 'record', { en: 'Titles of people', de: 'Titel von Personen' }),
  entries('education', 'record', { en: 'Levels of education', de: 'Bildungsabschlüsse' }),
  entries('certificate', 'record', { en: 'Certificates', de: 'Nachweise' }),
  entries('skill', 'record', { en: 'Skills', de: 'Fähigkeiten' }),
  entries('honour', 'record', { en: 'Honours', de: 'Ehrungen' }),
  entries('document_kind', 'record', { en: 'Kinds of documents', de: 'Arten von Dokumenten' }),
  entries('asset_kind', 'record', { en: 'Kinds of assets', de: 'Arten von Arbeitsmitteln' }),
  entries('absence_kind', 'record', { en: 'Kinds of absence', de: 'Arten von Abwesenheit' }),
  entries('check', 'record', { en: 'Checks before a hire', de: 'Prüfungen vor der Einstellung' }),
];

/** The list that a field picks from: of entries by its name (and of reasons by the act), else by the kind; none where it is not set up here. */
export const pickListOf = (
  kind: Kind,
  { list, acts }: { list?: ListName; acts?: Acted } = {},
): PickList | undefined =>
  pickLists.find((one) => one.kind === kind && one.list === list && (one.acts ?? acts) === acts);

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

const Replacing = z.strictObject({
  kind: z.enum(['list_entry', 'location', 'legal_entity', 'cost_centre']),
  from: Id,
  to: Id,
  /** From this day on; null: on every day, as two entries that always meant the same. */
  day: Day.nullable(),
  reason: Text.optional(),
  preview: z.boolean().default(false),
  words: Words,
});

const PickKind = z.enum(['list_entry', 'location', 'legal_entity', 'cost_centre']);

/** What lists are used for, and the two acts that move uses from one entry to another. */
export const listEndpoints = {
  uses: endpoint({
    method: 'GET',
    path: '/api/uses/:kind',
    summary: 'How often things of a kind are named by what the register holds, all in all and from today on',
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
