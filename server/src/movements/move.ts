// A movement of any kind carried out, or previewed: what it names is looked at, its decision stands in core, the rest is `act`.
import {
  type Day,
  type Kind,
  type Moved,
  type MovementInput,
  type MovementKind,
  type Problem,
  type Right,
  type SectionName,
  type SlipValue,
  type ThingRef,
  type Words,
  movementOf,
  namedIn,
  type HireInput,
  hiddenFields,
  keptIn,
  saidPaths,
  may,
} from '@gremium/contract';
import {
  type Concerned,
  Draft,
  type MovedThings,
  addDays,
  decisionOf,
  hasErrors,
  type OwnOfHire,
  ownOfHire,
} from '@gremium/core';
import { randomUUID } from 'node:crypto';
import type { ClientBase } from 'pg';
import { Failure, fail } from '../database/failure';
import { many, maybeOne, one } from '../database/sql';
import { transaction } from '../database/transaction';
import { nextNumber } from '../people/number.sql';
import { type Acted, type Deciding, type Decision, type Server, act, unanswered } from '../time/act';
import type { Seer } from '../time/catalogues';
import type { Idempotency } from '../time/idempotency';
import { labelled, namesFor } from '../time/labels';
import { type Looking, look } from '../time/lens';
import type { Seed } from '../time/neighbourhood';
import type { RegisterThread } from '../time/register-thread';
import { HIDEABLE, seenOf } from '../time/seen';
import { changedSince } from './changed-since';
import { countRows, recordMovement } from './movement.sql';
import { addAct, addSaying, handIn, replan, sayOf, setConditions } from './on-their-way.sql';

/** What is asked: a kind with its input. */
export type Asked = {
  kind: MovementKind;
  input: MovementInput;
  preview: boolean;
  words: Words;
  seen?: number | undefined;
  key?: string | undefined;
  conditions?: string[] | undefined;
};

/** What a movement came to, with ids and without names: those are given to whoever reads it. */
export type Result = MovedThings & { effects: Problem[]; asOf: number };

export type Moving = { server: Server; register: RegisterThread; viewer: Seer };

const NOTHING: MovedThings = { things: {}, slip: [] };

/** A key for what was asked without one. */
const newKeptKey = (): string => randomUUID().replaceAll('-', '');

const mustMay = (viewer: Seer, right: Right): void => {
  if (!may(viewer).allows(right)) fail('right_missing', { right: Object.values(right).join(' ') });
};

// A movement names only what the viewer may see on its day or later; everything else is answered as if it were not there.
const mustSee = async (
  { server: { pool, clock }, viewer }: Moving,
  seeds: readonly (Seed & { path: string })[],
  since: Day | undefined,
) => {
  const looking = await look(pool, clock, {});
  for (const kind of new Set(seeds.map((seed) => seed.kind))) {
    if (!HIDEABLE.has(kind)) continue;
    const named = seeds.filter((seed) => seed.kind === kind);
    const ids = named.map(({ id }) => id);
    const seen = new Set(await seenOf(pool, viewer, kind as 'position', ids, looking, since));
    const hidden = named.find(({ id }) => !seen.has(id));
    if (hidden) fail('record_hidden', { kind }, `input.${hidden.path}`);
  }
};

/** Carries a movement out, or previews it. */
export const move = async (
  moving: Moving,
  asked: Asked,
  idempotency?: Idempotency | undefined,
): Promise<Moved> => {
  const isWaiting = (asked.conditions ?? []).length > 0;
  const acted = await carryOut(moving, isWaiting ? { ...asked, preview: true } : asked, idempotency);
  if (isWaiting && !asked.preview) await wait(moving, asked, acted);
  return { ...(await wire(moving, asked.kind, acted)), isWaiting: isWaiting && !asked.preview };
};

