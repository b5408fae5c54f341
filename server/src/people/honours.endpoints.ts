import { type AccountRole, type Grant, type Moment, grantsOf, honourEndpoints, may } from '@gremium/contract';
import { earlier, givenOn, startOfMonth } from '@gremium/core';
import type { FastifyInstance } from 'fastify';
import { accountsBesideCrew } from '../access/session.sql';
import { many } from '../database/sql';
import { serve } from '../serve';
import { todayOf } from '../structure/organisation.sql';
import type { Server } from '../time/act';
import { look } from '../time/lens';
import type { RegisterThread } from '../time/register-thread';

const MOST_NAMES = 20;

type Account = { name: string; roles: AccountRole[]; grants: Grant[] };

/** Honours that are due, rights on sections, figures of declared facts. */
export const serveHonours = (app: FastifyInstance, server: Server, register: RegisterThread): void => {
  const { pool, clock } = server;

  serve(app, server, honourEndpoints.honoursDue, async ({ query, viewer }) => {
    const { by, honour, ...lens } = query;
    return register.ask('honoursDue', { viewer, looking: await look(pool, clock, lens) }, { by, honour });
  });

  serve(app, server, honourEndpoints.whoMay, async ({ params: { section }, viewer }) => {
    viewer.catalogue.section(section);
    // of what one may not see it is not said who does
    if (!may(viewer).view(section)) return { see: [], record: [] };
    const accounts = await many<Account>(pool, accountsBesideCrew);
    const today = await todayOf(pool, clock);
    const who = (level: 'view' | 'edit') =>
      accounts
        .filter(({ roles, grants }) =>
          may({ grants: grantsOf({ roles: givenOn(roles, today), grants }, viewer.catalogue) }).has(
            section,
            level,
          ),
        )
        .map(({ name }) => name)
        .slice(0, MOST_NAMES);
    return { see: who('view'), record: who('edit') };
  });

  // by the day, or by what was recorded since, two figures would tell of one person: both clocks stand on the first of a month
  serve(app, server, honourEndpoints.declaredFigures, async ({ query, viewer }) => {
    const { today } = await look(pool, clock, {});
    const first = startOfMonth(earlier(query.on ?? today, today));
    const looking = await look(pool, clock, { on: first, recordedBy: `${first}T00:00:00.000000Z` as Moment });
    return register.ask('declaredFigures', { viewer, looking }, {});
  });
};
