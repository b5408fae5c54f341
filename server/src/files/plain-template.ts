// Templates about plain subjects, to be filled in.
import { type FieldMeta, type PlainColumn, type Section, plainColumns } from '@gremium/contract';
import excel from 'exceljs';
import { stringify } from 'csv-stringify/sync';
import type { Pool } from 'pg';
import { many } from '../database/sql';
import { todayOf } from '../structure/organisation.sql';
import type { Seer } from '../time/catalogues';
import type { Clock } from '../time/clock';
import { visibleRows } from '../time/records.sql';
import { FileOut } from './file-out';
import { type OwnLabels, columnLabel, ownLabels, subjectLabel, wordsOf } from './plain-subjects';

type Language = 'en' | 'de';

const TEXTS = {
  en: {
    guide: 'How to fill it in',
    lists: 'Lists',
    comment: '# Lines that begin with # are left out. Blank leaves as it is, (clear) empties.',
    lines: [
      'One row is one of them. Columns may stand in any order, be left out, or be called otherwise: they are matched when the file is taken in.',
      'Columns marked * are needed of what is new.',
      'What is there already is recognised by the id, else by its code, else by whose it is and of what kind.',
      'A blank cell leaves things as they are. (clear) empties a field that may be empty.',
      'Days may be written 2027-03-01, 1.3.2027 or 1 Mar 2027; numbers with point or comma; several values are parted by semicolons.',
      'Rows hold from “In effect from”, else from the day chosen when the file is taken in; (beginning) is from the beginning.',
    ],
  },
  de: {
    guide: 'So wird sie ausgefüllt',
    lists: 'Listen',
    comment: '# Zeilen, die mit # beginnen, bleiben weg. Leer lässt, wie es ist; (clear) leert.',
    lines: [
      'Eine Zeile ist ein Datensatz. Spalten dürfen in beliebiger Folge stehen, fehlen oder anders heißen: sie werden beim Import zugeordnet.',
      'Mit * bezeichnete Spalten braucht es für Neues.',
      'Was schon da ist, wird an der ID erkannt, sonst am Code, sonst daran, wessen es ist und welcher Art.',
      'Eine leere Zelle lässt alles, wie es ist. (clear) leert ein Feld, das leer sein darf.',
      'Tage dürfen 2027-03-01, 1.3.2027 oder 1. März 2027 geschrieben sein, Zahlen mit Punkt oder Komma; mehrere Werte trennt ein Strichpunkt.',
      'Zeilen gelten ab „Gültig ab“, sonst ab dem beim Import gewählten Tag; (beginning) heißt von Anfang an.',
    ],
  },
};

type Ask = { format: 'xlsx' | 'csv' | 'tsv'; columns?: readonly string[] | undefined };

const headingOf = (section: Section, column: PlainColumn, language: Language, own: OwnLabels): string =>
  `${columnLabel(section, column, language, own)}${column.required ? ' *' : ''}`;

