// Pictures that people send: known by their first bytes, never by their name; decoded within bounds, made upright, cut, made
// small, and written anew, so that nothing of the file itself (places, dates, scripts) is kept.
import { createHash } from 'node:crypto';
import { PICTURE_PIXELS, type Square } from '@gremium/contract';
import sharp, { type Sharp } from 'sharp';
import { fail } from '../database/failure';

/** A picture as it is kept. */
export type Picture = { digest: string; bytes: Buffer };

const EDGE = 320;
const LOGO = { width: 480, height: 160 };
const SECONDS = 20;

// one at a time: decoding takes a processor and much memory
sharp.concurrency(1);
sharp.cache(false);

const starts = (content: Buffer, at: number, ...bytes: number[]): boolean =>
  bytes.every((byte, i) => content[at + i] === byte);

// JPEG, PNG, WebP ("RIFF....WEBP"): the library reads more kinds, some of which run scripts or ask other servers.
const isPicture = (content: Buffer): boolean =>
  starts(content, 0, 0xff, 0xd8, 0xff) ||
  starts(content, 0, 0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a) ||
  (starts(content, 0, 0x52, 0x49, 0x46, 0x46) && starts(content, 8, 0x57, 0x45, 0x42, 0x50));

type Read = { picture: Sharp; width: number; height: number };

const open = async (content: Buffer): Promise<Read> => {
  if (!isPicture(content)) return fail('picture_unread', {}, 'body');
  const size = await sharp(content, { limitInputPixels: false })
    .metadata()
    .catch(() => null);
  if (!size?.width || !size.height) return fail('picture_unread', {}, 'body');
  const { width, height, orientation = 1 } = size;
  if (width * height > PICTURE_PIXELS) return fail('picture_too_large', { width, height }, 'body');
  // lying pictures are turned upright first: what is cut is said of the upright one
  const isLying = orientation >= 5;
  const picture = sharp(content, { limitInputPixels: PICTURE_PIXELS, failOn: 'error' })
    .timeout({ seconds: SECONDS })
    .rotate();
  return { picture, width: isLying ? height : width, height: isLying ? width : height };
};

/** Bytes of a picture with their digest. */
export const pictureOf = (bytes: Buffer): Picture => ({
  digest: createHash('sha256').update(bytes).digest('hex'),
  bytes,
});

const written = async (picture: Sharp): Promise<Picture> =>
  pictureOf(await picture.toBuffer().catch(() => fail('picture_unread', {}, 'body')));

/** A portrait: the square asked for, or the middle, as a JPEG of 320 × 320 pixels. */
export const readPortrait = async (content: Buffer, { left, top, edge }: Square): Promise<Picture> => {
  const { picture, width, height } = await open(content);
  const most = Math.min(width, height);
  const side = Math.min(most, Math.max(1, edge ?? most));
  const within = (at: number | undefined, whole: number) =>
    Math.min(whole - side, at ?? Math.floor((whole - side) / 2));
  const square = { left: within(left, width), top: within(top, height), width: side, height: side };
  return written(
    picture.extract(square).resize(EDGE, EDGE).flatten({ background: '#ffffff' }).jpeg({ quality: 84 }),
  );
};

/** A logo: whole, made to fit, its ground left see-through. */
export const readLogo = async (content: Buffer): Promise<Picture> => {
  const { picture } = await open(content);
  return written(picture.resize({ ...LOGO, fit: 'inside', withoutEnlargement: true }).png());
};
