// The way every act takes: load what it needs, decide in core, lock what the decision touches, see that it still holds,
// ask the laws and the rights, record. A preview does the same and writes nothing.
import { createHash } from 'node:crypto';
import type { Row } from '@gremium/contract';
import {
  type Act,
  type Catalogue,
  type Change,
  type Day,
  type EntryKind,
  type Problem,
  type SectionName,
  type Viewer,
  may,
} from '@gremium/contract';
import {
  type Looked,
  Miss,
  type OpenRegister,
  type RegisterKey,
  type Sense,
  affectedBy,
  hasErrors,
  isAboveByRight,
  laws,
  ownRecord,
  problem,
  requirementTells,
  sense,
  touchesReporting,
  uncoveredWrites,
} from '@gremium/core';
import type { ClientBase, Pool } from 'pg';
import { Failure, isTransient, problemOf } from '../database/failure';
import { many, maybeOne, one } from '../database/sql';
import { transaction } from '../database/transaction';
import { filesNamed, filesWrong } from '../files/files-named';
import { nameFiles } from '../files/kept-files.sql';
import { todayOf } from '../structure/organisation.sql';
import { findReply, insertReply, lockKey, lockThings, overtakenSince } from './act.sql';
import { administrationEnds, roleChangeProblems } from '../access/administration';
import type { LinesKept } from '../access/lines-below';
import type { Catalogues } from './catalogues';
import type { Clock } from './clock';
import { type IdSource, OutOfIds, type OwnIds } from './ids';
import { head } from './journal.sql';
import { Neighbourhood } from './neighbourhood';
import { recordEntry } from './record-entry';
import type { WorkerData } from './sections-from';

/** `acts` writes, `pool` does all else: however many wait to write, reading goes on. */
export type Place = { pool: Pool; acts: Pool; clock: Clock; ids: IdSource; catalogues: Catalogues };
/** `workers`: what its workers are started with; `lines`: who reports to whoever asks. */
export type Server = Place & { workers: WorkerData; lines?: LinesKept };

/** What a decision is given. */
export type Deciding = {
  tx: ClientBase;
  near: Neighbourhood;
  newId: OwnIds;
  entry: number;
  today: Day;
  /** Number of the last entry before the decision. */
  last: number;
  /** What is decided is recorded: no preview. */
  isWriting: boolean;
  /** The sections there are, as of that entry. */
  catalogue: Catalogue;
  /** Says what was read by other ways than the register; without a key, that the decision rests on all there is. */
  rests: (on?: RegisterKey) => void;
};

export type Decision<T> = {
  change: Change;
  problems: Problem[];
  result: T;
  /** Parts of rows that it is about whether anything of them changes or not: the right to write them is asked for all the same. */
  aimed?: Row[];
  /** Ids of the entries it undoes; an undo has asked the laws itself. */
  undoes?: number[];
  /** The decision has asked laws and rights itself, row by row, with all they need. */
  isJudged?: boolean;
  /** It does the same to everybody's rows, whoever they are of: one's own are no exception (`own_record`). */
  isOfAll?: boolean;
};

export type Ask<T> = {
  kind: EntryKind;
  /** What it needs: then only what is given together with it counts, whatever else somebody has elsewhere. */
  needs?: Act | undefined;
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
  /** What has happened is recorded above the limits of a place without the right to plan so. */
  isFact?: boolean;
  /** Nothing else is written meanwhile: for acts that touch more than can be locked one by one. */
  alone?: boolean;
  /** It loads all it needs before it decides: what is not loaded is not there. */
  loadsAll?: boolean;
  /** What else is written in the entry's transaction, before it and, where it needs the entry's number, after it. */
  ahead?: (tx: ClientBase, result: T) => Promise<void>;
  alongside?: (tx: ClientBase, entry: number, result: T) => Promise<void>;
  /** Leaves the register of `near` as it found it. */
  decide: (deciding: Deciding) => Promise<Decision<T>>;
};

