// Empty files for people: headings of the fields asked for, required ones marked, what may be picked inside.
import type { Seer } from '../time/catalogues';
import {
  type Day,
  ImportField,
  type OwnColumn,
  type Row,
  importFields,
  importFieldsOf,
  ownPeopleColumns,
} from '@gremium/contract';
import { choiceOf, isOn } from '@gremium/core';
import { stringify } from 'csv-stringify/sync';
import excel from 'exceljs';
import type { Pool } from 'pg';
import { many } from '../database/sql';
import { todayOf } from '../structure/organisation.sql';
import type { Clock } from '../time/clock';
import { visibleRows } from '../time/records.sql';
import { FileOut } from './file-out';
import { ownColumnLabels, ownLabels } from './plain-subjects';

type Ask = { format: 'xlsx' | 'csv' | 'tsv'; columns?: string[] | undefined };
type Language = 'en' | 'de';

const TEXTS = {
  en: {
    name: 'People',
    guide: 'How to fill it in',
    lists: 'Lists',
    comment: '# Lines that begin with # are left out. Blank leaves as it is, (clear) empties.',
    lines: [
      'One row is one person. Columns may stand in any order, be left out, or be called otherwise: they are matched when the file is taken in.',
      'Columns marked * are needed of somebody new; of those marked ° one of each kind: a name, a contact, a position (or unit and job where hires need no position).',
      'Who is on the register already is recognised by the person number, else by the email.',
      'A blank cell leaves things as they are. (clear) empties a field that may be empty.',
      'Days may be written 2027-03-01, 1.3.2027 or 1 Mar 2027; numbers with point or comma.',
      'A manager is named by number, email or full name; the manager may stand in the same file, in any row.',
      'Rows hold from “In effect from”, else from the day chosen when the file is taken in; somebody new from the first day.',
    ],
  },
  de: {
    name: 'Personen',
    guide: 'So wird sie ausgefüllt',
    lists: 'Listen',
    comment: '# Zeilen, die mit # beginnen, bleiben weg. Leer lässt, wie es ist; (clear) leert.',
    lines: [
      'Eine Zeile ist eine Person. Spalten dürfen in beliebiger Folge stehen, fehlen oder anders heißen: sie werden beim Import zugeordnet.',
      'Mit * bezeichnete Spalten braucht es für neue Personen; von den mit ° bezeichneten je eine: ein Name, ein Kontakt, eine Planstelle (oder Einheit und Tätigkeit, wo Einstellungen keine Stelle brauchen).',
      'Wer schon im Register steht, wird an der Personalnummer erkannt, sonst an der E-Mail.',
      'Eine leere Zelle lässt alles, wie es ist. (clear) leert ein Feld, das leer sein darf.',
      'Tage dürfen 2027-03-01, 1.3.2027 oder 1. März 2027 geschrieben sein, Zahlen mit Punkt oder Komma.',
      'Eine Führungskraft wird mit Nummer, E-Mail oder vollem Namen genannt; sie darf in derselben Datei stehen, in jeder Zeile.',
      'Zeilen gelten ab „Gültig ab“, sonst ab dem beim Import gewählten Tag; neue Personen ab dem ersten Tag.',
    ],
  },
};

const MARKS = { always: ' *', or: ' °' };

/** The heading of a field with the mark of what is needed; marks do not matter when it is taken in again. */
const headingOf = (field: ImportField, language: Language): string => {
  const { label, required } = importFields[field];
  return `${label[language]}${required ? MARKS[required] : ''}`;
};

/** A column of the file: of people, or of one of their own fields. */
type Column = { field: ImportField; own?: undefined } | { field?: undefined; own: OwnColumn };

const columnsOf = (asked: readonly string[] | undefined, { catalogue, grants }: Seer): Column[] => {
  const own = ownPeopleColumns(catalogue, grants);
  const all = [
    ...importFieldsOf(grants).filter((field) => !importFields[field].splits),
    ...own.map(({ name }) => name),
  ];
  return (asked ?? all).map((name): Column => {
    const found = own.find((one) => one.name === name);
    return found ? { own: found } : { field: ImportField.parse(name) };
  });
};

export const templateFile = async (
  pool: Pool,
  clock: Clock,
  { format, columns }: Ask,
  viewer: Seer,
): Promise<FileOut> => {
  const { language } = viewer;
  const fields = columnsOf(columns, viewer);
  const own = fields.flatMap((column) => column.own ?? []);
  const labels = ownColumnLabels(own, await ownLabels(pool, viewer.catalogue), language);
  const headings = fields.map(({ field, own: column }) =>
    field
      ? headingOf(field, language)
      : `${labels.get(column.name)}${column.meta.required ? MARKS.always : ''}`,
  );
  const texts = TEXTS[language];
  const sample = sampleOf(fields);
  if (format !== 'xlsx') {
    const delimiter = format === 'csv' ? ',' : '\t';
    return new FileOut(
      texts.name,
      format,
      `\ufeff${stringify([headings, [texts.comment], sample], { delimiter })}`,
    );
  }
  const today = await todayOf(pool, clock);
  const picks = await pickLists(pool, viewer, fields, today);
  return new FileOut(texts.name, 'xlsx', await workbook(fields, headings, picks, language));
};

