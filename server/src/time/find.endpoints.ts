import { type Found, recordEndpoints } from '@gremium/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../serve';
import type { Server } from './act';
import { look } from './lens';
import type { RegisterThread } from './register-thread';

export const serveFind = (app: FastifyInstance, server: Server, register: RegisterThread): void => {
  serve(app, server, recordEndpoints.find, async ({ query, viewer }) => {
    const { text, free, kind, unit, ...lens } = query;
    const looking = await look(server.pool, server.clock, lens);
    return register.ask('find', { viewer, looking }, { text, free, kind, unit });
  });
  serve(app, server, recordEndpoints.named, async ({ query, viewer }) => {
    const { of, ...lens } = query;
    const looking = await look(server.pool, server.clock, lens);
    const refs = of.split(',').map((one) => one.split(':') as [Found['kind'], string]);
    return register.ask(
      'named',
      { viewer, looking },
      refs.map(([kind, id]) => ({ kind, id: Number(id) })),
    );
  });
};
