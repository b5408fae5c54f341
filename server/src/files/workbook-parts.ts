// A workbook as a package of parts (ECMA-376, part 2), read by its table of contents: each sheet by itself, in the order in
// which the workbook names them, none but the one that is asked for, and of that one no more rows than are taken.
import { Readable } from 'node:stream';
import { type DayBase, problem } from '@gremium/core';
import excel from 'exceljs';
import yauzl from 'yauzl';
import { Failure } from '../database/failure';
import { limits } from './limits';

/** A sheet by its name; `rows` reads it anew each time. */
export type Sheet = { name: string; rows: () => AsyncIterable<excel.Row> };

type Part = () => Promise<Readable>;

const unreadable = (): Failure => new Failure([problem('file_unreadable')]);

// All parts by name, unpacked once to count their bytes: what the package says of itself is not believed.
const partsOf = (content: Buffer): Promise<ReadonlyMap<string, Part>> =>
  new Promise((resolve, reject) => {
    const refuse = () => reject(unreadable());
    yauzl.fromBuffer(content, { lazyEntries: true, validateEntrySizes: false }, (error, zip) => {
      if (error) return refuse();
      const parts = new Map<string, Part>();
      let unpacked = 0;
      const open = (entry: yauzl.Entry): Promise<Readable> =>
        new Promise((opened, failed) =>
          zip.openReadStream(entry, (broken, stream) => (broken ? failed(unreadable()) : opened(stream))),
        );
      const measure = async (entry: yauzl.Entry): Promise<void> => {
        for await (const chunk of await open(entry)) {
          unpacked += (chunk as Buffer).length;
          if (unpacked > limits.unpacked) throw new Failure([problem('file_unpacked_too_large')]);
        }
      };
      zip.on('entry', (entry: yauzl.Entry) => {
        parts.set(entry.fileName.replace(/^\//, ''), () => open(entry));
        measure(entry).then(
          () => zip.readEntry(),
          (wrong: unknown) => reject(wrong instanceof Failure ? wrong : unreadable()),
        );
      });
      zip.on('end', () => resolve(parts));
      zip.on('error', refuse);
      zip.readEntry();
    });
  });

// Letters of several bytes may lie across two chunks: they are put together before the reader sees them.
const textOf = async function* (part: Part): AsyncGenerator<string> {
  const stream = await part();
  stream.setEncoding('utf8');
  let isFirst = true;
  for await (const chunk of stream) {
    yield isFirst ? (chunk as string).replace(/^\uFEFF/, '') : (chunk as string);
    isFirst = false;
  }
};

// The steps of the library's reader, which calls them in the order of the package: there sheets may come before what they need.
type Steps = {
  _parseRels(text: Readable): Promise<void>;
  _parseWorkbook(text: Readable): Promise<void>;
  _parseStyles(text: Readable): Promise<void>;
  _parseSharedStrings(text: Readable): AsyncIterable<unknown>;
  _parseWorksheet(text: AsyncIterable<string>, id: string): Iterable<{ value: AsyncIterable<excel.Row> }>;
  workbookRels?: { Id: string; Target: string }[];
  model?: { sheets?: { name: string; rId: string }[] };
  properties?: { model?: { date1904?: boolean } };
};

/**
 * The sheets of a workbook, and from which year it counts its days. Fails with `file_unreadable`, `file_unpacked_too_large`; rows of a sheet that is broken fail with
 * whatever the reader says of them.
 */
export const sheetsOf = async (content: Buffer): Promise<{ sheets: Sheet[]; dayBase: DayBase }> => {
  const parts = await partsOf(content);
  const steps = new excel.stream.xlsx.WorkbookReader(Readable.from([]), {
    worksheets: 'emit',
    sharedStrings: 'cache',
    styles: 'cache',
    hyperlinks: 'ignore',
    entries: 'ignore',
  }) as unknown as Steps;
  const streamOf = (name: string): Readable | null => {
    const part = parts.get(name);
    return part ? Readable.from(textOf(part)) : null;
  };
  try {
    const [rels, workbook, styles, strings] = [
      'xl/_rels/workbook.xml.rels',
      'xl/workbook.xml',
      'xl/styles.xml',
      'xl/sharedStrings.xml',
    ].map(streamOf);
    if (!rels || !workbook) throw unreadable();
    await steps._parseRels(rels);
    await steps._parseWorkbook(workbook);
    if (styles) await steps._parseStyles(styles);
    if (strings) for await (const _ of steps._parseSharedStrings(strings));
  } catch (error) {
    throw error instanceof Failure ? error : unreadable();
  }
  const sheets = (steps.model?.sheets ?? []).flatMap(({ name, rId }): Sheet[] => {
    const target = steps.workbookRels?.find(({ Id }) => Id === rId)?.Target ?? '';
    const part = parts.get(target.startsWith('/') ? target.slice(1) : `xl/${target}`);
    if (!part) return [];
    const rows = async function* () {
      for (const { value } of steps._parseWorksheet(textOf(part), rId)) yield* value;
    };
    return [{ name, rows }];
  });
  return { sheets, dayBase: (await countsFrom1904(parts)) ? 1904 : 1900 };
};

// `date1904` of the workbook's properties (ECMA-376, part 1, 18.2.28): the reader knows it for cells shown as days only.
const countsFrom1904 = async (parts: ReadonlyMap<string, Part>): Promise<boolean> => {
  const part = parts.get('xl/workbook.xml');
  let text = '';
  if (part) for await (const chunk of textOf(part)) text += chunk;
  return /<(\w+:)?workbookPr\b[^>]*\bdate1904=["'](1|true)["']/.test(text);
};
