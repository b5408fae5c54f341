import { structureEndpoints } from '@gremium/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../serve';
import type { Server } from '../time/act';
import { look } from '../time/lens';
import { failMissing } from '../time/missing';
import { readPosition, readRecord, readThing } from '../time/read-record';
import type { RegisterThread } from '../time/register-thread';

export const serveStructure = (app: FastifyInstance, server: Server, register: RegisterThread): void => {
  const { pool, clock } = server;

  serve(app, server, structureEndpoints.outline, async ({ query, viewer }) => {
    const looking = await look(pool, clock, query);
    const { levels, turned } = query;
    return register.write('outline', { viewer, looking }, { levels, turned });
  });

  serve(app, server, structureEndpoints.positions, async ({ query, viewer }) => {
    const looking = await look(pool, clock, query);
    const { unit, branch, free, job, least, which } = query;
    return register.write('positions', { viewer, looking }, { unit, branch, free, job, least, which });
  });

  serve(app, server, structureEndpoints.positionRecord, async ({ params, query, viewer }) => {
    const looking = await look(pool, clock, query);
    const rows = await readPosition(pool, viewer, looking, params.id);
    if (!rows.some(({ section }) => section === 'position'))
      await failMissing(pool, viewer, { kind: 'position', id: params.id, section: 'position' }, looking);
    const record = await readRecord(pool, viewer, looking, rows);
    return { ...record, ...(await register.ask('aroundPosition', { viewer, looking }, params.id)) };
  });

  serve(app, server, structureEndpoints.unitRecord, async ({ params, query, viewer }) => {
    const looking = await look(pool, clock, query);
    const rows = await readThing(pool, viewer, looking, 'unit', params.id);
    if (!rows.some(({ section }) => section === 'unit'))
      await failMissing(pool, viewer, { kind: 'unit', id: params.id, section: 'unit' }, looking);
    const record = await readRecord(pool, viewer, looking, rows);
    return { ...record, ...(await register.ask('aroundUnit', { viewer, looking }, params.id)) };
  });

  serve(app, server, structureEndpoints.organisationRecord, async ({ params, query, viewer }) => {
    const looking = await look(pool, clock, query);
    const of = { kind: 'organisation', id: params.id, section: 'organisation' } as const;
    const rows = await readThing(pool, viewer, looking, of.kind, of.id);
    if (rows.length === 0) await failMissing(pool, viewer, of, looking);
    return { ...(await readRecord(pool, viewer, looking, rows)), managers: [] };
  });

  serve(app, server, structureEndpoints.jobRecord, async ({ params, query, viewer }) => {
    const looking = await look(pool, clock, query);
    const rows = await readThing(pool, viewer, looking, 'job', params.id);
    if (!rows.some(({ section }) => section === 'job'))
      await failMissing(pool, viewer, { kind: 'job', id: params.id, section: 'job' }, looking);
    const record = await readRecord(pool, viewer, looking, rows);
    return { ...record, managers: [], ...(await register.ask('aroundJob', { viewer, looking }, params.id)) };
  });

  serve(app, server, structureEndpoints.gradeRecord, async ({ params, query, viewer }) => {
    const looking = await look(pool, clock, query);
    const of = { kind: 'grade', id: params.id, section: 'grade' } as const;
    const rows = await readThing(pool, viewer, looking, of.kind, of.id);
    if (!rows.some(({ section }) => section === 'grade')) await failMissing(pool, viewer, of, looking);
    const record = await readRecord(pool, viewer, looking, rows);
    return {
      ...record,
      managers: [],
      ...(await register.ask('aroundGrade', { viewer, looking }, params.id)),
    };
  });

  serve(app, server, structureEndpoints.stepsDue, async ({ query, viewer }) => {
    const looking = await look(pool, clock, query);
    const { by, grade } = query;
    return register.ask('stepsDue', { viewer, looking }, { by, grade });
  });
};