// It waits for its conditions: what stands against it today stops it today.
const wait = async (
  { server, viewer }: Moving,
  { kind, input, words, conditions = [], key }: Asked,
  { problems, result }: Acted<Result>,
): Promise<void> => {
  const all = [...problems, ...unanswered(problems, words)];
  if (hasErrors(all)) throw new Failure(all);
  const at = server.clock.now();
  // what it would make has no number yet: it is about what is there
  const seeds = namedIn(movementOf(kind).input, input);
  const named = new Set(seeds.map(({ id }) => id));
  const there = Object.fromEntries(Object.entries(result.things).filter(([, id]) => named.has(id)));
  await transaction(server.acts, async (tx) => {
    const kept = {
      key: key ?? newKeptKey(),
      kind,
      about: aboutOf({ ...result, things: there }, seeds),
      input: JSON.stringify(input),
      words: JSON.stringify(words),
      at,
    };
    const found = await maybeOne<{ id: number }>(tx, handIn(viewer.account, kept));
    if (!found) return fail('movement_recorded', {}, 'key');
    await many(tx, setConditions(found.id, conditions));
    await many(tx, addAct(found.id, { account: viewer.account, at, act: 'handed_in' }));
  });
};

/** Decides a movement and, but for a preview, records it: with ids, without names. */
export const carryOut = async (
  moving: Moving,
  asked: Asked,
  idempotency?: Idempotency,
): Promise<Acted<Result>> => {
  const { kind, input, preview, words } = asked;
  const { server, viewer } = moving;
  const declared = movementOf(kind);
  mustMay(viewer, declared.right);
  mustBeTheirs(viewer, kind, input);
  const seeds = namedIn(declared.input, input);
  const own = ownOf(viewer, asked);
  const { field } = declared.day;
  await mustSee(moving, [...seeds, ...own.named], dayIn(input, field) ?? undefined);
  const { whole = [] } = declared;
  return act<Result>(server, viewer, {
    kind,
    needs: typeof declared.right === 'object' && 'act' in declared.right ? declared.right.act : undefined,
    preview,
    words,
    reason: (input as { reason?: string }).reason,
    origin: {
      movement: kind,
      [field]: (input as Record<string, unknown>)[field],
      ...(asked.key ? { key: asked.key } : {}),
      ...(Object.keys(words).length > 0 ? { words } : {}),
    },
    locks: seeds.flatMap(({ kind: of, id }) => (of !== 'unit' && HIDEABLE.has(of) ? id : [])),
    alone: whole.length > 0 && !preview,
    // each placement in two parts at most
    ...(whole.length > 0 ? { newIds: 2 * (await countRows(server.pool, whole)) + 250 } : {}),
    idempotency: preview ? undefined : idempotency,
    isFact: declared.isFact === true,
    decide: deciderOf(moving, asked, { seeds, missing: own.missing }),
    alongside: async (tx, entry, result) => {
      const kept = {
        key: asked.key ?? newKeptKey(),
        kind,
        about: aboutOf(result, seeds),
        input: JSON.stringify(input),
        entry,
        result: JSON.stringify(result),
        at: server.clock.now(),
      };
      const recorded = await maybeOne<{ id: number }>(tx, recordMovement(viewer.account, kept));
      if (!recorded) return fail('movement_recorded', {}, 'key');
      const act = { account: viewer.account, at: kept.at, entry };
      await many(tx, addAct(recorded.id, { ...act, act: 'recorded' }));
      await leaveToSay(tx, recorded.id, { kind, input, result });
      await markEarlier(tx, { kind, input }, act);
    },
  });
};

type Done = { kind: MovementKind; input: MovementInput };
// A day of an input; null where it says that there is none (an employment goes on without a last day).
const dayIn = (input: MovementInput, field: string): Day | null =>
  (input as unknown as Record<string, Day | null>)[field] ?? null;

// What is to be said of it once it has happened.
const leaveToSay = async (
  tx: ClientBase,
  id: number,
  { kind, input, result }: Done & { result: Result },
): Promise<void> => {
  for (const { what, field, after } of movementOf(kind).says ?? []) {
    const day = dayIn(input, field);
    if (day === null) continue;
    const planned = addDays(day, after);
    const placement = result.things.placementId ?? null;
    await many(tx, addSaying(id, { what, planned, placement }));
  }
};

