// The way every act takes: load what it needs, decide in core, lock what the decision touches, see that it still holds,
// ask the laws and the rights, record. A preview does the same and writes nothing.
import { createHash } from 'node:crypto';
import type { Change, Day, EntryKind, Problem, Viewer } from '@gremium/contract';
import { sectionRefs } from '@gremium/contract';
import {
  type Looked,
  type Register,
  type Sense,
  RowRegister,
  affectedBy,
  everyRow,
  hasErrors,
  laws,
  ownRecord,
  problem,
  sense,
  touchesReporting,
  uncoveredWrites,
} from '@gremium/core';
import type { ClientBase, Pool } from 'pg';
import { Failure, isTransient, problemOf } from '../database/failure';
import { many, maybeOne, one } from '../database/sql';
import { transaction } from '../database/transaction';
import { todayOf } from '../structure/organisation.sql';
import { findReply, insertReply, lockKey, lockThings } from './act.sql';
import type { Clock } from './clock';
import type { IdSource, OwnIds } from './ids';
import { head } from './journal.sql';
import { Neighbourhood } from './neighbourhood';
import { recordEntry } from './record-entry';

/** `acts` writes, `pool` does all else: however many wait to write, reading goes on. */
export type Server = { pool: Pool; acts: Pool; clock: Clock; ids: IdSource };

/** What a decision is given. */
export type Deciding = {
  tx: ClientBase;
  near: Neighbourhood;
  newId: OwnIds;
  entry: number;
  today: Day;
  /** Number of the last entry before the decision. */
  last: number;
};

export type Decision<T> = {
  change: Change;
  problems: Problem[];
  result: T;
  /** Ids of the entries it undoes; an undo has asked the laws itself. */
  undoes?: number[];
  /** The decision has asked laws and rights itself, row by row, with all they need. */
  isJudged?: boolean;
};

export type Ask<T> = {
  kind: EntryKind;
  reason?: string | undefined;
  origin?: object;
  preview: boolean;
  /** Locked before deciding: what is limited (position, person) or changed. */
  locks: number[];
  /** How many new ids it may need. */
  newIds?: number;
  idempotency?: { key: string; request: unknown } | undefined;
  /** A word for each warning, by its code; asked for where given. */
  words?: Partial<Record<string, string>>;
  /** Nothing else is written meanwhile: for acts that touch more than can be locked one by one. */
  alone?: boolean;
  /** What else is written in the entry's transaction, before it and, where it needs the entry's number, after it. */
  ahead?: (tx: ClientBase, result: T) => Promise<void>;
  alongside?: (tx: ClientBase, entry: number) => Promise<void>;
  /** Leaves the register of `near` as it found it. */
  decide: (deciding: Deciding) => Promise<Decision<T>>;
};

/** `looked`: what was looked at, whatever was found. */
export type Acted<T> = { entry: number | null; problems: Problem[]; looked: Looked[]; result: T };

const ATTEMPTS = 8;

/** Previews or carries out an act for a viewer. Errors among the problems refuse it with all of them. */
export const act = async <T>(server: Server, viewer: Viewer, ask: Ask<T>): Promise<Acted<T>> => {
  const pool = ask.preview ? server.pool : server.acts;
  for (let attempt = 1; ; attempt++) {
    try {
      return await transaction(pool, (tx) => attemptAct(server, viewer, ask, tx), { keep: !ask.preview });
    } catch (error) {
      if (isTransient(error) && attempt < ATTEMPTS) continue;
      const refused = problemOf(error);
      if (refused) throw new Failure([refused]);
      throw error;
    }
  }
};

const attemptAct = async <T>(
  server: Server,
  viewer: Viewer,
  ask: Ask<T>,
  tx: ClientBase,
): Promise<Acted<T>> => {
  const kept = await keptReply<T>(tx, viewer, ask);
  if (kept) return kept;
  const newId = await server.ids.reserve(tx, ask.newIds);
  const entry = newId();
  const { decision, near, today } = await decideLocked(server, ask, tx, { newId, entry });
  const { change, undoes } = decision;
  const problems = [...decision.problems];
  const looked: Looked[] = [];
  if (!decision.isJudged && !hasErrors(problems)) {
    const judged = judge(near, viewer, decision, today);
    problems.push(...judged.problems);
    looked.push(...judged.looked);
  }
  if (ask.preview) return { entry: null, problems, looked, result: decision.result };
  problems.push(...unanswered(problems, ask.words));
  if (hasErrors(problems)) throw new Failure(problems);
  if (change.recorded.length + change.superseded.length === 0)
    throw new Failure([...problems, { ...problem('nothing_changed'), severity: 'error' }]);
  // all that takes its time comes before the entry gets its number, under a lock that everybody waits for
  await ask.ahead?.(tx, decision.result);
  await keepReply(tx, viewer, ask, {
    acted: { problems, looked, result: decision.result },
    entry,
    at: server.clock.now(),
  });
  const written = await recordEntry(
    tx,
    {
      id: entry,
      now: server.clock.now(),
      kind: ask.kind,
      account: viewer.email,
      reason: ask.reason ?? null,
      ...(ask.origin ? { origin: ask.origin } : {}),
      ...(undoes ? { undoes } : {}),
    },
    change,
  );
  const acted = { entry: written.number, problems, looked, result: decision.result };
  await ask.alongside?.(tx, written.number);
  return acted;
};

