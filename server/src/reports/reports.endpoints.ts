import { type ReportKept, type ReportOut, reportEndpoints } from '@gremium/contract';
import type { FastifyInstance } from 'fastify';
import { fail } from '../database/failure';
import { many, maybeOne, one } from '../database/sql';
import { serve } from '../serve';
import type { Server } from '../time/act';
import type { Seer } from '../time/catalogues';
import { look } from '../time/lens';
import type { RegisterThread } from '../time/register-thread';
import { readyMade } from './ready-made';
import { type Kept, insertReport, keptReports, markDeleted, updateReport } from './reports.sql';

// What somebody may do with a report: all with their own, else what it is shared for with them or one of their roles.
const mayOf = ({ account, shared }: Kept, viewer: Seer): 'shape' | 'view' | null => {
  if (account === viewer.account) return 'shape';
  const fitting = shared.filter(
    (share) =>
      share.account === viewer.email || (share.role !== undefined && viewer.holds.includes(share.role)),
  );
  if (fitting.some(({ may }) => may === 'shape')) return 'shape';
  return fitting.length > 0 ? 'view' : null;
};

const outOf = (kept: Kept, viewer: Seer, may: 'shape' | 'view'): ReportOut => {
  const { id, name, folder, tags, shared, view, owner, account, changedAt, deletedAt } = kept;
  return {
    ...{ id, name, folder, tags, view, owner },
    // whom else it is shared with is the business of whoever made it
    shared: account === viewer.account ? shared : [],
    isMine: account === viewer.account,
    mayShape: may === 'shape',
    changedAt: changedAt as ReportOut['changedAt'],
    deletedAt: deletedAt as ReportOut['deletedAt'],
  };
};

const shipped = (language: 'en' | 'de'): ReportOut[] =>
  readyMade.map(({ name, folder, view }, i) => ({
    id: -1 - i,
    name: name[language],
    folder: folder[language],
    tags: [],
    shared: [],
    view,
    owner: null,
    isMine: false,
    mayShape: false,
    changedAt: '2026-01-01T00:00:00.000000Z' as ReportOut['changedAt'],
    deletedAt: null,
  }));

export const serveReports = (app: FastifyInstance, server: Server, register: RegisterThread): void => {
  const { pool, clock } = server;

  serve(app, server, reportEndpoints.reportFields, async ({ query, viewer }) => {
    const looking = await look(pool, clock, {});
    return register.write(
      'reportFields',
      { viewer, looking },
      { subject: query.subject, language: query.language },
    );
  });

  serve(app, server, reportEndpoints.reportChoices, async ({ query, viewer }) => {
    const { subject, field, search, language, ...lens } = query;
    const looking = await look(pool, clock, lens);
    return register.write('reportChoices', { viewer, looking }, { subject, field, search, language });
  });

  serve(app, server, reportEndpoints.runReport, async ({ body, viewer }) => {
    const { view, language, limit, offset, ...lens } = body;
    const looking = await look(pool, clock, lens);
    return register.write('runReport', { viewer, looking }, { view, language, limit, offset });
  });

  serve(app, server, reportEndpoints.matching, async ({ body, viewer }) => {
    const { subject, condition, language, ...lens } = body;
    const looking = await look(pool, clock, lens);
    return register.write('matching', { viewer, looking }, { subject, condition, language });
  });

  // One that the viewer may do this with; to others it is as if it were not there.
  const reach = async (id: number, viewer: Seer, wanted: 'view' | 'shape' | 'own'): Promise<Kept> => {
    const kept = await maybeOne<Kept>(pool, keptReports(id));
    const may = kept && mayOf(kept, viewer);
    if (!kept || !may) return fail('report_unknown', {}, 'id');
    const isEnough =
      wanted === 'view' || (wanted === 'own' ? kept.account === viewer.account : may === 'shape');
    return isEnough ? kept : fail('right_missing', { right: 'report' });
  };

  const read = async (id: number, viewer: Seer): Promise<ReportOut> => {
    const kept = await reach(id, viewer, 'view');
    return outOf(kept, viewer, mayOf(kept, viewer) ?? 'view');
  };

  serve(app, server, reportEndpoints.reports, async ({ query, viewer }) => {
    const kept = await many<Kept>(pool, keptReports());
    const seen = kept.flatMap((one) => {
      const may = mayOf(one, viewer);
      const isGone = one.deletedAt !== null && one.account !== viewer.account;
      return may && !isGone ? outOf(one, viewer, may) : [];
    });
    return { reports: [...seen, ...shipped(query.language ?? viewer.language)] };
  });

  serve(app, server, reportEndpoints.makeReport, async ({ body, viewer }) => {
    const { id } = await one<{ id: number }>(
      pool,
      insertReport(viewer.account, { ...body, at: clock.now() }),
    );
    return read(id, viewer);
  });

  serve(app, server, reportEndpoints.changeReport, async ({ params, body, viewer }) => {
    const kept = await reach(params.id, viewer, 'shape');
    const shared: ReportKept['shared'] = kept.account === viewer.account ? body.shared : kept.shared;
    await one(pool, updateReport(params.id, { ...body, shared, at: clock.now() }));
    return read(params.id, viewer);
  });

  serve(app, server, reportEndpoints.deleteReport, async ({ params, viewer }) => {
    await reach(params.id, viewer, 'own');
    await one(pool, markDeleted(params.id, clock.now()));
    return {};
  });

  serve(app, server, reportEndpoints.restoreReport, async ({ params, viewer }) => {
    await reach(params.id, viewer, 'own');
    await one(pool, markDeleted(params.id, null));
    return read(params.id, viewer);
  });
};
