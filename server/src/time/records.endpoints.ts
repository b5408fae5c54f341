import {
  type Day,
  type Bound,
  type Edit,
  type EntryKind,
  type ProblemCode,
  type Row,
  type SectionName,
  type Section,
  type SectionEdit,
  type Words,
  problemCodes,
  recordEndpoints,
  hiddenFields,
  may,
} from '@gremium/contract';
import { Draft, OPEN, type Register, addDays, intersection, problem, withoutHidden } from '@gremium/core';
import * as timelines from '@gremium/core';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import type { z } from 'zod';
import { Failure, fail } from '../database/failure';
import { type Db, many } from '../database/sql';
import { serve } from '../serve';
import { type Deciding, type Server, act } from './act';
import type { Seer } from './catalogues';
import { idempotencyOf } from './idempotency';
import { lastEntriesOf } from './journal.sql';
import { labelled } from './labels';
import { type Looking, look } from './lens';
import { outward } from './outward';
import { readRecord, readThing, readThings } from './read-record';
import { ticks, visibleHistory, visibleRows, visibleThings } from './records.sql';
import { HIDEABLE, seenOf } from './seen';
import { referenceRows } from './reference-rows';

type AnyVersion = timelines.Version & { id: number };

export const serveRecords = (app: FastifyInstance, server: Server): void => {
  const { pool, clock } = server;

  serve(app, server, recordEndpoints.records, async ({ params, query, viewer }) => {
    const looking = await look(pool, clock, query);
    const [base] = viewer.catalogue.of(params.kind);
    const rows = base ? await many<Row>(pool, visibleRows(viewer, base, looking, query)) : [];
    return { rows: rows.map(outward) };
  });

  serve(app, server, recordEndpoints.record, async ({ params, query, viewer }) => {
    const looking = await look(pool, clock, query);
    const { catalogue } = viewer;
    const rows = await readThing(pool, viewer, looking, params.kind, params.id);
    if (rows.length === 0) fail('record_hidden', { kind: params.kind });
    const { lastEntries } = await readRecord(pool, viewer, looking, rows);
    const of = (name: SectionName) => rows.filter(({ section }) => section === name);
    return {
      sections: catalogue.names
        .filter((name) => of(name).length > 0)
        .map((name) => ({
          name,
          lastEntry: Math.max(...lastEntries.flatMap((one) => (one.section === name ? one.number : []))),
          rows: of(name).map(outward),
        })),
    };
  });

  serve(app, server, recordEndpoints.createRecord, async ({ params, body, viewer, request }) => {
    const { from, until, reason, preview, words } = body;
    const given = Object.entries(body.sections) as [SectionName, unknown][];
    const { catalogue } = viewer;
    for (const [name] of given)
      if (catalogue.section(name).kind !== params.kind)
        fail('field_unknown', { field: name }, `sections.${name}`);
    const parsed = given.map(
      ([name, values]) => [name, parseValues(catalogue.section(name), values)] as const,
    );
    // an own row is of one section, whatever it is
    if (!given.some(([name]) => catalogue.section(name).base))
      fail('value_invalid', {}, `sections.${params.kind}`);
    if (params.kind === 'own_row' && given.length > 1) fail('value_invalid', {}, 'sections');
    for (const [name, values] of parsed) {
      mustBeTheirs(viewer, name, values, { at: `sections.${name}`, isNew: true });
      await mustSeeNamed(viewer, name, values, { at: `sections.${name}` });
    }
    const acted = await act(server, viewer, {
      kind: 'create',
      needs: 'create',
      reason,
      preview,
      words,
      ...wordsKept(words),
      locks: [],
      idempotency: idempotencyOf(request, preview),
      decide: async ({ near, newId, entry, rests }) => {
        // two who begin a register at once: the second is told
        if (params.kind === 'organisation') rests();
        const register = await near.load([]);
        const draft = new Draft(register, newId, entry);
        const id = newId();
        for (const [name, values] of parsed) draft.begin(name, id, { from, until }, values as never);
        return finish(draft, id);
      },
    });
    const looking = await look(pool, clock, {});
    return {
      id: acted.result,
      entry: acted.entry,
      touched: acted.touched,
      problems: await labelled(pool, viewer, acted.problems, looking),
    };
  });

  // What a value names is named only as far as the viewer may see it: a refusal would tell of what they may not.
  const mustSeeNamed = async (
    viewer: Seer,
    section: SectionName,
    values: object,
    { at, since }: { at: string; since?: Bound | undefined },
  ) => {
    const looking = await look(pool, clock, {});
    for (const { field, kind } of viewer.catalogue.refs(section)) {
      const id = (values as Record<string, unknown>)[field];
      if (typeof id !== 'number' || !HIDEABLE.has(kind)) continue;
      const seen = await seenOf(pool, viewer, kind as 'position', [id], looking, since);
      if (seen.length === 0) fail('record_hidden', { kind }, `${at}.${field}`);
    }
  };

  const mayEdit = async (viewer: Seer, one: SectionEdit, looking: Looking) => {
    const { section, edit } = one;
    const declared = viewer.catalogue.section(section);
    if ('values' in edit) {
      const isNew = edit.mode === 'create' || edit.mode === 'begin';
      mustBeTheirs(viewer, section, edit.values, { at: 'edit.values', isNew });
      await mustSeeNamed(viewer, section, edit.values, {
        at: 'edit.values',
        since: isNew ? edit.from : undefined,
      });
    }
    if (!isOfThing(one)) {
      // whatever is nobody's is made by acts of its own
      if (!declared.owner || declared.owner.field === 'thing') fail('value_invalid', {}, 'edit.mode');
      return;
    }
    if (declared.kind !== one.kind) fail('field_unknown', { field: section }, 'section');
    const [seen] = await many(pool, visibleThings(viewer, section, [one.id], looking));
    if (!seen) fail('record_hidden', { kind: one.kind });
    if (isCorrection(one.edit) && !may(viewer).do('mend')) fail('right_missing', { right: 'mend' });
  };

  // Whoever saves must have seen what stands.
  const mustBeLast = async (
    deciding: Deciding,
    viewer: Seer,
    edits: readonly EditOfThing[],
    looking: Looking,
  ) => {
    const conflicts = [];
    for (const { section, id, basedOn } of edits) {
      deciding.rests({ section, field: 'thing', of: id });
      const last = await lastEntry(deciding.tx, deciding.catalogue.section(section), id);
      if (last <= basedOn) continue;
      // what now stands, as far as the viewer may see it
      const now = await many<Row>(deciding.tx, visibleHistory(viewer, section, itself(id), looking));
      conflicts.push(conflict({ section, id, last }, withoutHidden(now, viewer)));
    }
    if (conflicts.length > 0) throw new Failure(conflicts);
  };

  const saveEdits = async (
    viewer: Seer,
    request: FastifyRequest,
    { edits, reason, preview, words }: Saving,
  ) => {
    const looking = await look(pool, clock, {});
    for (const one of edits) await mayEdit(viewer, one, looking);
    const known = edits.filter(isOfThing);
    const acted = await act<Edited[]>(server, viewer, {
      kind: entryKindOf(edits),
      needs: edits.some((one) => isOfThing(one) && isCorrection(one.edit)) ? 'mend' : undefined,
      reason,
      preview,
      words,
      ...wordsKept(words),
      locks: known.map(({ id }) => id),
      idempotency: idempotencyOf(request, preview),
      decide: async (deciding) => {
        const { near, newId, entry, catalogue } = deciding;
        const register = await near.load(known.map(({ kind, id }) => ({ kind, id })));
        await mustBeLast(deciding, viewer, known, looking);
        const draft = new Draft(register, newId, entry);
        const aimed = known.flatMap((one) => aimedAt(register, catalogue.section(one.section), one));
        const edited = edits.map((one) => applyEdit(draft, catalogue.section(one.section), one));
        return { ...finish(draft, edited), aimed };
      },
    });
    const { entry, touched } = acted;
    return {
      entry,
      touched,
      problems: await labelled(pool, viewer, acted.problems, looking),
      edited: acted.result,
    };
  };

  serve(app, server, recordEndpoints.editRecord, async ({ params, body, viewer, request }) => {
    const { edit, basedOn, ...rest } = body;
    const { edited: _, ...saved } = await saveEdits(viewer, request, {
      edits: [{ ...params, edit, basedOn }],
      ...rest,
    });
    return saved;
  });

  serve(app, server, recordEndpoints.saveEdits, async ({ body, viewer, request }) => {
    const { edited, ...saved } = await saveEdits(viewer, request, body);
    if (body.preview) return { ...saved, rows: [], lastEntries: [], entries: [], names: [] };
    const looking = await look(pool, clock, {});
    const things = new Map<SectionName, number[]>();
    for (const { section, thing } of edited) things.set(section, [...(things.get(section) ?? []), thing]);
    const rows = await readThings(pool, viewer, looking, things);
    return { ...saved, ...(await readRecord(pool, viewer, looking, rows)) };
  });

  serve(app, server, recordEndpoints.reference, async ({ query, viewer }) => {
    const looking = await look(pool, clock, query);
    const rows = await referenceRows(pool, viewer, looking);
    return { rows: rows.map((row) => ({ ...row, values: row.values as Record<string, unknown> })) };
  });

  serve(app, server, recordEndpoints.ticks, async ({ query, viewer }) => {
    if (query.until < query.from) fail('period', { from: query.from, until: query.until }, 'until');
    const looking = await look(pool, clock, query);
    return { ticks: await many<{ day: Day; count: number }>(pool, ticks(viewer, query, looking)) };
  });
};

