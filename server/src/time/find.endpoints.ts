import { recordEndpoints } from '@gremium/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../serve';
import type { Server } from './act';
import { look } from './lens';
import type { RegisterThread } from './register-thread';

export const serveFind = (app: FastifyInstance, server: Server, register: RegisterThread): void =>
  serve(app, server, recordEndpoints.find, async ({ query, viewer }) => {
    const { text, free, kind, ...lens } = query;
    const looking = await look(server.pool, server.clock, lens);
    return register.ask('find', { viewer, looking }, { text, free, kind });
  });
