// Digests of rows on their way into the database, equal to those that PostgreSQL works out of the rows there (`digestOf` in
// version.sql.ts): the salt and the row as jsonb text. Made beside a copy, they cost no time of their own.
import { createHash } from 'node:crypto';
import type { Section } from '@gremium/contract';
import { type Db, many } from '../database/sql';
import { columnTypes, versionColumns } from './version.sql';

/** The digest of a row, given as the cells of `versionColumns`, with its salt; hexadecimal. */
export type Digester = (cells: readonly unknown[], salt: string) => string;

// Keys of jsonb stand by length, then by their bytes.
const inOrder = (a: string, b: string): number => {
  const [x, y] = [Buffer.from(a), Buffer.from(b)];
  return x.length - y.length || Buffer.compare(x, y);
};

const quoted = (text: string): string => JSON.stringify(text.toWellFormed());

// As `jsonb_strip_nulls` leaves it: members without a value are not there, in lists they stay.
const jsonbText = (value: unknown): string => {
  if (typeof value === 'string') return quoted(value);
  if (value === null || typeof value !== 'object') return String(value);
  if (Array.isArray(value)) return `[${value.map(jsonbText).join(', ')}]`;
  const members = Object.entries(value).filter(([, one]) => one !== null && one !== undefined);
  members.sort(([a], [b]) => inOrder(a, b));
  return `{${members.map(([key, one]) => `${quoted(key)}: ${jsonbText(one)}`).join(', ')}}`;
};

// A decimal as a column of so many places keeps it: without zeros before it, nothing has no sign.
const padded = (text: string, places: number): string => {
  const [whole = '', fraction = ''] = text.replace(/^(-?)0+(?=\d)/, '$1').split('.');
  const full = places === 0 ? whole : `${whole}.${fraction.padEnd(places, '0')}`;
  return /[1-9]/.test(full) ? full : full.replace('-', '');
};

type Write = (value: never) => string;

const WRITERS: Record<string, Write> = {
  bigint: String,
  integer: String,
  boolean: String,
  text: quoted,
  date: quoted,
  jsonb: (json: string) => jsonbText(JSON.parse(json)),
};

const writerOf = (type: string): Write | undefined => {
  const [, places] = /^numeric\(\d+,(\d+)\)$/.exec(type) ?? [];
  return places === undefined ? WRITERS[type] : (text: string) => padded(text, Number(places));
};

// What no row says when it is recorded, or what is put before it.
const APART = new Set(['salt', 'superseded_by']);

/** How rows of a section are digested; null where its table has columns of which that is not known here. */
export const digesterOf = async (db: Db, section: Section): Promise<Digester | null> => {
  const names = versionColumns(section);
  const columns: { at: number; key: string; write: Write }[] = [];
  for (const { name, type } of await many<{ name: string; type: string }>(db, columnTypes(section))) {
    if (APART.has(name)) continue;
    const write = writerOf(type);
    const at = names.indexOf(name);
    if (!write || at < 0) return null;
    columns.push({ at, key: name, write });
  }
  columns.sort((a, b) => inOrder(a.key, b.key));
  const members = columns.map(({ at, key, write }) => ({ at, key: `${quoted(key)}: `, write }));
  return (cells, salt) => {
    let text = '';
    for (const { at, key, write } of members) {
      const value = cells[at];
      if (value === null || value === undefined) continue;
      text += `${text === '' ? '' : ', '}${key}${write(value as never)}`;
    }
    return createHash('sha256').update(`${salt}{${text}}`).digest('hex');
  };
};