// What is hidden from somebody they do not fill either; that nothing is said of it in something new is no saying.
const mustBeTheirs = (
  { grants }: Seer,
  section: SectionName,
  values: object,
  { at, isNew }: { at: string; isNew: boolean },
): void => {
  const hidden = hiddenFields(grants);
  for (const [field, value] of Object.entries(values))
    if (hidden.has(`${section}.${field}`) && !(isNew && value === null))
      fail('field_not_yours', { field }, `${at}.${field}`);
};

type Saving = {
  edits: readonly SectionEdit[];
  reason?: string | undefined;
  preview: boolean;
  words: Words;
};
type EditOfThing = Extract<SectionEdit, { id: number }>;
type Edited = { section: SectionName; thing: number };

const isOfThing = (edit: SectionEdit): edit is EditOfThing => 'id' in edit;

// Words are kept with the entry.
const wordsKept = (words: Words) => (Object.keys(words).length > 0 ? { origin: { words } } : {});

const itself = (id: number) => ({ field: 'thing' as const, ids: [id] });

const isCorrection = ({ mode }: Edit): boolean => mode === 'mend' || mode === 'remove' || mode === 'shift';

const entryKindOf = (edits: readonly SectionEdit[]): EntryKind => {
  if (edits.some((one) => isOfThing(one) && isCorrection(one.edit))) return 'mend';
  if (edits.every((one) => !isOfThing(one))) return 'create';
  return edits.every(({ edit }) => edit.mode === 'end') ? 'end' : 'edit';
};