// A warning is recorded only with a word for it.
const unanswered = (problems: readonly Problem[], words: Ask<unknown>['words']): Problem[] =>
  words === undefined
    ? []
    : problems
        .filter(({ severity, code }) => severity === 'warning' && !words[code])
        .map(({ code }) => problem('word_missing', { code }, `words.${code}`));

const judge = <T>(
  near: Neighbourhood,
  viewer: Viewer,
  { change, undoes }: Decision<T>,
  today: Day,
): Sense => {
  const after = near.register;
  const before = new RowRegister(everyRow(after));
  after.apply(change);
  // an undo plan holds because it broke none
  const broken = undoes ? [] : laws(after, change).map((offence) => offence.problem);
  const missing = uncoveredWrites(change, viewer.grants, { before, after, today });
  const sensed: Sense = undoes ? { problems: [], looked: [] } : sense(after, change, { twins: true });
  const own = ownRecord(change, viewer.personId, after);
  after.revert(change);
  const rights = missing.map((section) => problem('right_missing', { section }));
  return { problems: [...broken, ...rights, ...own, ...sensed.problems], looked: sensed.looked };
};

type Ids = { newId: OwnIds; entry: number };

// Decides, locks what was found to matter, and decides again if anything was committed meanwhile.
const decideLocked = async <T>(server: Server, ask: Ask<T>, tx: ClientBase, { newId, entry }: Ids) => {
  const today = await todayOf(tx, server.clock);
  const locked = new Set<number>();
  const wanted: ToLock[] = [[REGISTER, ask.alone === true], ...ask.locks.map((id): ToLock => [id, true])];
  // a preview writes nothing and waits for nobody
  if (!ask.preview) await lock(tx, wanted, locked);
  for (;;) {
    const began = await one<{ number: number }>(tx, head);
    const near = new Neighbourhood(tx, newId.owns);
    const decision = await ask.decide({ tx, near, newId, entry, today, last: began.number });
    if (hasErrors(decision.problems)) return { decision, near, today };
    if (!decision.isJudged) {
      await near.loadFor(decision.change);
      if (!decision.undoes) await near.loadTwins(decision.change);
    }
    if (ask.preview || ask.alone) return { decision, near, today };
    const open = toLock(decision.change, near.register).filter(([id]) => !locked.has(id));
    await lock(tx, open, locked);
    const now = await one<{ number: number }>(tx, head);
    if (open.length === 0 || now.number === began.number) return { decision, near, today };
  }
};

// Ids of things begin at a thousand. Every act holds the register shared, one that is to be alone exclusively.
const REGISTER = 0;
const STRUCTURE = 1;

type ToLock = [id: number, exclusive: boolean];

// What a change touches and what that belongs to, exclusively; what it merely refers to, shared.
const toLock = (change: Change, register: Register): ToLock[] => {
  const affected = affectedBy(change, register);
  const own = new Set(affected.rows.map(({ thing }) => thing));
  for (const kind of ['unit', 'position', 'person', 'employment'] as const)
    for (const id of affected[kind]) own.add(id);
  const named = new Set<number>();
  for (const row of change.recorded)
    for (const { field } of sectionRefs(row.section)) {
      const id = (row.values as Record<string, unknown>)[field] as number | null;
      if (id !== null && !own.has(id)) named.add(id);
    }
  const structure: ToLock[] = touchesReporting(change, register) ? [[STRUCTURE, true]] : [];
  return [
    ...structure,
    ...[...own].map((id): ToLock => [id, true]),
    ...[...named].map((id): ToLock => [id, false]),
  ];
};

const lock = async (tx: ClientBase, ids: readonly ToLock[], locked: Set<number>): Promise<void> => {
  if (ids.length === 0) return;
  await many(
    tx,
    lockThings(
      ids.map(([id]) => id),
      ids.map(([, exclusive]) => exclusive),
    ),
  );
  for (const [id] of ids) locked.add(id);
};

const digestOf = (request: unknown): string =>
  createHash('sha256').update(JSON.stringify(request)).digest('hex');

// A simultaneous twin waits here for the first to end.
const keptReply = async <T>(
  tx: ClientBase,
  viewer: Viewer,
  { idempotency, preview }: Pick<Ask<unknown>, 'idempotency' | 'preview'>,
): Promise<Acted<T> | null> => {
  if (!idempotency || preview) return null;
  const { key, request } = idempotency;
  await many(tx, lockKey(viewer.account, key));
  const kept = await maybeOne<Kept<T>>(tx, findReply(viewer.account, key));
  if (!kept) return null;
  if (kept.digest !== digestOf(request)) throw new Failure([problem('idempotency_other_request')]);
  return { ...kept.reply, looked: kept.reply.looked ?? [], entry: kept.entry };
};

type Kept<T> = { digest: string; reply: Omit<Acted<T>, 'entry'>; entry: number };

const keepReply = async <T>(
  tx: ClientBase,
  viewer: Viewer,
  { idempotency }: Ask<T>,
  { acted, ...kept }: { acted: Omit<Acted<T>, 'entry'>; entry: number; at: string },
): Promise<void> => {
  if (!idempotency) return;
  const { key, request } = idempotency;
  const own = { account: viewer.account, key, digest: digestOf(request), reply: JSON.stringify(acted) };
  await many(tx, insertReply({ ...own, ...kept }));
};