/** `looked`: what was looked at, whatever was found; `touched`: sections of which rows were recorded or superseded. */
export type Acted<T> = {
  entry: number | null;
  problems: Problem[];
  looked: Looked[];
  touched: SectionName[];
  result: T;
};

const ATTEMPTS = 8;

/** Something was committed, after the decision was last compared, that it rests on. */
class Overtaken extends Error {}

/** How often decisions were made, and acts carried out: what `npm run bench` divides. */
export const counted = { acts: 0, decisions: 0 };

/** Previews or carries out an act for a viewer. Errors among the problems refuse it with all of them. */
export const act = async <T>(server: Place, viewer: Viewer, ask: Ask<T>): Promise<Acted<T>> => {
  const pool = ask.preview ? server.pool : server.acts;
  for (let attempt = 1; ; attempt++) {
    try {
      return await transaction(pool, (tx) => attemptAct(server, viewer, ask, tx), { keep: !ask.preview });
    } catch (error) {
      const isAgain = isTransient(error) || error instanceof Overtaken;
      if (isAgain && attempt < ATTEMPTS) continue;
      if (error instanceof Overtaken) throw new Failure([problem('database_busy')]);
      const refused = problemOf(error);
      if (refused) throw new Failure([refused]);
      throw error;
    }
  }
};