// An example to be read, not taken in.
const SAMPLE: Partial<Record<ImportField, string>> = {
  ...{
    number: '1234',
    given: 'Anna',
    family: 'Berg',
    birthDate: '1990-05-17',
    nationality: 'FI',
    language: 'en',
  },
  ...{
    email: 'anna.berg@mail.example',
    phone: '+358 40 555 0100',
    firstDay: '2027-03-01',
    position: 'P-100',
  },
  ...{ hours: '37.5', manager: '1007', pay: '3400.00', currency: 'EUR', from: '2027-03-01' },
};

const sampleOf = (fields: readonly Column[]): string[] =>
  fields.map(({ field }, i) => `${i === 0 ? '# ' : ''}${(field && SAMPLE[field]) ?? ''}`);

type Picks = Map<Column, string[]>;

// What may stand in a column: labels of lists and names of things; positions are too many to pick from.
const pickLists = async (pool: Pool, viewer: Seer, fields: readonly Column[], today: Day): Promise<Picks> => {
  const looking = { on: today, by: null, today };
  const page = { limit: 2000, offset: 0 };
  const read = async (section: 'list_entry' | 'unit' | 'job' | 'location' | 'legal_entity') =>
    (await many<Row>(pool, visibleRows(viewer, section, looking, page))).filter((row) => isOn(row, today));
  const entries = (await read('list_entry')) as Row<'list_entry'>[];
  const picks: Picks = new Map();
  for (const column of fields) {
    const choice = column.field ? choiceOf(column.field) : ownChoiceOf(column.own.meta);
    if (!choice || choice === 'position') continue;
    if (choice === 'unit' || choice === 'job' || choice === 'location' || choice === 'legal_entity') {
      const rows = await read(choice);
      picks.set(column, sorted(rows.map(({ values }) => (values as { name: string }).name)));
    } else picks.set(column, sorted(labels(entries, choice, viewer.language)));
  }
  for (const column of fields) {
    const words = column.field ? WORDS[column.field] : column.own.meta.is === 'yes_no' ? YES_NO : undefined;
    if (words) picks.set(column, words[viewer.language]);
  }
  return picks;
};

const WORDS: Partial<Record<ImportField, Record<Language, string[]>>> = {
  gender: { en: ['female', 'male', 'other'], de: ['weiblich', 'männlich', 'divers'] },
  basis: { en: ['hour', 'day', 'month', 'year'], de: ['Stunde', 'Tag', 'Monat', 'Jahr'] },
};

const YES_NO = { en: ['yes', 'no'], de: ['ja', 'nein'] };

type OwnChoice = ReturnType<typeof choiceOf> | `own:${number}`;

// What an own field is picked from; several at a time are typed.
const ownChoiceOf = (meta: OwnColumn['meta']): OwnChoice => {
  if (meta.is === 'list') return meta.ownField === undefined ? meta.list : `own:${meta.ownField}`;
  return meta.is === 'ref' && (meta.kind === 'unit' || meta.kind === 'location') ? meta.kind : undefined;
};

const sorted = (texts: string[]): string[] => [...new Set(texts)].sort((a, b) => a.localeCompare(b));

const labels = (entries: readonly Row<'list_entry'>[], choice: string, language: Language): string[] =>
  entries
    .filter(({ values }) =>
      choice.startsWith('own:') ? choice === `own:${values.ownFieldId}` : values.list === choice,
    )
    .map(({ values }) => values.label[language]);

const FILLED_ROWS = 1000;
const READINGS: Partial<Record<OwnColumn['meta']['is'], string>> = { day: 'day', decimal: 'decimal' };

const workbook = async (
  fields: readonly Column[],
  headings: readonly string[],
  picks: Picks,
  language: Language,
): Promise<Buffer> => {
  const texts = TEXTS[language];
  const book = new excel.Workbook();
  const sheet = book.addWorksheet(texts.name, { views: [{ state: 'frozen', ySplit: 1 }] });
  sheet.addRow([...headings]).font = { bold: true };
  sheet.addRow([texts.comment]);
  sheet.addRow(sampleOf(fields)).font = { italic: true, color: { argb: 'FF6B6B6B' } };
  const guide = book.addWorksheet(texts.guide);
  guide.getColumn(1).width = 110;
  for (const line of texts.lines) guide.addRow([line]).alignment = { wrapText: true };
  const lists = book.addWorksheet(texts.lists);
  fields.forEach((asked, i) => {
    const column = sheet.getColumn(i + 1);
    column.width = Math.max(14, (headings[i] as string).length + 2);
    const reading = asked.field ? importFields[asked.field].reading : READINGS[asked.own.meta.is];
    column.numFmt = reading === 'day' ? 'yyyy-mm-dd' : reading === 'decimal' ? 'General' : '@';
    const pick = picks.get(asked);
    if (!pick || pick.length === 0) return;
    const at = lists.columnCount + 1;
    const list = lists.getColumn(at);
    list.values = [headings[i] as string, ...pick];
    list.width = 28;
    const formula = `'${texts.lists}'!$${list.letter}$2:$${list.letter}$${pick.length + 1}`;
    for (let row = 4; row <= FILLED_ROWS; row++)
      sheet.getCell(row, i + 1).dataValidation = { type: 'list', allowBlank: true, formulae: [formula] };
  });
  lists.getRow(1).font = { bold: true };
  return Buffer.from(await book.xlsx.writeBuffer());
};
