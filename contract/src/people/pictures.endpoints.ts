// Photos of people and the logo: sent as files, cut and made small by the server, served by the right to see whose they are.
import { z } from 'zod';
import { FileReply, endpoint } from '../endpoint';
import { Moment } from '../time/day';
import { Written } from '../time/records.endpoints';

/** Bytes of a picture as it is sent, at most. */
export const PICTURE_BYTES = 10_000_000;
/** Pixels of a picture as it is sent, at most. */
export const PICTURE_PIXELS = 64_000_000;

const One = z.object({ id: z.coerce.number().int() });

const pixels = () => z.coerce.number().int().min(0).max(50_000).optional();

/** The square that is kept, in pixels of the upright picture; left out: the middle. */
export const Square = z.strictObject({ left: pixels(), top: pixels(), edge: pixels() });
export type Square = z.infer<typeof Square>;

/** Pictures. */
export const pictureEndpoints = {
  photo: endpoint({
    method: 'GET',
    path: '/api/people/:id/photo',
    summary: 'The photo of a person, as recorded by a moment (JPEG, 320 × 320)',
    right: { section: 'person_photo', level: 'view' },
    params: One,
    // `of`: which one is meant, so that the browser asks anew for another one
    query: z.strictObject({ of: z.string().max(80).optional(), recordedBy: Moment.optional() }),
    reply: FileReply,
  }),
  recordPhoto: endpoint({
    method: 'POST',
    path: '/api/people/:id/photo',
    summary:
      'Record a photo of a person: a JPEG, PNG or WebP file of 10 MB and 64 million pixels at most, cut to a square',
    right: { section: 'person_photo', level: 'edit' },
    params: One,
    query: Square,
    reply: Written,
  }),
  removePhoto: endpoint({
    method: 'DELETE',
    path: '/api/people/:id/photo',
    summary: 'Take the photo of a person off the record',
    right: { section: 'person_photo', level: 'edit' },
    params: One,
    reply: Written,
  }),
  logo: endpoint({
    method: 'GET',
    path: '/api/logo',
    summary: 'The logo of the organisation (PNG), for everybody who comes to the entrance',
    right: 'anybody',
    query: z.strictObject({ of: z.string().max(80).optional() }),
    reply: FileReply,
  }),
  recordLogo: endpoint({
    method: 'POST',
    path: '/api/logo',
    summary: 'Record the logo: a JPEG, PNG or WebP file, made to fit 480 × 160',
    right: { section: 'organisation', level: 'edit' },
    reply: Written,
  }),
};
