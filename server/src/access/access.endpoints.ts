import { type Viewer, accessEndpoints, presets } from '@gremium/contract';
import { problem } from '@gremium/core';
import type { FastifyInstance, FastifyReply } from 'fastify';
import { Failure } from '../database/failure';
import { many, maybeOne, one } from '../database/sql';
import { COOKIE, serve } from '../serve';
import { organisationNow } from '../structure/organisation.sql';
import type { Server } from '../time/act';
import { hashPassword, hashToken, isPassword, newToken } from './password';
import * as queries from './session.sql';

export type DemoAccount = { email: string; name: string; what: string; password: string };

const cookieOptions = { path: '/', httpOnly: true, sameSite: 'strict' as const };

type AccessOptions = { demoAccounts?: DemoAccount[]; signInsAMinute?: number };

export const serveAccess = (app: FastifyInstance, server: Server, options: AccessOptions): void => {
  const { pool, clock } = server;
  const { demoAccounts = [], signInsAMinute = 20 } = options;
  const limited = { rateLimit: { max: signInsAMinute, timeWindow: '1 minute' } };

  const sessionFor = async (viewer: Viewer) => {
    const { name, today, dateFormat } = await organisationNow(pool, clock);
    return { viewer, today, organisation: name, dateFormat };
  };

  const open = async (viewer: Viewer, old: string | undefined, reply: FastifyReply) => {
    const { token, tokenHash } = newToken();
    if (old) await many(pool, queries.closeSession(hashToken(old)));
    await many(pool, queries.closeIdleSessions(clock.now()));
    await many(pool, queries.openSession(tokenHash, viewer.account, clock.now()));
    reply.setCookie(COOKIE, token, cookieOptions);
  };

  serve(
    app,
    server,
    accessEndpoints.signIn,
    async ({ body, request, reply }) => {
      const account = await maybeOne<queries.AccountRow>(pool, queries.accountByEmail(body.email));
      if (!(await isPassword(account?.passwordHash, body.password)) || !account)
        throw new Failure([problem('sign_in_failed')]);
      const { passwordHash: _, ...viewer } = account;
      await open(viewer, request.cookies[COOKIE], reply);
      return sessionFor(viewer);
    },
    limited,
  );

  serve(app, server, accessEndpoints.whoAmI, async ({ viewer }) => sessionFor(viewer));

  serve(app, server, accessEndpoints.signOut, async ({ request, reply }) => {
    const token = request.cookies[COOKIE];
    if (token) await many(pool, queries.closeSession(hashToken(token)));
    reply.clearCookie(COOKIE, cookieOptions);
    return {};
  });

  serve(app, server, accessEndpoints.entrance, async () => ({
    organisation: (await organisationNow(pool, clock)).name,
    demoAccounts,
  }));

  serve(
    app,
    server,
    accessEndpoints.firstAdministrator,
    async ({ body }) => {
      const { token, email, name, password } = body;
      const passwordHash = await hashPassword(password);
      const used = await maybeOne(
        pool,
        queries.useLink(hashToken(token), 'first_administrator', clock.now()),
      );
      if (!used) throw new Failure([problem('link_used', {}, 'token')]);
      const grants = JSON.stringify(presets.administrator());
      await one(
        pool,
        queries.insertAccount({ email, name, language: 'en', passwordHash, personId: null, grants }),
      );
      return { email };
    },
    limited,
  );

  serve(app, server, accessEndpoints.accounts, async () => ({
    accounts: await many<queries.AccountLine>(pool, queries.listAccounts),
  }));

  serve(app, server, accessEndpoints.createAccount, async ({ body, viewer }) => {
    if (viewer.personId !== null && viewer.personId === body.personId)
      throw new Failure([problem('own_record', {}, 'personId')]);
    const passwordHash = await hashPassword(body.password);
    const grants = JSON.stringify(body.grants);
    return one<{ id: number }>(pool, queries.insertAccount({ ...body, passwordHash, grants }));
  });
};

/** Makes the one-time link by which the first administrator of an empty database is made; null if there are accounts. */
export const firstAdministratorLink = async ({ pool, clock }: Server): Promise<string | null> => {
  const accounts = await many(pool, queries.listAccounts);
  if (accounts.length > 0) return null;
  const { token, tokenHash } = newToken();
  await many(pool, queries.insertLink(tokenHash, 'first_administrator', clock.now()));
  return token;
};
