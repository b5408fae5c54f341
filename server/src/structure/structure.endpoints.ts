import { structureEndpoints } from '@gremium/contract';
import type { FastifyInstance } from 'fastify';
import { fail } from '../database/failure';
import { serve } from '../serve';
import type { Server } from '../time/act';
import { look } from '../time/lens';
import { readHistory, readRecord } from '../time/read-record';
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
    const { unit, branch, free } = query;
    return register.write('positions', { viewer, looking }, { unit, branch, free });
  });

  serve(app, server, structureEndpoints.positionRecord, async ({ params, query, viewer }) => {
    const looking = await look(pool, clock, query);
    const itself = { field: 'thing', ids: [params.id] } as const;
    const rows = await readHistory(pool, viewer, looking, [
      ['position', itself],
      ['position_limits', itself],
      ['placement', { field: 'positionId', ids: [params.id] }],
    ]);
    if (!rows.some(({ section }) => section === 'position')) fail('record_hidden', { kind: 'position' });
    const employments = rows
      .filter(({ section }) => section === 'placement')
      .map(({ values }) => (values as { employmentId: number }).employmentId);
    rows.push(
      ...(await readHistory(pool, viewer, looking, [
        ['employment', { field: 'thing', ids: [...new Set(employments)] }],
      ])),
    );
    const record = await readRecord(pool, viewer, looking, rows);
    return { ...record, ...(await register.ask('aroundPosition', { viewer, looking }, params.id)) };
  });
};
