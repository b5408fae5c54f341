import { existsSync } from 'node:fs';
import { setTimeout } from 'node:timers/promises';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import cookie from '@fastify/cookie';
import helmet from '@fastify/helmet';
import rateLimit from '@fastify/rate-limit';
import fastifyStatic from '@fastify/static';
import swagger from '@fastify/swagger';
import swaggerUi from '@fastify/swagger-ui';
import { type ProblemCode, type ProblemDetails, problemCodes } from '@gremium/contract';
import { problem } from '@gremium/core';
import fastify, { type FastifyInstance, type FastifyReply, type FastifyRequest } from 'fastify';
import {
  hasZodFastifySchemaValidationErrors,
  jsonSchemaTransform,
  serializerCompiler,
  validatorCompiler,
} from 'fastify-type-provider-zod';
import { type DemoAccount, serveAccess } from './access/access.endpoints';
import { Failure, problemOf, unavailable } from './database/failure';
import { serveFiles } from './files/files.endpoints';
import { serveKeptFiles } from './files/kept-files.endpoints';
import { serveTakeOuts } from './files/take-outs.endpoints';
import { WorkNews } from './files/work-news';
import { serveMeasures } from './measures/measures.endpoints';
import { inProject } from './parts';
import { serveReports } from './reports/reports.endpoints';
import { serveDrafts } from './movements/draft.endpoints';
import { serveMovements } from './movements/movement.endpoints';
import { serveMovementsOnTheirWay } from './movements/on-their-way.endpoints';
import { serveHonours } from './people/honours.endpoints';
import { servePictures } from './people/pictures.endpoints';
import { servePeople } from './people/people.endpoints';
import { serveCalendar } from './structure/calendar.endpoints';
import { serveLists } from './structure/lists.endpoints';
import { serveOwnValues } from './structure/own-values.endpoints';
import { serveStructure } from './structure/structure.endpoints';
import type { Server } from './time/act';
import { serveCatalogue } from './time/catalogue.endpoints';
import { serveFind } from './time/find.endpoints';
import { keepTidy } from './time/housekeeping';
import { serveJournal } from './time/journal.endpoints';
import { serveRecords } from './time/records.endpoints';
import { serveAccounts } from './access/accounts.endpoints';
import { LinesKept } from './access/lines-below';
import { RegisterThread } from './time/register-thread';

declare module 'fastify' {
  interface FastifyInstance {
    /** Resolves once the register is loaded; what is asked before is answered later, or told `starting`. */
    registerReady: () => Promise<void>;
  }
}

const dist = fileURLToPath(inProject('web/dist'));

export type Options = {
  demoAccounts?: DemoAccount[];
  signInsAMinute?: number;
  log?: boolean;
  loadRegister?: boolean;
  /** Addresses of proxies whose word about the caller's address and protocol is taken. */
  trustedProxies?: string[];
};

/** The whole application over one database. */
export const makeApp = async (server: Server, options: Options = {}): Promise<FastifyInstance> => {
  const app = fastify({
    logger: options.log ? { level: 'warn' } : false,
    bodyLimit: 2_000_000,
    trustProxy: options.trustedProxies ?? false,
    routerOptions: { maxParamLength: 200 },
    // a request that never ends, or a connection that nobody uses, holds nothing for long
    requestTimeout: 120_000,
    keepAliveTimeout: 30_000,
    frameworkErrors: (error, request, reply) => sendProblem(error, request, reply),
  });
  app.setValidatorCompiler(validatorCompiler);
  app.setSerializerCompiler(serializerCompiler);
  app.setErrorHandler(sendProblem);
  await app.register(helmet, { contentSecurityPolicy: policy, crossOriginEmbedderPolicy: false });
  await app.register(cookie);
  await app.register(rateLimit, { global: false });
  await app.register(swagger, {
    openapi: { info: { title: 'Gremium', version: '0.1.0', description: 'The register over HTTP' } },
    transform: jsonSchemaTransform,
  });
  await app.register(swaggerUi, { routePrefix: '/api/docs', staticCSP: true });
  app.addHook('onRequest', refuseOtherSites);
  const register = new RegisterThread(server.workers);
  server.lines = new LinesKept(server, register);
  app.decorate('registerReady', () => register.ready());
  await app.register(async (api) => {
    api.addHook('onClose', () => register.close());
    if (options.loadRegister) register.start();
    // returning the reply from an async hook would wait for it for ever
    api.addHook('onSend', async (_, reply) => {
      reply.header('cache-control', 'no-store');
    });
    api.get('/api/health', { schema: { hide: true } }, async () => ({
      ok: true,
      register: register.state(),
      database: await Promise.race([
        server.pool.query('select 1').then(
          () => 'answers',
          () => 'away',
        ),
        setTimeout(HEALTH_WAITS, 'silent', { ref: false }),
      ]),
    }));
    let stopTidying = (): void => undefined;
    api.addHook('onReady', async () => {
      stopTidying = keepTidy(server);
    });
    api.addHook('onClose', async () => stopTidying());
    serveAccess(api, server, options);
    serveAccounts(api, server, register);
    serveCatalogue(api, server, register);
    serveRecords(api, server);
    serveJournal(api, server, register);
    servePeople(api, server, register);
    serveLists(api, server);
    serveCalendar(api, server);
    serveHonours(api, server, register);
    servePictures(api, server);
    serveKeptFiles(api, server);
    serveStructure(api, server, register);
    serveOwnValues(api, server);
    serveMovements(api, server, register);
    serveMovementsOnTheirWay(api, server, register);
    serveDrafts(api, server);
    serveFind(api, server, register);
    serveMeasures(api, server, register);
    serveReports(api, server, register);
    const news = new WorkNews(server.workers.url);
    const desks = {
      import: serveFiles(api, server, register, news),
      take_out: serveTakeOuts(api, server, register, news),
    };
    api.addHook('onReady', async () => news.start((table) => desks[table]?.poke()));
    api.addHook('preClose', async () => news.close());
  });
  await servePages(app);
  return app;
};

