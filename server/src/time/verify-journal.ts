import { createHash } from 'node:crypto';
import { type Catalogue, preset } from '@gremium/contract';
import type { EntryKind } from '@gremium/contract';
import { type Db, many } from '../database/sql';
import { chain, head } from './journal.sql';
import { filesAltered, picturesAltered } from './kept-bytes.sql';
import { contentOf } from './record-entry';
import { rowDigests, supersededRows, versionTables } from './version.sql';

export type Verdict = { entries: number; rows: number; faults: string[] };

type Kept = {
  id: number;
  number: number;
  moment: string;
  kind: EntryKind;
  account: string;
  reason: string | null;
  origin: string;
  digest: string;
  undoes: number[];
};

/**
 * Works the whole chain out again from the rows as they stand: numbers without gaps, moments in order, every digest. A row
 * altered, added or taken away, even by the owner of the database, shows at the entry it belongs to; so do the bytes of files
 * and pictures that rows name by their digests.
 */
export const verifyJournal = async (db: Db, catalogue: Catalogue = preset): Promise<Verdict> => {
  const digests = new Map<number, { id: number; digest: string }[]>();
  const superseded = new Map<number, number[]>();
  const faults: string[] = [];
  let rows = 0;
  for (const table of versionTables(catalogue)) {
    for (const { entry, id, digest } of await many<{ entry: number; id: number; digest: string }>(
      db,
      rowDigests(table, null),
    )) {
      push(digests, entry, { id, digest });
      rows++;
    }
    for (const { entry, id } of await many<{ entry: number; id: number }>(db, supersededRows(table)))
      push(superseded, entry, id);
  }
  const entries = await many<Kept>(db, chain);
  let before = { digest: '', moment: '' };
  entries.forEach((entry, i) => {
    const own = (digests.get(entry.id) ?? []).sort((a, b) => a.id - b.id).map(({ digest }) => digest);
    const content = contentOf(
      { ...entry, undoes: entry.undoes.map(Number) },
      own,
      superseded.get(entry.id) ?? [],
    );
    const expected = createHash('sha256')
      .update(`${before.digest}|${entry.number}|${entry.moment}|${content}`)
      .digest('hex');
    if (entry.number !== i + 1) faults.push(`entry ${entry.number}: number ${i + 1} is missing`);
    if (entry.moment <= before.moment)
      faults.push(`entry ${entry.number}: its moment is not after the one before`);
    if (entry.digest !== expected)
      faults.push(`entry ${entry.number}: its rows or its head are not as they were recorded`);
    before = entry;
    digests.delete(entry.id);
  });
  for (const id of digests.keys()) faults.push(`rows of entry ${id}, which is not in the journal`);
  const numbers = new Map(entries.map(({ id, number }) => [id, number]));
  for (const { entry, name } of await many<{ entry: number; name: string }>(db, filesAltered(catalogue)))
    faults.push(`entry ${numbers.get(entry) ?? '?'}: the file ${name} is not as it was kept`);
  for (const { digest } of await many<{ digest: string }>(db, picturesAltered))
    faults.push(`the picture ${digest} is not as it was kept`);
  const [last] = await many<{ number: number; digest: string }>(db, head);
  if (last?.number !== entries.length || last.digest !== before.digest)
    faults.push('the head of the journal is not its last entry');
  return { entries: entries.length, rows, faults };
};

const push = <T>(map: Map<number, T[]>, key: number, value: T): void => {
  const found = map.get(key);
  if (found) found.push(value);
  else map.set(key, [value]);
};
