// Accounts, the roles given to them, and what somebody sees: for whoever may let others in.
import type { AccountRole, Bound, Day, Gift, GiftOut, Grant, SightOut } from '@gremium/contract';
import {
  accessEndpoints,
  conditionsOf,
  grantOf,
  hiddenFields,
  levelOn,
  may,
  ruleOf,
  scopeWords,
} from '@gremium/contract';
import { BEGINNING, addDays, givenOn, isBefore, isGiven, later, notTheirsToGive } from '@gremium/core';
import type { FastifyInstance } from 'fastify';
import { fail } from '../database/failure';
import { type Db, many, maybeOne, one } from '../database/sql';
import { transaction } from '../database/transaction';
import { serve } from '../serve';
import { todayOf } from '../structure/organisation.sql';
import type { Server } from '../time/act';
import type { Seer } from '../time/catalogues';
import { type Looking, look } from '../time/lens';
import { seenOf } from '../time/seen';
import type { RegisterThread } from '../time/register-thread';
import { refuseCommon } from './access.endpoints';
import { mustAdminister } from './administration';
import { hashPassword, newToken } from './password';
import { scopeNamesOf } from './scope-names.sql';
import * as queries from './session.sql';

const LINK_DAYS = 7;
const PASSWORD_DAYS = 1;

type Line = queries.AccountLine;

const stateOf = ({ active, hasPassword, accessUntil }: Line, today: Day) => {
  if (!active) return 'paused' as const;
  if (accessUntil !== null && isBefore(accessUntil as Bound, today)) return 'ended' as const;
  return hasPassword ? ('active' as const) : ('invited' as const);
};

// A role, a section or a scope that there is not would say nothing, in silence.
const mustBeRoles = (
  { catalogue }: Seer,
  roles: readonly AccountRole[],
  grants: readonly Grant[] = [],
): void => {
  for (const { sections } of grants) for (const name of Object.keys(sections)) catalogue.section(name);
  for (const { role, also = {}, from, lastDay } of roles) {
    if (!ruleOf(role, catalogue)) fail('role_unknown', { named: role }, 'role');
    if (catalogue.roles.get(role)?.values.retired) fail('role_retired', {}, 'role');
    for (const name of Object.keys(also)) catalogue.section(name);
    if (from && lastDay && isBefore(lastDay, from)) fail('gift_days', {}, 'lastDay');
  }
};

// Nobody gives, or takes over by a link of their own, what they do not have themselves.
const mustBeTheirs = (viewer: Seer, grants: readonly Grant[]): void => {
  for (const grant of grants) {
    const more = notTheirsToGive(viewer, grant, viewer.catalogue);
    if (more) fail('gives_more', { given: more }, 'role');
  }
};

const givenBy = ({ catalogue }: Seer, roles: readonly AccountRole[]): Grant[] =>
  roles.map((role) => grantOf(role, catalogue));

