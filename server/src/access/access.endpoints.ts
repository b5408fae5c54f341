import { accessEndpoints } from '@gremium/contract';
import { problem } from '@gremium/core';
import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import { Failure, fail } from '../database/failure';
import { many, maybeOne, one } from '../database/sql';
import { transaction } from '../database/transaction';
import { COOKIE, serve } from '../serve';
import { organisationNow } from '../structure/organisation.sql';
import { shipLists } from '../structure/ship-lists';
import type { Server } from '../time/act';
import type { Seer } from '../time/catalogues';
import { isCommon } from './common-passwords';
import { beginTry, forgive, succeed } from './limit-tries';
import { hashPassword, hashToken, isPassword, newToken } from './password';
import * as queries from './session.sql';

export type DemoAccount = { email: string; name: string; what: string; password: string };

// Behind TLS, also where a trusted proxy ends it, the cookie goes over TLS only.
const cookieFor = (request: FastifyRequest) => ({
  path: '/',
  httpOnly: true,
  sameSite: 'strict' as const,
  secure: request.protocol === 'https',
});

type AccessOptions = { demoAccounts?: DemoAccount[]; signInsAMinute?: number };

const FIRST_DAYS = 7;

/** Refuses a password that many have. */
export const refuseCommon = (password: string): void => {
  if (isCommon(password)) fail('password_common', {}, 'password');
};

export const serveAccess = (app: FastifyInstance, server: Server, options: AccessOptions): void => {
  const { pool, acts, clock } = server;
  const { demoAccounts = [], signInsAMinute = 20 } = options;
  const limited = { rateLimit: { max: signInsAMinute, timeWindow: '1 minute' } };

  const sessionFor = async (viewer: Seer) => {
    const { name, timeZone: _, ...settings } = await organisationNow(pool, clock);
    return { viewer, organisation: name, ...settings };
  };

  const open = async (viewer: Seer, request: FastifyRequest, reply: FastifyReply) => {
    const { token, tokenHash } = newToken();
    const old = request.cookies[COOKIE];
    if (old) await many(pool, queries.closeSession(hashToken(old)));
    await many(pool, queries.openSession(tokenHash, viewer.account, clock.now()));
    await many(pool, queries.sawAccount(viewer.account, clock.now()));
    reply.setCookie(COOKIE, token, cookieFor(request));
  };

  serve(app, server, accessEndpoints.signIn, async ({ body, request, reply }) => {
    const attempt = await beginTry(pool, clock, {
      email: body.email,
      address: request.ip,
      mostFrom: 5 * signInsAMinute,
    });
    const account = await maybeOne<queries.AccountRow>(pool, queries.accountByEmail(body.email));
    if (!(await isPassword(account?.passwordHash, body.password)) || !account)
      throw new Failure([problem('sign_in_failed')]);
    await succeed(pool, clock, attempt);
    const { passwordHash: _, ...kept } = account;
    if (!(await queries.isLetIn(pool, clock, kept))) throw new Failure([problem('access_ended')]);
    const viewer = await queries.seerOf(pool, server.catalogues, kept, clock);
    await open(viewer, request, reply);
    return sessionFor(viewer);
  });

  serve(app, server, accessEndpoints.whoAmI, async ({ viewer }) => sessionFor(viewer));

  serve(app, server, accessEndpoints.signOut, async ({ request, reply }) => {
    const token = request.cookies[COOKIE];
    if (token) await many(pool, queries.closeSession(hashToken(token)));
    reply.clearCookie(COOKIE, cookieFor(request));
    return {};
  });

  serve(app, server, accessEndpoints.entrance, async () => {
    const { name, logo } = await organisationNow(pool, clock);
    if (demoAccounts.length === 0) return { organisation: name, logo, demoAccounts };
    // only those that are here, as they are called here: an organisation of its own has none
    const emails = demoAccounts.map(({ email }) => email);
    const here = new Map(
      (await many<{ email: string; name: string }>(pool, queries.accountsCalled(emails))).map((one) => [
        one.email,
        one,
      ]),
    );
    return {
      organisation: name,
      logo,
      demoAccounts: demoAccounts.flatMap((account) => {
        const found = here.get(account.email);
        return found ? { ...account, name: found.name } : [];
      }),
    };
  });

  serve(
    app,
    server,
    accessEndpoints.firstAdministrator,
    async ({ body }) => {
      const { token, email, name, password } = body;
      refuseCommon(password);
      const passwordHash = await hashPassword(password);
      const roles = JSON.stringify([{ role: 'administrator', scope: { type: 'all' } }]);
      await transaction(acts, async (tx) => {
        await many(tx, queries.lockAccounts);
        const { count } = await one<{ count: number }>(tx, queries.administrators);
        const used = await maybeOne(
          tx,
          queries.useLink(hashToken(token), 'first_administrator', clock.now()),
        );
        // once somebody may let others in, no such link lets anybody in
        if (!used || count > 0) fail('link_used', {}, 'token');
        const account = { email, name, language: 'en', passwordHash, personId: null, roles, grants: '[]' };
        await one(tx, queries.insertAccount(account));
      });
      const kept = await maybeOne<queries.AccountRow>(pool, queries.accountByEmail(email));
      if (kept) await shipLists(server, await queries.seerOf(pool, server.catalogues, kept, clock));
      return { email };
    },
    limited,
  );

  serve(
    app,
    server,
    accessEndpoints.setPassword,
    async ({ body, request }) => {
      refuseCommon(body.password);
      const passwordHash = await hashPassword(body.password);
      return transaction(acts, async (tx) => {
        const used = await maybeOne<{ account: number }>(
          tx,
          queries.useLink(hashToken(body.token), 'password', clock.now()),
        );
        if (!used) return fail('link_used', {}, 'token');
        const account = await maybeOne<{ email: string }>(
          tx,
          queries.setPassword(used.account, passwordHash),
        );
        if (!account) return fail('link_used', {}, 'token');
        await many(tx, queries.closeSessionsOf(used.account));
        await forgive(tx, account.email, request.ip);
        return account;
      });
    },
    limited,
  );
};

/** Makes the one-time link by which the first administrator of an empty database is made; null if there are accounts. */
export const firstAdministratorLink = async ({
  pool,
  clock,
}: Pick<Server, 'pool' | 'clock'>): Promise<string | null> => {
  const accounts = await many(pool, queries.anyAccount);
  if (accounts.length > 0) return null;
  const { token, tokenHash } = newToken();
  const link = { tokenHash, purpose: 'first_administrator' as const, account: null, days: FIRST_DAYS };
  await many(pool, queries.insertLink(link, clock.now()));
  return token;
};