const HEALTH_WAITS = 1500;

const sendProblem = (error: unknown, request: FastifyRequest, reply: FastifyReply): FastifyReply => {
  const details = detailsOf(error as Error, request);
  if (details.status === 500) request.log.error(error);
  if (details.status === 503) reply.header('retry-after', '3');
  return reply.status(details.status).type('application/problem+json').send(JSON.stringify(details));
};

const policy = {
  directives: {
    defaultSrc: ["'self'"],
    scriptSrc: ["'self'"],
    // the component library writes style tags at run time
    styleSrc: ["'self'", "'unsafe-inline'"],
    imgSrc: ["'self'", 'data:', 'blob:'],
    upgradeInsecureRequests: null,
  },
};

// A cookie set SameSite=Strict is not sent from other sites; this refuses them also where that were to fail.
const refuseOtherSites = async (request: FastifyRequest): Promise<void> => {
  if (request.method === 'GET' || request.method === 'HEAD') return;
  const { origin } = request.headers;
  const site = request.headers['sec-fetch-site'];
  // what is no address of a site is none of ours
  const isOther =
    origin !== undefined && (!URL.canParse(origin) || new URL(origin).host !== request.headers.host);
  if (isOther || origin === 'null' || site === 'cross-site' || site === 'same-site')
    throw new Failure([problem('other_site')]);
};

const servePages = async (app: FastifyInstance): Promise<void> => {
  const isBuilt = existsSync(path.join(dist, 'index.html'));
  if (isBuilt)
    await app.register(fastifyStatic, {
      root: dist,
      preCompressed: true,
      wildcard: true,
      index: false,
      maxAge: '1h',
    });
  app.setNotFoundHandler((request, reply) => {
    // a moment in the query has a dot too: only the path tells a file from a page
    const pathname = request.url.split('?')[0] as string;
    const isPage = request.method === 'GET' && !pathname.startsWith('/api/') && !path.extname(pathname);
    if (isPage && isBuilt)
      return reply.header('cache-control', 'no-cache').sendFile('index.html', { maxAge: 0 });
    throw new Failure([problem('path_unknown', { path: request.url })]);
  });
  if (isBuilt)
    app.get('/', { schema: { hide: true } }, (_, reply) => reply.sendFile('index.html', { maxAge: 0 }));
};

const detailsOf = (error: Error, request: FastifyRequest): ProblemDetails => {
  const failure = asFailure(error);
  const { problems, status } = failure;
  return {
    type: 'about:blank',
    title: problems[0]?.code ?? 'failed',
    status,
    detail: `${request.method} ${request.url.split('?')[0]} was refused.`,
    problems,
  };
};

const asFailure = (error: Error): Failure => {
  if (error instanceof Failure) return error;
  if (hasZodFastifySchemaValidationErrors(error))
    return new Failure(
      error.validation.map(({ instancePath, message, params }) => {
        const field = instancePath.split('/').filter(Boolean).join('.');
        const { keys } = params as { keys?: string[] };
        if (keys)
          return problem(
            'field_unknown',
            { field: keys.join(', ') },
            [field, keys[0]].filter(Boolean).join('.'),
          );
        const named = message !== undefined && message in problemCodes;
        return problem(named ? (message as ProblemCode) : 'value_invalid', { message: message ?? '' }, field);
      }),
      400,
    );
  const { statusCode, code } = error as { statusCode?: number; code?: string };
  if (statusCode === 413) return new Failure([problem('body_too_large')]);
  if (statusCode === 429) return new Failure([problem('too_many_requests')]);
  if (statusCode === 400 || statusCode === 415)
    return new Failure([problem('json_invalid', { message: code ?? '' })], 400);
  if (statusCode === 404 || statusCode === 403 || code === 'FST_ERR_BAD_URL')
    return new Failure([problem('path_unknown', {})]);
  const refused = problemOf(error);
  if (refused) return new Failure([refused]);
  const away = unavailable(error);
  if (away) return away;
  if (statusCode !== undefined && statusCode < 500)
    return new Failure([problem('json_invalid', { message: code ?? '' })], statusCode);
  return new Failure([problem('failed')], 500);
};
