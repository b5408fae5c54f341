// Movements on their way, served: who may see which follows from the right of its kind over what it is about.
import {
  type Day,
  type Moved,
  type SectionName,
  type SlipValue,
  type MovementAct,
  type MovementInput,
  type MovementLine,
  type MovementSheet,
  type MovementStanding,
  type Problem,
  type SayingOut,
  MOVEMENTS_AT_ONCE,
  gives,
  hiddenFields,
  keptIn,
  movementOf,
  type Values,
  may,
  onTheirWayEndpoints,
  saidPaths,
} from '@gremium/contract';
import { addDays, isBefore, isError, problem, spokenName } from '@gremium/core';
import type { FastifyInstance } from 'fastify';
import { seerOf, viewerOfAccount } from '../access/session.sql';
import { reachOf } from '../access/scope.sql';
import type { Kept } from '../access/session.sql';
import { Failure, fail } from '../database/failure';
import { type Db, many, maybeOne, one } from '../database/sql';
import { transaction } from '../database/transaction';
import { serve } from '../serve';
import { todayOf } from '../structure/organisation.sql';
import type { Acted, Server } from '../time/act';
import type { Seer } from '../time/catalogues';
import { labelled, namesFor } from '../time/labels';
import { look } from '../time/lens';
import type { RegisterThread } from '../time/register-thread';
import { undoneAmong } from '../time/undo';
import { type Result, carryOut, move, wire } from './move';
import * as queries from './on-their-way.sql';

// So many days ahead what is to be said is shown among what waits.
const SOON_DAYS = 14;
const MOST_OPEN = 300;

type Undone = Map<number, { number: number }>;

// What was said with an entry that was undone is to be said again.
const sayingsOf = ({ sayings }: queries.Line, undone: Undone): SayingOut[] =>
  sayings.map(({ entryId, ...saying }) =>
    entryId !== null && undone.has(entryId) ? { ...saying, said: null, saidAt: null, saidBy: null } : saying,
  );

// Somebody who is to be hired: their name is said to whoever hires there and sees names, once it was handed in.
const whomOf = (viewer: Seer, { account, state, input, byRight }: queries.Line): string | null => {
  const { person } = input as { person?: { name?: Values<'person_name'> } };
  const isTheirs = account === viewer.account || (state === 'conditions_open' && byRight);
  const name = isTheirs && state !== 'recorded' && may(viewer).view('person_name') && person?.name;
  return name ? spokenName(name) : null;
};

// Whoever goes on with one reads all that is written in it: refused where that names a field they do not see wherever they may do it.
const mustSeeAllOf = (viewer: Seer, { kind, input, typed }: queries.Line): void => {
  const given = may(viewer).with(movementOf(kind).right);
  const hidden = hiddenFields(viewer.grants);
  const isSeen = (field: string) =>
    !hidden.has(field) &&
    given.every((grant) => gives(grant, field.slice(0, field.lastIndexOf('.')), 'view'));
  const path = [...saidPaths(input), ...Object.keys(typed)].find((one) => !keptIn(kind, one).every(isSeen));
  if (path !== undefined) fail('field_not_yours', { field: path }, `input.${path}`);
};

// Whether the viewer sees anything of a section of a thing; of one that is not recorded yet, whether they see all.
const mayRead = async (
  db: Db,
  viewer: Seer,
  { section, thing, today }: { section: SectionName; thing: number | null; today: Day },
): Promise<boolean> => {
  const reach = reachOf(viewer, section, today);
  if (reach === 'all' || reach === 'nothing') return reach === 'all';
  return thing !== null && (await maybeOne(db, queries.isReached(reach, thing))) !== undefined;
};

const standingOf = (
  line: queries.Line,
  open: readonly SayingOut[],
  undone: Undone,
  today: Day,
): MovementStanding => {
  if (line.state === 'draft') return 'preparation';
  if (line.state === 'conditions_open') return 'conditions_open';
  if (line.entryId !== null && undone.has(line.entryId)) return 'undone';
  if (open.some(({ planned }) => isBefore(planned, today))) return 'late';
  return open.some(({ planned }) => !isBefore(addDays(today, SOON_DAYS), planned)) ? 'to_say' : 'recorded';
};