const lastEntry = async (db: Db, section: Section, id: number, by: number | null = null): Promise<number> => {
  const [last] = await many<{ number: number }>(db, lastEntriesOf(section, [id], by));
  return last?.number ?? 0;
};

// The other's save is said with its entry and what now stands, so that both can be shown side by side.
const conflict = ({ section, id, last }: { section: SectionName; id: number; last: number }, now: Row[]) =>
  problem('conflict', { section, thing: id, entry: last, now: JSON.stringify(now.map(outward)) });

const finish = <T>(draft: Draft, result: T) => {
  const { change, problems } = draft;
  draft.discard();
  return { change, problems, result };
};

// Writes an edit to the draft; answers with the thing that it is of.
const applyEdit = (draft: Draft, section: Section, one: SectionEdit): Edited => {
  const name = one.section;
  if (isOfThing(one)) {
    draft.revise(name, one.id, revisionOf(draft.register, section, one.id, one.edit));
    return { section: name, thing: one.id };
  }
  const { from, until, values } = one.edit;
  const thing = draft.newId();
  draft.begin(name, thing, { from, until }, parseValues(section, values) as never);
  return { section: name, thing };
};

// The parts of rows that an edit is about.
const aimedAt = (register: Register, section: Section, { id, edit }: EditOfThing): Row[] => {
  const rows = register.rows(section.name as SectionName, id) as Row[];
  if ('row' in edit) return rows.filter((row) => row.id === edit.row);
  if (edit.mode === 'set')
    return timelines.aimedAt(rows as unknown as AnyVersion[], {
      from: edit.from,
      until: edit.until,
      override: edit.override,
      values: edit.values,
    }) as unknown as Row[];
  if (edit.mode !== 'end') return [];
  const after = { from: addDays(edit.lastDay, 1), until: OPEN };
  return rows.flatMap((row) => {
    const part = intersection(row, after);
    return part ? [{ ...row, ...part }] : [];
  });
};