// It says what became of an earlier one, or plans that otherwise.
const markEarlier = async (
  tx: ClientBase,
  { kind, input }: Done,
  act: { account: number; at: string; entry: number },
): Promise<void> => {
  const { marks, day } = movementOf(kind);
  const placement = (input as { placementId?: number }).placementId;
  if (!marks || placement === undefined) return;
  const said = dayIn(input, day.field);
  if (said === null) return;
  const { what, planned } = marks;
  const found = planned
    ? await many<{ id: number }>(tx, replan(placement, { what, day: addDays(said, planned.after) }))
    : await many<{ id: number }>(tx, sayOf(placement, { what, day: said, ...act }));
  for (const { id } of found)
    await many(tx, addAct(id, { ...act, act: planned ? `planned_${what}` : what, day: said }));
};

// The record that a movement belongs to.
const aboutOf = ({ things }: Result, seeds: readonly Seed[]): string => {
  const { personId, positionId, unitId, jobId } = things;
  if (personId) return `person ${personId}`;
  if (positionId) return `position ${positionId}`;
  if (jobId) return `job ${jobId}`;
  return unitId ? `unit ${unitId}` : `${seeds[0]?.kind ?? 'unit'} ${seeds[0]?.id ?? 0}`;
};

// What is hidden from somebody they do not say in a movement either.
const mustBeTheirs = ({ grants }: Seer, kind: MovementKind, input: unknown): void => {
  const hidden = hiddenFields(grants);
  if (hidden.size === 0) return;
  const path = saidPaths(input).find((one) => keptIn(kind, one).some((field) => hidden.has(field)));
  if (path !== undefined) fail('field_not_yours', { field: path }, `input.${path}`);
};

// The values of a slip that are the viewer's to see: of the field of their section, or of what the movement asks.
const seenSlip = ({ grants }: Seer, kind: MovementKind, slip: readonly SlipValue[]): SlipValue[] => {
  const hidden = hiddenFields(grants);
  return slip.filter(({ section, field }) =>
    (section ? [`${section}.${field}`] : keptIn(kind, field)).every((one) => !hidden.has(one)),
  );
};

// Own fields that a hire asks for: none is said that is not the viewer's.
const ownOf = ({ catalogue, grants }: Seer, { kind, input }: Asked): OwnOfHire => {
  if (kind !== 'hire') return { strange: null, named: [], missing: [] };
  const own = ownOfHire(catalogue, grants, (input as HireInput).own ?? {});
  if (own.strange !== null) fail('field_not_yours', { field: own.strange }, `input.own.${own.strange}`);
  return own;
};

type Beside = { seeds: readonly Seed[]; missing: readonly Problem[] };

const deciderOf = (
  { register, viewer }: Moving,
  { kind, input, seen }: Asked,
  { seeds, missing }: Beside,
) => {
  const declared = movementOf(kind);
  const { field, isLast } = declared.day;
  const said = dayIn(input, field);
  const decide = decisionOf(kind);
  let number: string | undefined;
  return async (deciding: Deciding): Promise<Decision<Result>> => {
    const { tx, near, newId, entry, today, last, rests } = deciding;
    if (seen !== undefined && seen < last) {
      const conflicts = await changedSince(tx, viewer, { seeds, seen, today });
      if (conflicts.length > 0) throw new Failure(conflicts);
    }
    // decided again, somebody new keeps the number they were given
    if (declared.numbers && deciding.isWriting) number ??= await freeNumber(deciding);
    await near.loadAll(declared.whole ?? []);
    if (declared.whole) rests();
    const draft = new Draft(await near.load(seeds), newId, entry);
    for (const { kind: of, id } of seeds) rests({ section: of as SectionName, field: 'thing', of: id });
    const moved = decide(draft, input as never, { today, number }) ?? NOTHING;
    const { change, problems } = draft;
    draft.discard();
    // without a last day it holds from today on
    const day = said === null ? today : isLast ? addDays(said, 1) : said;
    const by = { viewer, looking: { on: day, by: null, today } };
    // under locks nobody waits for the register in memory to catch up, unless the change is of what it does not know yet
    const ask = { change, firstDay: day };
    const effects =
      (await register.ask('effects', { ...by, asItIs: true }, ask)) ??
      (await register.ask('effects', by, ask));
    return {
      change,
      problems: [...problems, ...missing],
      result: { ...moved, effects: effects ?? [], asOf: last },
    };
  };
};

