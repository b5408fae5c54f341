import { PICTURE_BYTES, type PersonPhoto, type Row, pictureEndpoints } from '@gremium/contract';
import { ALWAYS, BEGINNING, Draft } from '@gremium/core';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import { fail } from '../database/failure';
import { many, maybeOne, sql } from '../database/sql';
import { FileOut } from '../files/file-out';
import { Uploaded } from '../files/uploaded';
import { serve } from '../serve';
import { organisationNow } from '../structure/organisation.sql';
import { type Server, act } from '../time/act';
import type { Seer } from '../time/catalogues';
import { labelled } from '../time/labels';
import { look } from '../time/lens';
import { readThings } from '../time/read-record';
import { type Picture, readLogo, readPortrait } from './read-picture';

const takesPicture = { takesFiles: true, bodyLimit: PICTURE_BYTES } as const;

const contentOf = async ({ body }: FastifyRequest): Promise<Buffer> => {
  const content = body instanceof Uploaded ? await body.content() : Buffer.alloc(0);
  if (content.length > PICTURE_BYTES) fail('body_too_large', {}, 'body');
  return content.length === 0 ? fail('file_empty', {}, 'body') : content;
};

/** Photos of people and the logo. */
export const servePictures = (app: FastifyInstance, server: Server): void => {
  const { pool, clock } = server;

  const fileOf = async (digest: string | undefined | null, name: string, format: 'jpg' | 'png') => {
    const found = digest
      ? await maybeOne<{ bytes: Buffer }>(pool, sql`select bytes from picture where digest = ${digest}`)
      : null;
    return found ? new FileOut(name, format, found.bytes) : fail('picture_none', {});
  };

  const photosOf = async (viewer: Seer, id: number): Promise<Row[]> =>
    readThings(pool, viewer, await look(pool, clock, {}), new Map([['person_photo', [id]]]));

  // one whom the viewer may not see, one without a photo and one who is not there are answered alike
  serve(app, server, pictureEndpoints.photo, async ({ params, viewer }) => {
    const [row] = await photosOf(viewer, params.id);
    return fileOf((row?.values as PersonPhoto | undefined)?.picture, 'photo', 'jpg');
  });

  const write = async (viewer: Seer, id: number, picture: Picture | null) => {
    const looking = await look(pool, clock, {});
    const seen = await readThings(pool, viewer, looking, new Map([['person', [id]]]));
    if (seen.length === 0) fail('record_hidden', { kind: 'person' });
    const acted = await act<undefined>(server, viewer, {
      kind: 'edit',
      reason: undefined,
      preview: false,
      locks: [id],
      decide: async ({ near, newId, entry }) => {
        const register = await near.load([{ kind: 'person', id }]);
        const draft = new Draft(register, newId, entry);
        if (register.rows('person_photo', id).length > 0) draft.cutFrom('person_photo', id, BEGINNING);
        if (picture) draft.begin('person_photo', id, ALWAYS, { picture: picture.digest });
        const { change, problems } = draft;
        draft.discard();
        return { change, problems, result: undefined };
      },
      ...(picture ? { ahead: async (tx) => void (await many(tx, keep(picture))) } : {}),
    });
    const { entry, touched } = acted;
    return { entry, touched, problems: await labelled(pool, viewer, acted.problems, looking) };
  };

  serve(
    app,
    server,
    pictureEndpoints.recordPhoto,
    async ({ params, query, viewer, request }) =>
      write(viewer, params.id, await readPortrait(await contentOf(request), query)),
    takesPicture,
  );

  serve(app, server, pictureEndpoints.removePhoto, async ({ params, viewer }) =>
    write(viewer, params.id, null),
  );

  serve(app, server, pictureEndpoints.logo, async () =>
    fileOf((await organisationNow(pool, clock)).logo, 'logo', 'png'),
  );

  serve(
    app,
    server,
    pictureEndpoints.recordLogo,
    async ({ viewer, request }) => {
      const picture = await readLogo(await contentOf(request));
      const { organisationId, today } = await organisationNow(pool, clock);
      if (organisationId === null) return fail('thing_unknown', {});
      const acted = await act<undefined>(server, viewer, {
        kind: 'edit',
        reason: undefined,
        preview: false,
        locks: [organisationId],
        decide: async ({ near, newId, entry }) => {
          const register = await near.load([{ kind: 'organisation', id: organisationId }]);
          const draft = new Draft(register, newId, entry);
          draft.set('organisation', organisationId, { from: today, values: { logo: picture.digest } });
          const { change, problems } = draft;
          draft.discard();
          return { change, problems, result: undefined };
        },
        ahead: async (tx) => void (await many(tx, keep(picture))),
      });
      const { entry, touched } = acted;
      const problems = await labelled(pool, viewer, acted.problems, await look(pool, clock, {}));
      return { entry, touched, problems };
    },
    takesPicture,
  );
};

const keep = ({ digest, bytes }: Picture) =>
  sql`insert into picture (digest, bytes) values (${digest}, ${bytes}) on conflict do nothing`;