/** Serves accounts and gifts. */
export const serveAccounts = (app: FastifyInstance, server: Server, register: RegisterThread): void => {
  const { pool, acts, clock } = server;

  const seerFor = async (line: Line): Promise<Seer> => {
    const seer = await queries.seerOf(pool, server.catalogues, line, clock);
    return server.lines ? server.lines.know({ ...seer, account: line.id }, line.entry) : seer;
  };
  const lineOf = async (db: Db, id: number): Promise<Line> =>
    (await maybeOne<Line>(db, queries.accountLines(id))) ?? fail('thing_unknown', {}, 'id');

  const link = async (db: Db, account: number, days: number) => {
    const { token, tokenHash } = newToken();
    const made = { tokenHash, purpose: 'password' as const, account, days };
    const { expires } = await one<{ expires: never }>(db, queries.insertLink(made, clock.now()));
    return { token, expires };
  };

  // Whatever changes who may let others in is done under one lock, and undone where nobody could any more.
  const changing = <T>(viewer: Seer, change: (tx: Db) => Promise<T>): Promise<T> =>
    transaction(acts, async (tx) => {
      await many(tx, queries.lockAccounts);
      const done = await change(tx);
      await mustAdminister(tx, viewer.catalogue, await todayOf(tx, clock));
      return done;
    });

  serve(app, server, accessEndpoints.accounts, async () => {
    const lines = await many<Line>(pool, queries.accountLines());
    const today = await todayOf(pool, clock);
    const names = await scopeNamesOf(
      pool,
      lines.flatMap(({ roles }) => roles.flatMap(({ scope }) => conditionsOf(scope))),
    );
    return {
      accounts: lines.map((line) => ({
        ...line,
        accessUntil: line.accessUntil === 'infinity' ? null : line.accessUntil,
        state: stateOf(line, today),
        roles: line.roles.map((gift): GiftOut => ({ ...gift, said: scopeWords(gift.scope, names) })),
      })) as never,
    };
  });

  serve(app, server, accessEndpoints.createAccount, async ({ body, viewer }) => {
    if (viewer.personId !== null && viewer.personId === body.personId) fail('own_record', {}, 'personId');
    if (body.password !== null) refuseCommon(body.password);
    mustBeRoles(viewer, body.roles, body.grants);
    mustBeTheirs(viewer, [...givenBy(viewer, body.roles), ...body.grants]);
    const passwordHash = body.password === null ? null : await hashPassword(body.password);
    const by = { by: viewer.email, at: clock.now() };
    const roles = JSON.stringify(body.roles.map((role) => ({ ...role, ...by })));
    const account = { ...body, passwordHash, roles, grants: JSON.stringify(body.grants) };
    return transaction(acts, async (tx) => {
      const { id } = await one<{ id: number }>(tx, queries.insertAccount(account));
      if (passwordHash !== null) return { id, token: null, expires: null };
      return { id, ...(await link(tx, id, LINK_DAYS)) };
    });
  });

  serve(app, server, accessEndpoints.changeAccount, async ({ params: { id }, body, viewer }) => {
    const { grants, ...plain } = body;
    const isRights = grants !== undefined || body.active !== undefined || body.personId !== undefined;
    if (isRights && id === viewer.account) fail('own_record', {}, 'id');
    if (typeof body.personId === 'number' && body.personId === viewer.personId)
      fail('own_record', {}, 'personId');
    mustBeRoles(viewer, [], grants);
    mustBeTheirs(viewer, grants ?? []);
    const to = { ...plain, ...(grants ? { grants: JSON.stringify(grants) } : {}) };
    return changing(viewer, async (tx) => {
      const changed = await maybeOne<{ id: number }>(tx, queries.changeAccount(id, to));
      if (body.active === false) await many(tx, queries.closeSessionsOf(id));
      return changed ?? fail('thing_unknown', {}, 'id');
    });
  });

  serve(app, server, accessEndpoints.passwordLink, async ({ params: { id }, viewer }) => {
    const { hasPassword, roles, grants } = await lineOf(pool, id);
    mustBeTheirs(viewer, [...givenBy(viewer, roles), ...grants]);
    return link(pool, id, hasPassword ? PASSWORD_DAYS : LINK_DAYS);
  });

  const here = { status: 'here' as const, limit: 3, offset: 0 };
  const peopleSeen = (viewer: Seer, looking: Looking) => register.ask('directory', { viewer, looking }, here);
  const undated = ({ role, scope, also }: Gift): Gift => ({ role, scope, ...(also ? { also } : {}) });

  serve(app, server, accessEndpoints.accountSight, async ({ params: { id }, query, viewer }) => {
    const line = await lineOf(pool, id);
    const looking = await look(pool, clock, query);
    const { on } = looking;
    const given = line.roles.flatMap((gift, place) => (isGiven(gift, on) ? [{ gift, place }] : []));
    const seer = await seerFor({ ...line, roles: given.map(({ gift }) => undated(gift)) });
    const conditions = given.flatMap(({ gift }) => conditionsOf(gift.scope));
    const names = await scopeNamesOf(pool, conditions);
    const asked = (grants: Grant[]) => peopleSeen({ ...seer, grants }, looking);
    const seen = await asked(seer.grants);
    const by: SightOut['by'] = [];
    for (const { gift, place } of given) {
      const { total } = await asked(givenBy(seer, [gift]));
      by.push({ gift: place, role: gift.role, said: scopeWords(gift.scope, names), people: total });
    }
    const everybody = await asked(givenBy(seer, [{ role: 'auditor', scope: { type: 'all' } }]));
    const levels = seer.catalogue.names.map((name) => [name, levelOn(seer.grants, name)] as const);
    // names are told as far as whoever asks sees them, too
    const ids = seen.people.map((person) => person.id);
    const mine = new Set(await seenOf(pool, viewer, 'person_name', ids, looking));
    return {
      on,
      people: seen.total,
      of: everybody.total,
      sections: Object.fromEntries(levels.filter(([, level]) => level !== 'none')),
      acts: may(seer).acts,
      hides: [...hiddenFields(seer.grants)],
      by,
      samples: seen.people.flatMap(({ id: person, name }) =>
        mine.has(person) ? [{ id: person, name }] : [],
      ),
    };
  });

  serve(app, server, accessEndpoints.giveRole, async ({ params: { id }, body, viewer }) => {
    if (id === viewer.account) fail('own_record', {}, 'id');
    mustBeRoles(viewer, [body.gift]);
    mustBeTheirs(viewer, givenBy(viewer, [body.gift]));
    const line = await lineOf(pool, id);
    if (line.personId !== null && line.personId === viewer.personId) fail('own_record', {}, 'id');
    const today = await todayOf(pool, clock);
    const on = later(body.gift.from ?? today, today);
    if (body.gift.lastDay && isBefore(body.gift.lastDay, today)) fail('gift_days', {}, 'lastDay');
    if (body.preview) {
      const looking = await look(pool, clock, { on });
      const held = givenOn(line.roles, on);
      const before = await seerFor({ ...line, roles: held.map(undated) });
      const after = await seerFor({ ...line, roles: [...held, body.gift].map(undated) });
      const people = (await peopleSeen(after, looking)).total;
      return { gift: null, on, people, adds: people - (await peopleSeen(before, looking)).total };
    }
    const gift: Gift = {
      ...body.gift,
      ...(body.why ? { why: body.why } : {}),
      by: viewer.email,
      at: clock.now(),
    };
    const { place } = await changing(viewer, (tx) =>
      one<{ place: number }>(tx, queries.addGift(id, JSON.stringify(gift))),
    );
    return { gift: place, on, people: 0, adds: 0 };
  });

  serve(app, server, accessEndpoints.endGift, async ({ params, body, viewer }) => {
    if (params.id === viewer.account) fail('own_record', {}, 'id');
    return changing(viewer, async (tx) => {
      const line = await lineOf(tx, params.id);
      const gift = line.roles[params.gift] ?? fail('gift_unknown', {}, 'gift');
      const today = await todayOf(tx, clock);
      const isOver = gift.lastDay !== undefined && isBefore(gift.lastDay, today);
      if (isOver) fail('gift_over', { day: gift.lastDay as Day }, 'lastDay');
      // at once: yesterday was its last day; what has not begun is taken back so, too
      const lastDay = body.lastDay ?? addDays(today, -1);
      if (body.lastDay !== null && isBefore(body.lastDay, later(gift.from ?? BEGINNING, addDays(today, -1))))
        fail('gift_days', {}, 'lastDay');
      const ended: Gift = { ...gift, lastDay, endedBy: viewer.email, endedAt: clock.now() };
      await many(tx, queries.changeGift(params.id, params.gift, JSON.stringify(ended)));
      return { id: params.id };
    });
  });
};