export const serveMovementsOnTheirWay = (
  app: FastifyInstance,
  server: Server,
  register: RegisterThread,
): void => {
  const { pool, clock } = server;

  const undoneOf = async (lines: readonly queries.Line[]): Promise<Undone> => {
    const ids = lines.flatMap(({ entryId, sayings }) => [entryId, ...sayings.map((one) => one.entryId)]);
    const known = ids.filter((id): id is number => id !== null);
    return known.length === 0 ? new Map() : undoneAmong(pool, known);
  };

  const outward = async (viewer: Seer, lines: readonly queries.Line[]): Promise<MovementLine[]> => {
    const looking = await look(pool, clock, {});
    const refs = lines.map(({ about }) => {
      const [kind, id] = about.split(' ') as [string, string];
      return { kind: kind as 'person', id: Number(id) };
    });
    const names = await namesFor(pool, viewer, refs, looking);
    const undone = await undoneOf(lines);
    return lines.map((line, i) => {
      const ref = refs[i] as (typeof refs)[number];
      const found = names.get(`${ref.kind} ${ref.id}`);
      const day = line.input[movementOf(line.kind).day.field];
      const open = sayingsOf(line, undone).filter(({ said }) => said === null);
      return {
        id: line.id,
        key: line.key,
        kind: line.kind,
        standing: standingOf(line, open, undone, looking.today),
        about: found ? { ...ref, name: found.name } : null,
        whom: whomOf(viewer, line),
        aboutKind: ref.kind,
        aboutId: ref.id,
        day: typeof day === 'string' && /^\d{4}-\d\d-\d\d$/.test(day) ? (day as Day) : null,
        requester: line.requester,
        isMine: line.account === viewer.account,
        keptAt: line.keptAt,
        entry: line.entry,
        open: line.entryId !== null && undone.has(line.entryId) ? [] : open,
        conditions: {
          met: line.conditions.filter(({ metAt }) => metAt !== null).length,
          all: line.conditions.length,
        },
      };
    });
  };

  const find = async (viewer: Seer, id: number): Promise<queries.Line> => {
    const today = await todayOf(pool, clock);
    return (
      (await maybeOne<queries.Line>(pool, queries.lineBy(viewer, today, id))) ?? fail('movement_unknown')
    );
  };

  // Whatever is done with one is done by whoever has its right in that part.
  const findTheirs = async (viewer: Seer, id: number, revision: number): Promise<queries.Line> => {
    const line = await find(viewer, id);
    if (!line.byRight) {
      const { right } = movementOf(line.kind);
      fail('right_missing', { right: Object.values(right).join(' ') });
    }
    return line.revision === revision ? line : fail('movement_turned');
  };

  serve(app, server, onTheirWayEndpoints.movementLines, async ({ query, viewer }) => {
    const today = await todayOf(pool, clock);
    const narrowing = { kind: query.kind ?? null, text: query.text.trim() };
    const { offset } = query;
    const limit = MOVEMENTS_AT_ONCE;
    const isFirst = offset === 0;
    const until = addDays(today, SOON_DAYS) as Day;
    const open = isFirst
      ? await many<queries.Line>(pool, queries.openLines(viewer, today, narrowing, MOST_OPEN))
      : [];
    const unsaid = isFirst
      ? await many<queries.Line>(
          pool,
          queries.unsaidLines(viewer, today, { until, limit: MOST_OPEN, ...narrowing }),
        )
      : [];
    const recorded = await many<queries.Line>(
      pool,
      queries.recordedLines(viewer, today, { offset, limit: limit + 1, ...narrowing }),
    );
    const known = new Set([...open, ...unsaid].map(({ id }) => id));
    const all = [...open, ...unsaid, ...recorded.slice(0, limit).filter(({ id }) => !known.has(id))];
    return { lines: await outward(viewer, all), more: recorded.length > limit };
  });

  // Each value by the rights of its section, over whom it is of.
  const seenOfIt = async (viewer: Seer, line: queries.Line, acted: Acted<Result>): Promise<Moved> => {
    const moved = await wire({ server, register, viewer }, line.kind, acted);
    if (line.account === viewer.account) return moved;
    const things: Partial<Record<string, number>> = {
      person: acted.result.things.personId,
      employment: acted.result.things.employmentId,
      position: acted.result.things.positionId,
      unit: acted.result.things.unitId,
      placement: acted.result.things.placementId,
    };
    const today = await todayOf(pool, clock);
    const lines = moved.concerned?.lines ?? [];
    const values = [...moved.slip, ...lines.flatMap((one) => one.values)];
    const sections = [...new Set(values.map(({ section }) => section ?? 'placement'))] as SectionName[];
    const hidden = new Set<string>();
    for (const section of sections) {
      const { kind } = viewer.catalogue.anchor(section);
      if (!(await mayRead(pool, viewer, { section, thing: things[kind] ?? null, today })))
        hidden.add(section);
    }
    const isSeen = ({ section }: SlipValue) => !hidden.has(section ?? 'placement');
    return {
      ...moved,
      // warnings say amounts and what somebody lacks: they are the requester's to answer
      problems: [],
      slip: moved.slip.filter(isSeen),
      ...(moved.concerned
        ? {
            concerned: {
              ...moved.concerned,
              lines: lines.map((one) => ({ ...one, values: one.values.filter(isSeen) })),
            },
          }
        : {}),
    };
  };

  // What stops it, in the names that the viewer may see.
  const stopping = async (viewer: Seer, problems: readonly Problem[]): Promise<Problem[]> =>
    labelled(pool, viewer, problems.filter(isError), await look(pool, clock, {}));

  const asItWouldBe = async (
    viewer: Seer,
    line: queries.Line,
  ): Promise<{ result: MovementSheet['result']; problems: Problem[] }> => {
    if (line.state === 'recorded') {
      const { result } = await one<{ result: Result | null }>(pool, queries.resultOf(line.id));
      if (!result) return { result: null, problems: [] };
      const acted = { entry: line.entry, problems: [], looked: [], touched: [], result };
      return { result: await seenOfIt(viewer, line, acted), problems: [] };
    }
    // what somebody else is still writing is theirs
    if (line.state === 'draft') return { result: null, problems: [] };
    try {
      const asked = { kind: line.kind, input: line.input as MovementInput, preview: true, words: {} };
      const requester = await requesterOf(line);
      const acted = await carryOut({ server, register, viewer: requester }, asked);
      const result = await seenOfIt(viewer, line, acted);
      return { result, problems: await stopping(viewer, acted.problems) };
    } catch (error) {
      if (!(error instanceof Failure)) throw error;
      return { result: null, problems: await stopping(viewer, error.problems) };
    }
  };

  serve(app, server, onTheirWayEndpoints.movementSheet, async ({ params, viewer }) => {
    const found = await find(viewer, params.id);
    const [line] = await outward(viewer, [found]);
    const undone = await undoneOf([found]);
    return {
      line: line as MovementLine,
      revision: found.revision,
      ...(await asItWouldBe(viewer, found)),
      undoneBy: undone.get(found.entryId ?? 0)?.number ?? null,
      sayings: sayingsOf(found, undone),
      conditions: found.conditions,
      acts: await many<MovementAct>(pool, queries.actsOf(found.id)),
      may: found.byRight,
    };
  });

  serve(app, server, onTheirWayEndpoints.sayMovement, async ({ params, body, viewer }) => {
    const line = await findTheirs(viewer, params.id, body.revision);
    const undone = await undoneOf([line]);
    const saying = sayingsOf(line, undone).find(({ what }) => what === body.what);
    if (!saying || line.state !== 'recorded') return fail('value_invalid', {}, 'what');
    if (line.entryId !== null && undone.has(line.entryId)) return fail('movement_turned');
    if (saying.said !== null) return fail('already_said', {}, 'what');
    const day = body.day ?? saying.planned;
    const today = await todayOf(pool, clock);
    if (isBefore(today, day)) return fail('not_yet_happened', { day }, 'day');
    // where the register follows the real day, that is a movement of its own
    const isHire = line.kind === 'hire' || line.kind === 'rehire';
    if (body.what !== 'left' && !isHire && day !== saying.planned) return fail('value_invalid', {}, 'day');
    await transaction(server.acts, async (tx) => {
      const states = { revision: body.revision, from: ['recorded'], to: {} };
      if (!(await maybeOne(tx, queries.turn(line.id, states)))) fail('movement_turned');
      const at = clock.now();
      const { account } = viewer;
      await many(tx, queries.say(line.id, { what: body.what, day, at, account }));
      await many(tx, queries.addAct(line.id, { account, at, act: body.what, day, word: body.word ?? null }));
    });
    return {};
  });

  // Whoever asked for it: the entry is theirs, and so are the rights that count.
  const requesterOf = async ({ account }: queries.Line): Promise<Seer> => {
    const kept = await maybeOne<Kept>(pool, viewerOfAccount(account));
    if (!kept) return fail('right_missing', {});
    const seer = await seerOf(pool, server.catalogues, kept, clock);
    return (await server.lines?.know(seer, kept.entry)) ?? seer;
  };

  // All conditions are met: recorded if everything still holds, else it says what does not.
  const record = async (
    line: queries.Line,
    ticking: Seer,
  ): Promise<{ entry: number | null; problems: Problem[] }> => {
    try {
      const viewer = await requesterOf(line);
      const { kind, key, words } = line;
      const asked = { kind, input: line.input as MovementInput, preview: false, words, key };
      const { entry } = await move({ server, register, viewer }, asked);
      return { entry, problems: [] };
    } catch (error) {
      if (!(error instanceof Failure)) throw error;
      const act = { account: line.account, at: clock.now(), act: 'sent_back' };
      const word = error.problems.map(({ code }) => code).join(', ');
      await many(pool, queries.addAct(line.id, { ...act, word }));
      return { entry: null, problems: await stopping(ticking, error.problems) };
    }
  };

  serve(app, server, onTheirWayEndpoints.tickCondition, async ({ params, body, viewer }) => {
    const line = await findTheirs(viewer, params.id, body.revision);
    const condition = line.conditions.find(({ place }) => place === body.place);
    if (!condition || line.state !== 'conditions_open') return fail('value_invalid', {}, 'place');
    const at = clock.now();
    const { account } = viewer;
    await transaction(server.acts, async (tx) => {
      const states = { revision: body.revision, from: ['conditions_open'], to: {} };
      if (!(await maybeOne(tx, queries.turn(line.id, states)))) fail('movement_turned');
      const met = body.met ? { at, account } : { at: null, account: null };
      await many(tx, queries.tick(line.id, { place: body.place, ...met }));
      const act = body.met ? 'condition_met' : 'condition_open';
      await many(tx, queries.addAct(line.id, { account, at, act, word: condition.line }));
    });
    const now = await find(viewer, params.id);
    const isMet = now.conditions.every(({ metAt }) => metAt !== null);
    return isMet ? record(now, viewer) : { entry: null, problems: [] };
  });

  serve(app, server, onTheirWayEndpoints.takeOver, async ({ params, body, viewer }) => {
    const line = await findTheirs(viewer, params.id, body.revision);
    mustSeeAllOf(viewer, line);
    const { account } = viewer;
    const found = await transaction(server.acts, async (tx) => {
      const from = ['draft', 'conditions_open'];
      const turned = await maybeOne<{ key: string }>(
        tx,
        queries.turn(line.id, { revision: body.revision, from, to: { account } }),
      );
      if (!turned) throw new Failure([problem('movement_turned')]);
      await many(
        tx,
        queries.addAct(line.id, { account, at: clock.now(), act: 'taken_over', word: line.requester }),
      );
      return turned;
    });
    return { key: found.key };
  });

  serve(app, server, onTheirWayEndpoints.takeBack, async ({ params, body, viewer }) => {
    const line = await find(viewer, params.id);
    if (line.account !== viewer.account) return fail('right_missing', {});
    await transaction(server.acts, async (tx) => {
      const states = { revision: body.revision, from: ['conditions_open'], to: { state: 'draft' } };
      if (!(await maybeOne(tx, queries.turn(line.id, states)))) fail('movement_turned');
      await many(
        tx,
        queries.addAct(line.id, { account: viewer.account, at: clock.now(), act: 'taken_back' }),
      );
    });
    return {};
  });
};
