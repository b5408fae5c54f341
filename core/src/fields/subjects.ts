// What a report can be about, and the fields it then has: of the rows themselves, and of whatever they lead to.
import { type Catalogue, type FileRef, type Kind, type SectionName, ledgers } from '@gremium/contract';
import { fraction } from '../structure/fraction';
import { decimal } from '../people/yearly';
import { boundOf } from '../time/calendar';
import { NONE, type Field } from '../time/table';
import type { Anchor, Cursor } from './cursor';
import type { ReportField, Value, ValueKind } from './field';
import { workedOut } from './worked-out';

/** What leads from a kind of thing to which others, nearest first. */
const LEADS: { [K in Anchor]?: readonly Anchor[] } = {
  person: ['employment', 'placement', 'position', 'unit', 'job', 'grade', 'location', 'legal_entity'],
  employment: ['person', 'placement', 'position', 'unit', 'job', 'grade', 'location', 'legal_entity'],
  placement: ['employment', 'person', 'position', 'unit', 'job', 'grade', 'location', 'legal_entity'],
  position: ['unit', 'job', 'grade', 'location'],
  job: ['grade'],
};

const ANCHORS: readonly Anchor[] = [
  'person',
  'employment',
  'placement',
  'position',
  'unit',
  'job',
  'grade',
  'location',
  'legal_entity',
  'cost_centre',
];
const isAnchor = (kind: Kind): kind is Anchor => (ANCHORS as readonly Kind[]).includes(kind);

/** Kinds of things that rows of a section lead to: their own, what their fields name, and what these lead to. */
export const anchorsOf = (catalogue: Catalogue, name: SectionName): Anchor[] => {
  const section = catalogue.section(name);
  const own: Anchor[] = isAnchor(section.kind) ? [section.kind] : [];
  if (section.owner && isAnchor(section.owner.kind)) own.push(section.owner.kind);
  for (const { field, kind, several } of section.refs)
    if (!several && isAnchor(kind) && OWN.has(field)) own.push(kind);
  return [...new Set([...own, ...own.flatMap((kind) => LEADS[kind] ?? [])])];
};

const OWN = new Set([
  'personId',
  'employmentId',
  'placementId',
  'positionId',
  'unitId',
  'jobId',
  'gradeId',
  'locationId',
  'legalEntityId',
  'costCentreId',
]);

/** What a report can be about: sections in the order of the catalogue (people by their names), then what is read like one. */
export const subjectsOf = (catalogue: Catalogue): SectionName[] => [
  ...catalogue.names.filter((name) => !NOT_SUBJECTS.includes(name)),
  ...([...ledgers.keys()] as SectionName[]),
];

// Beside another section of the same things: their fields are there.
const NOT_SUBJECTS: readonly SectionName[] = [
  'person',
  'person_photo',
  'own_section',
  'own_field',
  'field_setting',
  'role',
  'organisation',
];

const valueKind = (field: { is: string }): ValueKind | null => {
  switch (field.is) {
    case 'json':
    case 'refs':
      return null;
    case 'ref':
      return 'thing';
    case 'list':
      return 'entry';
    case 'lists':
      return 'entries';
    case 'number':
      return 'number';
    case 'hundredths':
      return 'hundredths';
    case 'decimal':
      return 'exact';
    case 'day':
      return 'day';
    case 'yes_no':
      return 'yes_no';
    case 'choice':
    case 'choices':
      return 'choice';
    default:
      return 'text';
  }
};

// Decimals of a column, each text read once.
const decimals = new WeakMap<object, Map<number, Value>>();

