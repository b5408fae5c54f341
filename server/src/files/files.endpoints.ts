import {
  type Day,
  type DayOrder,
  type ImportColumn,
  type ImportCounts,
  type ImportLine,
  type ImportOut,
  type ImportRow,
  type ImportState,
  type Named,
  type Problem,
  type Section,
  type SectionName,
  importFields,
  plainColumns,
  plainSubjects,
  fileEndpoints,
  importFieldsOf,
  ownPeopleColumns,
  may,
} from '@gremium/contract';
import { headingKey, problem, proposeField } from '@gremium/core';
import type { FastifyInstance } from 'fastify';
import { Failure, fail } from '../database/failure';
import { many, maybeOne, one } from '../database/sql';
import { partFile } from '../parts';
import { type Handler, serve } from '../serve';
import { todayOf } from '../structure/organisation.sql';
import type { Server } from '../time/act';
import type { Seer } from '../time/catalogues';
import type { RegisterThread } from '../time/register-thread';
import { labelled, namesFor } from '../time/labels';
import { look } from '../time/lens';
import { Events } from './events';
import * as queries from './import.sql';
import { limits } from './limits';
import { formatOf } from './read-file';
import { plainTemplate } from './plain-template';
import {
  type OwnLabels,
  columnLabel,
  ownColumnLabels,
  ownLabels,
  plainSection,
  subjectLabel,
} from './plain-subjects';
import { templateFile } from './template';
import { ANY } from './subject-of';
import { Uploaded, uploaded } from './uploaded';
import { arranged, ownColumns } from './whole-names';
import { sweepFolders } from './read-apart';
import { WorkDesk } from './work-desk';
import type { WorkNews } from './work-news';
import { workbookFile } from './workbook';

const LOOK_EVERY = 5000;