const attemptAct = async <T>(
  server: Place,
  viewer: Viewer,
  ask: Ask<T>,
  tx: ClientBase,
): Promise<Acted<T>> => {
  const kept = await keptReply<T>(tx, viewer, ask);
  if (kept) return kept;
  const newId = await server.ids.reserve(tx, ask.newIds);
  const entry = newId();
  const decided = await decideLocked(server, viewer, ask, tx, { newId, entry });
  const { decision, looked, catalogue, near, today } = decided;
  const { change, undoes } = decision;
  const asked = { change, catalogue, today };
  const problems = gravestFirst([
    ...decision.problems.filter((one) => mayHear(viewer, one)),
    ...decided.problems,
    ...(await roleChangeProblems(tx, viewer, asked)),
    ...(await administrationEnds(tx, near, asked)),
  ]);
  const touched = [...new Set([...change.recorded, ...change.superseded].map(({ section }) => section))];
  if (ask.preview) return { entry: null, problems, looked, touched, result: decision.result };
  // what is undone named its files before
  const files = undoes ? [] : filesNamed(catalogue, change);
  problems.push(...(await filesWrong(tx, viewer.account, files)));
  problems.push(...unanswered(problems, ask.words));
  if (hasErrors(problems)) throw new Failure(problems);
  if (change.recorded.length + change.superseded.length === 0)
    throw new Failure([...problems, { ...problem('nothing_changed'), severity: 'error' }]);
  // all that takes its time comes before the entry gets its number, under a lock that everybody waits for
  await ask.ahead?.(tx, decision.result);
  await keepReply(tx, viewer, ask, {
    acted: { problems, looked, touched, result: decision.result },
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
    catalogue,
  );
  // others may have come between: under the lock of the journal nobody does any more
  if (!ask.alone && written.number > decided.seen + 1) {
    const { overtaken } = await one<Since>(tx, overtakenSince(decided.seen, decided.keys(), written.number));
    if (overtaken) throw new Overtaken();
  }
  if (files.length > 0)
    await many(
      tx,
      nameFiles(
        files.map(({ file }) => file.id),
        written.number,
      ),
    );
  counted.acts++;
  const acted = { entry: written.number, problems, looked, touched, result: decision.result };
  await ask.alongside?.(tx, written.number, decision.result);
  return acted;
};

/** The words that are wanted and not given: a warning is recorded only with a word for it. */
export const unanswered = (problems: readonly Problem[], words: Ask<unknown>['words']): Problem[] =>
  words === undefined
    ? []
    : problems
        .filter(({ severity, code }) => severity === 'warning' && !words[code])
        .map(({ code }) => problem('word_missing', { code }, `words.${code}`));

const NOTHING: Sense = { problems: [], looked: [] };

// Laws, rights and sense of a change, asked of the register after it.
const judge = <T>(
  near: Neighbourhood,
  { viewer, needs, isFact }: { viewer: Viewer; needs: Act | undefined; isFact: boolean },
  { change, aimed = [], undoes, problems, isJudged, isOfAll }: Decision<T>,
  today: Day,
): Sense => {
  if (isJudged) return NOTHING;
  const after = near.register;
  const before = after.copy();
  after.apply(change);
  const { personId } = viewer;
  const grants = needs ? may(viewer).where(needs) : viewer.grants;
  const writing = { before, after, today, personId };
  const missing = new Set(
    // what somebody guesses of a hidden value tells nothing by being right
    [change, { recorded: [], superseded: aimed }].flatMap((part) => uncoveredWrites(part, grants, writing)),
  );
  const rights = [...missing].map((section) => problem('right_missing', { section }));
  // where a right is missing nothing else is said: what was found tells what is hidden. What an undo would take back is shown by
  // its entries, as far as they are seen
  if (rights.length > 0 && !undoes) throw new Failure(rights);
  if (!isFact && isAboveByRight(change) && !may(viewer).do('above_limit'))
    throw new Failure([problem('right_missing', { right: 'above_limit' }, 'reviewOn')]);
  // what is only left out stops no other check
  if (hasErrors(problems.filter(({ code }) => code !== 'value_missing'))) {
    after.revert(change);
    return NOTHING;
  }
  // an undo plan holds because it broke none
  const broken = undoes ? [] : laws(after, change).map((offence) => offence.problem);
  const sensed = undoes ? NOTHING : sense(after, change, { twins: true, today });
  const own = isOfAll ? [] : ownRecord(change, personId, after);
  after.revert(change);
  return { problems: [...broken, ...rights, ...own, ...sensed.problems], looked: sensed.looked };
};

// What stops before what wants a word, and this before what is only told; else in the order of looking.
const GRAVITY = { error: 0, warning: 1, note: 2 } as const;
const gravestFirst = (problems: readonly Problem[]): Problem[] =>
  [...problems].sort((a, b) => GRAVITY[a.severity] - GRAVITY[b.severity]);

// What somebody lacks is told by sections that not everybody sees.
const mayHear = (viewer: Viewer, { code }: Problem): boolean =>
  (code !== 'requirement_missing' && code !== 'requirement_unrecorded') ||
  requirementTells.every((section) => may(viewer).view(section));

type Ids = { newId: OwnIds; entry: number };
type Since = { number: number; overtaken: boolean };
type Began = { number: number; defined: number };

type Decided<T> = Sense & {
  decision: Decision<T>;
  catalogue: Catalogue;
  near: Neighbourhood;
  today: Day;
  /** Number of the last entry the decision was compared with. */
  seen: number;
  /** What it rests on; null: on all there is. */
  keys: () => string[] | null;
};

// Decides and judges; what was not loaded is loaded then, and all is done again as if nothing had been.
const decideOnce = async <T>(
  viewer: Viewer,
  ask: Ask<T>,
  deciding: Deciding,
): Promise<Sense & { decision: Decision<T>; locks: ToLock[] }> => {
  const { near, newId } = deciding;
  const mark = newId.mark();
  for (;;) {
    counted.decisions++;
    try {
      const decision = await ask.decide(deciding);
      if (!decision.isJudged && !hasErrors(decision.problems)) {
        await near.loadFor(decision.change);
        if (!decision.undoes) await near.loadTwins(decision.change);
      }
      restOnDefinitions(deciding, decision.change);
      const judged = judge(
        near,
        { viewer, needs: ask.needs, isFact: ask.isFact === true },
        decision,
        deciding.today,
      );
      const locks = ask.alone || ask.preview ? [] : toLock(decision.change, near.register);
      return { ...judged, decision, locks };
    } catch (error) {
      if (!(error instanceof Miss || error instanceof OutOfIds)) throw error;
      counted.decisions--;
      near.register.rollBack();
      newId.rewind(mark);
      if (error instanceof Miss) await near.fetch(error.key);
      else await newId.grow(deciding.tx);
    }
  }
};

// Rows of own sections rest on what defines them.
const restOnDefinitions = ({ catalogue, rests }: Deciding, change: Change): void => {
  const names = new Set([...change.recorded, ...change.superseded].map(({ section }) => section));
  for (const name of names) {
    const { own } = catalogue.section(name);
    if (own === null) continue;
    rests({ section: 'own_section', field: 'thing', of: own });
    rests({ section: 'own_field', field: 'sectionId', of: own });
  }
};

// Decides, locks what was found to matter, and decides again if what was committed meanwhile is of what it rests on.
const decideLocked = async <T>(
  server: Place,
  viewer: Viewer,
  ask: Ask<T>,
  tx: ClientBase,
  { newId, entry }: Ids,
): Promise<Decided<T>> => {
  const today = await todayOf(tx, server.clock);
  const locked = new Set<number>();
  const wanted: ToLock[] = [[REGISTER, ask.alone === true], ...ask.locks.map((id): ToLock => [id, true])];
  // a preview writes nothing and waits for nobody
  if (!ask.preview) await lock(tx, wanted, locked);
  const mark = newId.mark();
  for (;;) {
    const began = await one<Began>(tx, head);
    const catalogue = await server.catalogues.knowing(tx, began.defined);
    const near = new Neighbourhood(tx, catalogue, { isNew: newId.owns, isOpen: ask.loadsAll !== true });
    let isOfAll = false;
    const rests = (on?: RegisterKey) => (on ? near.knowledge.note(on) : void (isOfAll = true));
    newId.rewind(mark);
    const isWriting = !ask.preview;
    const deciding = { tx, near, newId, entry, today, last: began.number, isWriting, catalogue, rests };
    const { decision, locks, problems, looked } = await decideOnce(viewer, ask, deciding);
    const keys = () => (isOfAll ? null : near.knowledge.readKeys);
    const decided = { decision, problems, looked, catalogue, near, today, seen: began.number, keys };
    if (hasErrors(decision.problems) || ask.preview || ask.alone) return decided;
    const open = locks.filter(([id]) => !locked.has(id));
    await lock(tx, open, locked);
    const { number, overtaken } = await one<Since>(tx, overtakenSince(began.number, keys()));
    if (!overtaken) return { ...decided, seen: number };
  }
};

// Ids of things begin at a thousand. Every act holds the register shared, one that is to be alone exclusively.
const REGISTER = 0;
const STRUCTURE = 1;

type ToLock = [id: number, exclusive: boolean];

// What a change touches and what that belongs to, exclusively; what it merely refers to, shared.
const toLock = (change: Change, register: OpenRegister): ToLock[] => {
  const { catalogue } = register;
  const affected = affectedBy(change, register);
  const own = new Set(affected.rows.map(({ thing }) => thing));
  for (const kind of ['unit', 'position', 'person', 'employment'] as const)
    for (const id of affected[kind]) own.add(id);
  const named = new Set<number>();
  for (const row of change.recorded) {
    const { owner } = catalogue.section(row.section);
    for (const { field } of catalogue.refs(row.section)) {
      const value = (row.values as Record<string, unknown>)[field] as number | number[] | null;
      for (const id of [value ?? []].flat())
        if (field === owner?.field) own.add(id);
        else if (!own.has(id)) named.add(id);
    }
  }
  for (const id of own) named.delete(id);
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
  return {
    ...kept.reply,
    looked: kept.reply.looked ?? [],
    touched: kept.reply.touched ?? [],
    entry: kept.entry,
  };
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