const cellValue = (field: Field, kind: ValueKind, code: number): Value => {
  if (code === NONE) return null;
  if (field.cell === 'number') return code;
  if (field.cell === 'boolean') return code === 1;
  if (field.cell === 'reference') return field.things?.ids[code] as number;
  const text = field.words.texts[code] as string;
  if (field.cell === 'json')
    return kind === 'entries' ? (JSON.parse(text) as number[]) : text.replace(/[["\]]/g, '');
  if (kind !== 'exact') return text;
  const known = decimals.get(field.words) ?? new Map<number, Value>();
  decimals.set(field.words, known);
  const read = known.get(code) ?? decimal(text.startsWith('-') ? text.slice(1) : text);
  const value =
    text.startsWith('-') && typeof read === 'object' && read && 'num' in read
      ? fraction(-read.num, read.den)
      : read;
  known.set(code, value);
  return value;
};

const keptFields = (catalogue: Catalogue, name: SectionName, isSeveral: boolean): ReportField[] => {
  const section = catalogue.section(name);
  const fields = [...section.metas].flatMap(([field, meta]): ReportField[] => {
    const kind = valueKind(meta);
    if (!kind || (field === section.owner?.field && isSeveral)) return [];
    const read = (at: Cursor, slot: number): Value => {
      const column = at.facts.columns.table(name).field(field);
      if (slot < 0) return null;
      const code = column.data[slot] as number;
      // a file is called by its name
      if (meta.is === 'file')
        return code === NONE ? null : (JSON.parse(column.words.texts[code] as string) as FileRef).name;
      return cellValue(column, kind, code);
    };
    return [fieldOf({ name, field, kind, meta, isSeveral, read })];
  });
  // an entry is what happened on its day
  if (ledgers.has(name)) return fields;
  const dayIn =
    (which: 'from' | 'until') =>
    (at: Cursor, slot: number): Value => {
      if (slot < 0) return null;
      const bound = (at.facts.columns.table(name)[which] as Int32Array)[slot] as number;
      const text = boundOf(bound);
      if (text.endsWith('infinity')) return null;
      return which === 'from' ? text : boundOf(bound - 1);
    };
  return [
    ...fields,
    fieldOf({ name, field: 'inEffectFrom', kind: 'day', isSeveral, read: dayIn('from') }),
    fieldOf({ name, field: 'inEffectUntil', kind: 'day', isSeveral, read: dayIn('until') }),
  ];
};

type Made = {
  name: SectionName;
  field: string;
  kind: ValueKind;
  meta?: ReportField['meta'];
  isSeveral: boolean;
  read: (at: Cursor, slot: number) => Value;
};

const fieldOf = ({ name, field, kind, meta, isSeveral, read }: Made): ReportField => ({
  id: `${name}.${field}`,
  section: name,
  name: field,
  kind,
  ...(meta ? { meta } : {}),
  needs: [name],
  ...(isSeveral
    ? {
        isSeveral: true as const,
        read: (at) => {
          if (at.eachOf === name) return read(at, at.each);
          const slots = at.severalOf(name);
          const { from } = at.facts.columns.table(name);
          const latest = slots.reduce(
            (best, slot) => ((from[slot] as number) >= (from[best] ?? -Infinity) ? slot : best),
            slots[0] ?? -1,
          );
          return read(at, latest);
        },
        readAll: (at) => (at.eachOf === name ? [at.each] : at.severalOf(name)).map((slot) => read(at, slot)),
        source: (at: Cursor) => (at.eachOf === name ? at.each : at.slot),
      }
    : { read: (at) => read(at, at.of(name)), source: (at: Cursor) => at.of(name) }),
});

// What is kept out of memory is loaded when a view asks for it; a picture says nothing in a list.
const isOffered = (catalogue: Catalogue, name: SectionName, subject: SectionName): boolean => {
  const { rare, own } = catalogue.section(name);
  return !rare || own !== null || name === subject;
};

const isFoundByOwner = (catalogue: Catalogue, name: SectionName): boolean => {
  const { several, own } = catalogue.section(name);
  return several || own !== null;
};

/** All fields of a subject: of its rows, of what they lead to, worked out, and of sections of several rows, each once. */
export const fieldsOfSubject = (catalogue: Catalogue, subject: SectionName): ReportField[] => {
  const anchors = anchorsOf(catalogue, subject);
  const own = catalogue.section(subject);
  const single: SectionName[] = [subject];
  for (const anchor of anchors)
    for (const name of catalogue.of(anchor)) {
      const section = catalogue.section(name);
      if (!section.several || section.base) if (!single.includes(name)) single.push(name);
    }
  // the base pay and the contract of the day
  if (anchors.includes('employment'))
    for (const name of ['contract', 'pay'] as const) if (!single.includes(name)) single.push(name);
  const several: SectionName[] = [];
  for (const anchor of anchors)
    for (const name of catalogue.belongingTo(anchor))
      // an own section is found by its owner, also where there is one row at a time
      if (!single.includes(name) && isFoundByOwner(catalogue, name) && name !== own.name) several.push(name);
  const kept = [
    ...single
      .filter((name) => isOffered(catalogue, name, subject))
      .flatMap((name) => keptFields(catalogue, name, false)),
    ...several.flatMap((name) => keptFields(catalogue, name, true)),
  ];
  const offered = new Set([...single, ...several]);
  const worked = workedOut
    .filter(
      ({ anchor, section, needs }) =>
        anchors.includes(anchor) && offered.has(section) && needs.every((name) => catalogue.has(name)),
    )
    .map(({ section, name, kind, needs, reads, read, anchor, meta, sortedBy }): ReportField => ({
      id: `${section}.${name}`,
      section,
      name,
      kind,
      needs,
      ...(meta ? { meta } : {}),
      ...(sortedBy ? { sortedBy } : {}),
      ...(reads ? { reads } : {}),
      isWorkedOut: true,
      read,
      source: (at) => at.anchor(anchor),
    }));
  return [...kept, ...worked];
};