/** An empty file about a plain subject: chosen columns, required ones marked, what may be picked inside. */
export const plainTemplate = async (
  place: { pool: Pool; clock: Clock },
  section: Section,
  { format, columns }: Ask,
  viewer: Seer,
): Promise<FileOut> => {
  const { language, catalogue } = viewer;
  const own = await ownLabels(place.pool, catalogue);
  const all = plainColumns(section);
  const shown = columns ? all.filter(({ name }) => columns.includes(name)) : all;
  const headings = shown.map((column) => headingOf(section, column, language, own));
  const name = subjectLabel(section.name, language, own);
  const texts = TEXTS[language];
  const picks = await pickable(place, viewer, shown);
  // an example to be read, not taken in
  const sample = shown.map((column, i) => `${i === 0 ? '# ' : ''}${sampleOf(column, picks)}`);
  if (format !== 'xlsx') {
    const delimiter = format === 'csv' ? ',' : '\t';
    return new FileOut(
      name,
      format,
      `\ufeff${stringify([headings, [texts.comment], sample], { delimiter })}`,
    );
  }
  const book = new excel.Workbook();
  const sheet = book.addWorksheet(name.slice(0, 31), { views: [{ state: 'frozen', ySplit: 1 }] });
  sheet.addRow(headings).font = { bold: true };
  sheet.addRow([texts.comment]);
  sheet.addRow(sample).font = { italic: true, color: { argb: 'FF6B6B6B' } };
  const guide = book.addWorksheet(texts.guide);
  guide.getColumn(1).width = 110;
  for (const line of texts.lines) guide.addRow([line]).alignment = { wrapText: true };
  const lists = book.addWorksheet(texts.lists);
  shown.forEach((column, i) => {
    sheet.getColumn(i + 1).width = Math.max(14, (headings[i] as string).length + 2);
    sheet.getColumn(i + 1).numFmt = column.meta?.is === 'day' || column.is === 'from' ? 'yyyy-mm-dd' : '@';
    const pick = picks.get(column.name);
    if (!pick || pick.length === 0) return;
    const list = lists.getColumn(lists.columnCount + 1);
    list.values = [headings[i] as string, ...pick];
    list.width = 28;
    const formula = `'${texts.lists}'!$${list.letter}$2:$${list.letter}$${pick.length + 1}`;
    for (let row = 4; row <= FILLED_ROWS; row++)
      sheet.getCell(row, i + 1).dataValidation = { type: 'list', allowBlank: true, formulae: [formula] };
  });
  lists.getRow(1).font = { bold: true };
  return new FileOut(name, 'xlsx', Buffer.from(await book.xlsx.writeBuffer()));
};

// What a cell of a column may look like.
const SAMPLES: Partial<Record<FieldMeta['is'], string>> = {
  day: '2027-03-01',
  number: '3',
  hundredths: '37.5',
  decimal: '3400.00',
  country: 'FI',
  currency: 'EUR',
  code: 'A-100',
};

const sampleOf = ({ name, is, meta }: PlainColumn, picks: ReadonlyMap<string, readonly string[]>): string => {
  if (is === 'id') return '';
  if (is === 'from') return '2027-03-01';
  if (is === 'of') return '1234';
  const picked = picks.get(name)?.[0];
  if (picked !== undefined) return picked;
  if (meta?.is === 'ref') return meta.kind === 'person' || meta.kind === 'employment' ? '1234' : 'A-100';
  return (meta && SAMPLES[meta.is]) ?? (meta?.is === 'text' ? 'Text' : '');
};

const FILLED_ROWS = 1000;
const MOST_PICKED = 2000;

// What may stand in a column: words, labels of lists, codes of things that are few.
const pickable = async (
  { pool, clock }: { pool: Pool; clock: Clock },
  viewer: Seer,
  columns: readonly PlainColumn[],
): Promise<Map<string, string[]>> => {
  const { language, catalogue } = viewer;
  const today = await todayOf(pool, clock);
  const looking = { on: today, by: null, today };
  const read = (section: string) =>
    many<{ values: Record<string, unknown> }>(
      pool,
      visibleRows(viewer, section as never, looking, { limit: MOST_PICKED, offset: 0 }),
    );
  const entries = await read('list_entry');
  const picks = new Map<string, string[]>();
  for (const { name, meta } of columns) {
    if (meta?.is === 'choice')
      picks.set(
        name,
        meta.options.map((option) => wordsOf(option)[language === 'de' ? 1 : 0] ?? option),
      );
    else if (meta?.is === 'yes_no') picks.set(name, language === 'de' ? ['ja', 'nein'] : ['yes', 'no']);
    else if (meta?.is === 'list')
      picks.set(
        name,
        entries
          .filter(({ values }) => values['list'] === meta.list)
          .map(({ values }) => (values['label'] as Record<Language, string>)[language]),
      );
    else if (meta?.is === 'ref' && catalogue.isReference(meta.kind as never) && meta.kind !== 'own_field')
      picks.set(
        name,
        (await read(meta.kind)).flatMap(({ values }) =>
          typeof values['code'] === 'string' ? values['code'] : [],
        ),
      );
  }
  return picks;
};