export const serveFiles = (
  app: FastifyInstance,
  server: Server,
  register: RegisterThread,
  news: WorkNews,
): WorkDesk => {
  const { pool, clock } = server;
  const desk = new WorkDesk(
    server,
    {
      table: 'import',
      file: partFile('files/import-worker'),
      keepTrouble: queries.keepTrouble,
    },
    (error) => app.log.error(error),
  );
  let isClosing = false;
  app.addHook('onReady', async () => {
    sweepFolders();
    desk.start();
  });
  app.addHook('preClose', async () => {
    isClosing = true;
    await desk.close();
  });
  app.addContentTypeParser('application/octet-stream', (request, payload, done) => {
    const most = request.routeOptions.config.takesFiles ? limits.bytes : 0;
    uploaded(payload, most).then((file) => done(null, file), done);
  });
  // whatever became of the request, its file goes
  app.addHook('onResponse', async ({ body }) => {
    if (body instanceof Uploaded) await body.remove();
  });
  app.addHook('onRequestAbort', async ({ body }) => {
    if (body instanceof Uploaded) await body.remove();
  });

  // One of several files is worked on with the others.
  const find = async (viewer: Seer, id: number): Promise<queries.Kept> => {
    const kept = await maybeOne<queries.Kept>(pool, queries.importOf(viewer, id));
    if (!kept) return fail('record_hidden', {});
    if (kept.partOf === null || kept.work !== null) return kept;
    const { work, done, total } = await one<queries.Kept>(pool, queries.importById(kept.partOf));
    return { ...kept, work, done, total };
  };

  // Work goes on in the name of whoever took the file in: only they go on with it.
  const findOwn = async (viewer: Seer, id: number): Promise<queries.Kept> => {
    const kept = await find(viewer, id);
    return kept.account === viewer.account ? kept : fail('right_missing', {});
  };

  const wireRows = async (viewer: Seer, rows: KeptRow[]): Promise<ImportRow[]> => {
    const looking = await look(pool, clock, {});
    const refs = rows.flatMap(({ personId, opensKind, opensId }) => [
      ...(personId === null ? [] : [{ kind: 'person' as Named['kind'], id: personId }]),
      ...(opensKind === null || opensId === null ? [] : [{ kind: opensKind, id: opensId }]),
    ]);
    const names = await namesFor(pool, viewer, refs, looking);
    const opened = ({ opensKind: kind, opensId: id }: KeptRow): Named | null => {
      const name = kind !== null && id !== null ? names.get(`${kind} ${id}`)?.name : undefined;
      return name === undefined ? null : { kind: kind as Named['kind'], id: id as number, name };
    };
    const found = rows.flatMap(({ faults }) => faults.map((fault) => fault.problem));
    const said = await labelled(pool, viewer, found, looking);
    let at = 0;
    return rows.map(({ opensKind, opensId, ...row }) => ({
      ...row,
      faults: row.faults.map((fault) => ({ ...fault, problem: said[at++] as Problem })),
      person: row.personId === null ? null : (names.get(`person ${row.personId}`)?.name ?? null),
      opens: opened({ opensKind, opensId, ...row }),
    }));
  };

  // What columns of a file can be taken for.
  const fieldsOf = async (viewer: Seer, subject: string, own?: OwnLabels) => {
    const { language, catalogue } = viewer;
    if (subject === ANY) return [];
    const labels = own ?? (await ownLabels(pool, catalogue));
    if (subject === 'people') {
      const columns = ownColumnLabels(ownPeopleColumns(catalogue, viewer.grants), labels, language);
      return [
        ...importFieldsOf(viewer.grants).map((name) => ({ name, label: importFields[name].label[language] })),
        ...[...columns].map(([name, label]) => ({ name, label })),
      ];
    }
    const section = plainSection(catalogue, subject, viewer);
    return plainColumns(section).map((column) => ({
      name: column.name,
      label: columnLabel(section, column, language, labels),
    }));
  };

  // What changes of rows name: positions, units, entries of lists and so on, as far as the viewer may see them.
  const namesIn = async (viewer: Seer, rows: KeptRow[]) => {
    const refs = rows.flatMap(({ changes }) =>
      changes.flatMap(({ section, field, was, is }) => {
        const kind =
          viewer.catalogue.has(section) &&
          viewer.catalogue.refs(section).find((ref) => ref.field === field)?.kind;
        return kind ? [was, is].flatMap((id) => (typeof id === 'number' ? [{ kind, id }] : [])) : [];
      }),
    );
    const names = await namesFor(pool, viewer, refs, await look(pool, clock, {}));
    return [...names].map(([key, { name }]) => {
      const [kind = '', id] = key.split(' ');
      return { kind: kind as Named['kind'], id: Number(id), name };
    });
  };

  serve(app, server, fileEndpoints.imports, async ({ query, viewer }) => {
    const kept = await many<queries.Kept>(pool, queries.importsOf(viewer, query));
    const { total } = await one<{ total: number }>(pool, queries.countImports(viewer));
    return { imports: kept.map(lineOf), total };
  });

  const upload: Handler<typeof fileEndpoints.uploadImport> = async ({ query, viewer, request }) => {
    mayBeAbout(viewer, query.subject);
    const file = request.body;
    const content = file instanceof Uploaded ? await file.content() : Buffer.alloc(0);
    if (content.length === 0) return fail('file_empty', {}, 'body');
    const made = await one<{ id: number }>(
      pool,
      queries.insertImport({
        account: viewer.account,
        at: clock.now(),
        name: query.name.replace(/\.[a-z]{3,4}$/i, '').replace(/[-_]+/g, ' '),
        fileName: query.name,
        format: formatOf(content),
        content,
        subject: query.subject,
        day: query.day ?? (await todayOf(pool, clock)),
      }),
    );
    desk.poke();
    return made;
  };
  serve(app, server, fileEndpoints.uploadImport, upload, { takesFiles: true, bodyLimit: limits.bytes });

  serve(app, server, fileEndpoints.import, async ({ params, viewer }) => {
    const kept = await find(viewer, params.id);
    const samples = await many<{ cells: string[] }>(pool, queries.sampleCells(kept.id));
    const problems = [
      ...kept.warnings.map((one) => (one as Warning).problem),
      ...(kept.trouble as Problem[]),
    ];
    const said = await labelled(pool, viewer, problems, await look(pool, clock, {}));
    const parts = kept.format === 'zip' ? await many<queries.Kept>(pool, queries.partsOf(kept.id)) : [];
    return {
      ...lineOf(kept),
      parts: parts.map((part) => ({
        ...lineOf(part),
        fileName: part.fileName,
        subject: part.subject,
        trouble: part.trouble as Problem[],
      })),
      partOf: kept.partOf,
      subject: kept.subject,
      fields: await fieldsOf(viewer, kept.subject),
      fileName: kept.fileName,
      format: kept.format,
      sheet: kept.sheet,
      sheets: kept.sheets,
      comments: kept.comments,
      preview: kept.preview,
      day: kept.day as Day,
      newNumbers: kept.newNumbers,
      columns: kept.headings.map((heading, i) => ({
        heading,
        field: kept.columns[i]?.field ?? null,
        how: kept.columns[i]?.how ?? null,
        samples: samples.map(({ cells }) => cells[i] ?? ''),
        days: daysOf(kept, i),
      })),
      summary: kept.summary as ImportOut['summary'],
      warnings: kept.warnings.map((one, i) => ({ ...(one as Warning), problem: said[i] as Problem })),
      trouble: said.slice(kept.warnings.length),
      entry: kept.entry,
      undoneBy: kept.undoneBy,
      own: kept.account === viewer.account,
    };
  });

  serve(app, server, fileEndpoints.importProgress, async ({ params, viewer, request }) => {
    const { id, partOf } = await find(viewer, params.id);
    const told = async function* () {
      for (let last = ''; !isClosing && !request.raw.destroyed;) {
        const { state, work, counts } = lineOf(await find(viewer, params.id));
        const now = JSON.stringify({ state, work });
        if (now !== last) yield { state, work, counts };
        if (!work) return;
        last = now;
        await news.about('import', partOf ?? id, LOOK_EVERY);
      }
    };
    return new Events(told());
  });

  serve(app, server, fileEndpoints.importRows, async ({ params, query, viewer }) => {
    const kept = await find(viewer, params.id);
    const { status = null, ...page } = query;
    const rows = await many<KeptRow>(pool, queries.rowsOf(kept.id, status, page));
    const count = status === null ? queries.countRows(kept.id) : queries.countOutcomes(kept.id, status);
    const { total } = await one<{ total: number }>(pool, count);
    return { rows: await wireRows(viewer, rows), total, names: await namesIn(viewer, rows) };
  });

  serve(app, server, fileEndpoints.proposedField, async ({ params, viewer }) => {
    const kept = await find(viewer, params.id);
    if (params.at >= kept.headings.length) return fail('value_invalid', {}, 'at');
    const cells = await many<{ text: string | null }>(pool, queries.columnTexts(kept.id, params.at));
    return proposeField(
      cells.map(({ text }) => text ?? ''),
      { workbook: kept.format === 'xlsx', today: await todayOf(pool, clock) },
    );
  });

  // Of several files all are checked.
  serve(app, server, fileEndpoints.importMissing, async ({ params, viewer }) => {
    const { id, subject, day } = await find(viewer, params.id);
    const looking = await look(pool, clock, { on: day as Day });
    const about = subject === 'people' ? 'person_name' : (subject as SectionName);
    const condition = subject === 'people' ? 'employment.status in ["at_work", "away"]' : '';
    const ask = { subject: about, condition, language: viewer.language };
    const { ids } = await register.ask('matching', { viewer, looking }, ask);
    const found = await many<{ id: number }>(pool, queries.thingsIn(id));
    const there = new Set(found.map((one) => one.id));
    const missing = ids.filter((one) => !there.has(one));
    const { kind } = viewer.catalogue.section(about);
    const refs = missing.slice(0, MOST_MISSING).map((one) => ({ kind, id: one }));
    const names = await namesFor(pool, viewer, refs, looking);
    const things = refs.map((ref) => ({ ...ref, name: names.get(`${ref.kind} ${ref.id}`)?.name ?? '' }));
    return { things, total: missing.length };
  });

  const recheck = async ({ id, partOf }: queries.Kept, isOther = true): Promise<void> => {
    if (!(await maybeOne(pool, queries.askCheck(partOf ?? id, isOther)))) await refuse(id);
    desk.poke();
  };

  // Why nothing can be asked of an import just now.
  const refuse = async (id: number): Promise<never> => {
    const { state } = await one<queries.Kept>(pool, queries.importById(id));
    return fail(state === 'written' || state === 'cancelled' ? 'import_state' : 'import_busy');
  };

  serve(app, server, fileEndpoints.arrangeImport, async ({ params, body, viewer }) => {
    const kept = await findOwn(viewer, params.id);
    const { id, headings } = kept;
    const { columns: fields, day, newNumbers, name, sheet, headingRow, subject, dayOrders = [] } = body;
    const taken = (fields ?? []).filter((field) => field !== null);
    if (new Set(taken).size < taken.length) fail('column_twice', {}, 'columns');
    if (fields && fields.length !== headings.length) fail('value_invalid', {}, 'columns');
    if (subject !== undefined) mayBeAbout(viewer, subject);
    if (sheet !== undefined || headingRow !== undefined || subject !== undefined) {
      const at = sheet ?? kept.preview?.at ?? 0;
      if (at >= (kept.preview?.sheets.length ?? 1)) fail('value_invalid', {}, 'sheet');
      if (
        !(await maybeOne(
          pool,
          queries.askRead(id, { sheet: at, headingRow: headingRow ?? null, subject: subject ?? null }),
        ))
      )
        await refuse(id);
      desk.poke();
      return {};
    }
    if (dayOrders.some(({ column }) => column >= headings.length)) fail('value_invalid', {}, 'dayOrders');
    await recheck(kept);
    const columns = fields
      ? await arranged(pool, kept, fields)
      : dayOrders.length > 0
        ? { columns: withOrders(kept.columns, dayOrders) }
        : {};
    await many(
      pool,
      queries.arrange(id, {
        ...columns,
        ...(day ? { day } : {}),
        ...(name ? { name } : {}),
        ...(newNumbers === undefined ? {} : { newNumbers }),
      }),
    );
    if (fields) {
      const own = ownColumns(kept).headings;
      const known = new Map(own.map((heading, i) => [headingKey(heading), fields[i] ?? null]));
      await many(pool, queries.remember(kept.subject, [...known.keys()], [...known.values()]));
    }
    await recheck(kept);
    return {};
  });

  serve(app, server, fileEndpoints.leaveOutRows, async ({ params, body, viewer }) => {
    const kept = await findOwn(viewer, params.id);
    await recheck(kept);
    await many(pool, queries.leaveOut(kept.id, body.rows, body.leftOut));
    await recheck(kept);
    return {};
  });

  serve(app, server, fileEndpoints.repairImport, async ({ params, body, viewer }) => {
    const kept = await findOwn(viewer, params.id);
    let cells = 0;
    const places = body.repairs.map((one) => {
      const { field } = one;
      const column = kept.columns.findIndex((matched) => matched.field === field) + 1;
      if (column === 0) fail('field_unknown', { field }, 'field');
      return { ...one, column };
    });
    await recheck(kept);
    for (const place of places) {
      const { text, values } = queries.repair(kept.id, place);
      cells += (await pool.query({ text, values })).rowCount ?? 0;
    }
    await recheck(kept);
    return { cells };
  });

  serve(app, server, fileEndpoints.checkImport, async ({ params, viewer }) => {
    await recheck(await findOwn(viewer, params.id), false);
    return {};
  });

  serve(app, server, fileEndpoints.writeImport, async ({ params, body, viewer }) => {
    const { id, counts, warnings, partOf } = await findOwn(viewer, params.id);
    if (partOf !== null) return fail('import_state');
    if (body.rows === 'all' && (counts?.refused ?? 0) > 0)
      fail('import_refused_rows', { count: counts?.refused ?? 0 }, 'rows');
    if (counts && counts.new + counts.changed === 0)
      throw new Failure([{ ...problem('nothing_changed'), severity: 'error' }]);
    const unanswered = warnings
      .map((one) => (one as Warning).problem.code)
      .filter((code) => !body.words[code]);
    if (unanswered.length > 0)
      throw new Failure(unanswered.map((code) => problem('word_missing', { code }, `words.${code}`)));
    if (!(await maybeOne(pool, queries.askWrite(id, body)))) await refuse(id);
    desk.poke();
    return {};
  });

  serve(app, server, fileEndpoints.cancelImport, async ({ params, viewer }) => {
    const kept = await find(viewer, params.id);
    const { id, partOf } = kept;
    if (!(await maybeOne(pool, queries.cancel(id)))) await refuse(id);
    // without one of several files the others are another import
    if (partOf !== null) await recheck(kept);
    return {};
  });

  serve(app, server, fileEndpoints.importWorkbook, async ({ params, query, viewer }) => {
    const kept = await find(viewer, params.id);
    const status = query.rows === 'all' ? null : 'refused';
    const page = { limit: MOST_IN_WORKBOOK, offset: 0 };
    const rows = await wireRows(viewer, await many<KeptRow>(pool, queries.rowsOf(kept.id, status, page)));
    const labels = new Map((await fieldsOf(viewer, kept.subject)).map((one) => [one.name, one.label]));
    return workbookFile(kept, rows, viewer.language, (field) => labels.get(field) ?? field);
  });

  serve(app, server, fileEndpoints.importSubjects, async ({ viewer }) => {
    const own = await ownLabels(pool, viewer.catalogue);
    const { language } = viewer;
    const plain = plainSubjects(viewer.catalogue).filter((name) => keeps(viewer, name));
    const subjects = await Promise.all(
      ['people', ...plain].map(async (name) => ({
        name,
        label: subjectLabel(name, language, own),
        columns: await fieldsOf(viewer, name, own),
      })),
    );
    return { subjects };
  });

  serve(app, server, fileEndpoints.importTemplate, async ({ query, viewer }) => {
    const { subject, ...asked } = query;
    const known = (await fieldsOf(viewer, subject)).map(({ name }) => name);
    const strange = asked.columns?.find((name) => !known.includes(name));
    if (strange !== undefined) return fail('field_unknown', { field: strange }, 'columns');
    if (subject === 'people') return templateFile(pool, clock, asked, viewer);
    return plainTemplate({ pool, clock }, mayKeep(viewer, subject), asked, viewer);
  });

  return desk;
};

