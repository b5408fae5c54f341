import { type Sql, sql } from '../database/sql';
import type { Picture } from './read-picture';

/** The bytes of a picture by their digest. */
export const pictureBytes = (digest: string): Sql => sql`select bytes from picture where digest = ${digest}`;

/** Keeps a picture; one that is there already is the same. */
export const keepPicture = ({ digest, bytes }: Picture): Sql =>
  sql`insert into picture (digest, bytes) values (${digest}, ${bytes}) on conflict do nothing`;