const revisionOf = (
  register: Register,
  section: Section,
  id: number,
  edit: Edit,
): timelines.Revision<timelines.Version> => {
  const rows = register.rows(section.name as SectionName, id) as unknown as AnyVersion[];
  const row = 'row' in edit ? rows.find((version) => version.id === edit.row) : undefined;
  const unknown = { superseded: [], recorded: [], problems: [problem('version_unknown', {}, 'edit.row')] };
  if ('row' in edit && !row) return unknown;
  if (edit.mode === 'set')
    return timelines.setFrom(rows, {
      from: edit.from,
      until: edit.until,
      override: edit.override,
      values: parsePartial(section, edit.values),
    });
  if (edit.mode === 'begin')
    return timelines.begin(rows, {
      from: edit.from,
      until: edit.until,
      values: parseValues(section, edit.values) as timelines.Fields,
    });
  if (edit.mode === 'end') return timelines.endOn(rows, edit.lastDay);
  if (edit.mode === 'mend') return timelines.mend(row as AnyVersion, parsePartial(section, edit.values));
  if (edit.mode === 'remove') return timelines.remove(rows, row as AnyVersion);
  return timelines.shift(rows, row as AnyVersion, edit.from);
};

const parse = (schema: z.ZodType, values: unknown, at: string): unknown => {
  const { success, data, error } = schema.safeParse(values);
  if (success) return data;
  throw new Failure(
    error.issues.map((issue) => issueProblem(issue, at)),
    400,
  );
};

/** A refusal of a schema as a problem naming the field. */
export const issueProblem = (issue: z.core.$ZodIssue, at: string) => {
  const field = [at, ...issue.path].filter((part) => part !== '').join('.');
  if (issue.code === 'unrecognized_keys')
    return problem('field_unknown', { field: issue.keys.join(', ') }, field);
  const code = issue.message in problemCodes ? (issue.message as ProblemCode) : 'value_invalid';
  return problem(code, { message: issue.message }, field);
};

const parseValues = ({ name, create }: Section, values: unknown): Record<string, unknown> =>
  parse(create, values, `sections.${name}`) as Record<string, unknown>;
const parsePartial = ({ edit }: Section, values: unknown): timelines.Fields =>
  parse(edit, values, 'edit.values') as timelines.Fields;