const keeps = (viewer: Seer, section: string): boolean => may(viewer).edit(section);

const mayBeAbout = (viewer: Seer, subject: string): void => {
  if (subject !== 'people' && subject !== ANY) mayKeep(viewer, subject);
};

// Files are about what somebody may write.
const mayKeep = (viewer: Seer, subject: string): Section => {
  const section = plainSection(viewer.catalogue, subject, viewer);
  return keeps(viewer, subject) ? section : fail('subject_unknown', { named: subject }, 'subject');
};

const MOST_MISSING = 500;
const MOST_IN_WORKBOOK = 10_000;

type KeptRow = Omit<ImportRow, 'person' | 'opens'> & {
  opensKind: Named['kind'] | null;
  opensId: number | null;
};
type Warning = { problem: Problem; count: number; rows: number[] };

// What is known of the days of a column.
const daysOf = ({ columns, days }: queries.Kept, at: number): ImportColumn['days'] => {
  const column = columns[at];
  const shown = column?.field ? days[column.field] : undefined;
  if (!column || !shown) return null;
  const { example, told } = shown;
  return { order: column.order ?? shown.order, chosen: column.order !== undefined, example, told };
};

const withOrders = (
  columns: readonly queries.Matched[],
  said: readonly { column: number; order: DayOrder }[],
): queries.Matched[] =>
  columns.map((column, i) => {
    const order = said.findLast((one) => one.column === i)?.order;
    return order === undefined ? column : { ...column, order };
  });

const lineOf = (kept: queries.Kept): ImportLine => ({
  id: kept.id,
  name: kept.name,
  at: kept.at as ImportLine['at'],
  by: kept.by,
  state: stateOf(kept),
  counts: kept.counts && { left_out: 0, ...kept.counts },
  work: kept.work && { what: kept.work, done: kept.done, total: kept.total },
});

const stateOf = ({ state, counts, undoneBy }: queries.Kept): ImportState => {
  if (state === 'written') return undoneBy === null ? 'written' : 'undone';
  if (state !== 'checked') return state;
  const { refused, new: added, changed } = counts as ImportCounts;
  if (refused > 0) return 'in_repair';
  return added + changed > 0 ? 'ready' : 'checked';
};
