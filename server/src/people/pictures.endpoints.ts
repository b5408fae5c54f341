import {
  type Kind,
  type Lens,
  PICTURE_BYTES,
  type PersonPhoto,
  type Row,
  pictureEndpoints,
} from '@gremium/contract';
import { ALWAYS, BEGINNING, Draft } from '@gremium/core';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import { fail } from '../database/failure';
import { many, maybeOne } from '../database/sql';
import { FileOut } from '../files/file-out';
import { Uploaded } from '../files/uploaded';
import { serve } from '../serve';
import { organisationNow } from '../structure/organisation.sql';
import { type Server, act } from '../time/act';
import type { Seer } from '../time/catalogues';
import { labelled } from '../time/labels';
import { look } from '../time/lens';
import { readThings } from '../time/read-record';
import { keepPicture, pictureBytes } from './pictures.sql';
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
    const found = digest ? await maybeOne<{ bytes: Buffer }>(pool, pictureBytes(digest)) : null;
    return found ? new FileOut(name, format, found.bytes) : fail('picture_none', {});
  };

  const rowsOf = async (
    viewer: Seer,
    section: 'person' | 'person_photo',
    id: number,
    query: Lens = {},
  ): Promise<Row[]> => readThings(pool, viewer, await look(pool, clock, query), new Map([[section, [id]]]));

  // Changes of one thing, with the picture that they name.
  const write = async (
    viewer: Seer,
    { kind, id }: { kind: Kind; id: number },
    picture: Picture | null,
    change: (draft: Draft) => void,
  ) => {
    const acted = await act<undefined>(server, viewer, {
      kind: 'edit',
      reason: undefined,
      preview: false,
      locks: [id],
      decide: async ({ near, newId, entry }) => {
        const draft = new Draft(await near.load([{ kind, id }]), newId, entry);
        change(draft);
        const { change: changed, problems } = draft;
        draft.discard();
        return { change: changed, problems, result: undefined };
      },
      ...(picture ? { ahead: async (tx) => void (await many(tx, keepPicture(picture))) } : {}),
    });
    const { entry, touched } = acted;
    return {
      entry,
      touched,
      problems: await labelled(pool, viewer, acted.problems, await look(pool, clock, {})),
    };
  };

  const writePhoto = async (viewer: Seer, id: number, picture: Picture | null) => {
    if ((await rowsOf(viewer, 'person', id)).length === 0) fail('record_hidden', { kind: 'person' });
    return write(viewer, { kind: 'person', id }, picture, (draft) => {
      if (draft.register.rows('person_photo', id).length > 0) draft.cutFrom('person_photo', id, BEGINNING);
      if (picture) draft.begin('person_photo', id, ALWAYS, { picture: picture.digest });
    });
  };

  // one whom the viewer may not see, one without a photo and one who is not there are answered alike
  serve(app, server, pictureEndpoints.photo, async ({ params, query, viewer }) => {
    const { recordedBy } = query;
    const [row] = await rowsOf(viewer, 'person_photo', params.id, recordedBy ? { recordedBy } : {});
    return fileOf((row?.values as PersonPhoto | undefined)?.picture, 'photo', 'jpg');
  });

  serve(
    app,
    server,
    pictureEndpoints.recordPhoto,
    async ({ params, query, viewer, request }) =>
      writePhoto(viewer, params.id, await readPortrait(await contentOf(request), query)),
    takesPicture,
  );

  serve(app, server, pictureEndpoints.removePhoto, async ({ params, viewer }) =>
    writePhoto(viewer, params.id, null),
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
      const { organisationId: id, today } = await organisationNow(pool, clock);
      if (id === null) return fail('thing_unknown', {});
      return write(viewer, { kind: 'organisation', id }, picture, (draft) =>
        draft.set('organisation', id, { from: today, values: { logo: picture.digest } }),
      );
    },
    takesPicture,
  );
};