// The next number nobody was ever given.
const freeNumber = async ({ tx }: Deciding): Promise<string> => {
  for (;;) {
    const { number, given } = await one<{ number: string; given: boolean }>(tx, nextNumber);
    if (!given) return number;
  }
};

/** What a movement came to, with the names that the viewer may see. */
export const wire = async (
  { server: { pool, clock }, viewer }: Moving,
  kind: MovementKind,
  { entry, problems, looked, touched, result }: Acted<Result>,
): Promise<Moved> => {
  const looking = await look(pool, clock, {});
  const { personId, employmentId, positionId, unitId, jobId } = result.things;
  return {
    kind,
    entry,
    touched,
    problems: await labelled(pool, viewer, problems, looking),
    effects: await labelled(pool, viewer, result.effects, looking),
    personId: personId ?? null,
    employmentId: employmentId ?? null,
    positionId: positionId ?? null,
    unitId: unitId ?? null,
    jobId: jobId ?? null,
    slip: await withNames({ pool, viewer, looking }, seenSlip(viewer, kind, result.slip)),
    ...(result.concerned
      ? { concerned: await concernedOut({ pool, viewer, looking }, result.concerned) }
      : {}),
    looked,
    asOf: result.asOf,
    isWaiting: false,
  };
};

type Naming = { pool: Server['pool']; viewer: Seer; looking: Looking };

const withNames = async ({ pool, viewer, looking }: Naming, slip: readonly SlipValue[]) => {
  const kindOf = (value: SlipValue): Kind | null => kindNamed(viewer, value);
  const idsOf = (value: SlipValue) => {
    const of = kindOf(value);
    return of
      ? [value.before, value.after].flatMap((id) => (typeof id === 'number' ? [{ kind: of, id }] : []))
      : [];
  };
  const names = await namesFor(pool, viewer, slip.flatMap(idsOf), looking);
  return slip.map((value) => {
    const nameOf = (id: SlipValue['after']) => names.get(`${kindOf(value)} ${id}`)?.name;
    return { ...value, beforeName: nameOf(value.before), afterName: nameOf(value.after) };
  });
};

const MOST_LINES = 200;

// Those whom the viewer may not see are counted, and not named.
const concernedOut = async ({ pool, viewer, looking }: Naming, { count, lines }: Concerned) => {
  const first = lines.slice(0, MOST_LINES);
  const refs = first.flatMap(({ what, where }) => [what, ...(where ? [where] : [])]);
  const names = await namesFor(pool, viewer, refs, looking);
  const nameOf = ({ kind, id }: ThingRef) => names.get(`${kind} ${id}`)?.name;
  return {
    count,
    lines: first.flatMap(({ what, where, values }) => {
      const name = nameOf(what);
      return name
        ? [{ kind: what.kind, id: what.id, name, where: (where && nameOf(where)) ?? null, values }]
        : [];
    }),
  };
};

// What a value of a slip names: by its section, else by that of whatever a movement mostly is about.
const kindNamed = ({ catalogue }: Seer, { section, field }: SlipValue): Kind | null => {
  const named = section ? [section] : ['position', 'placement', 'employment', 'unit'];
  for (const name of named) {
    const ref = catalogue.refs(name as SectionName).find((one) => one.field === field);
    if (ref) return ref.kind;
  }
  return null;
};
