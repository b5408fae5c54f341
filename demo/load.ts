// Writes a generated history into an empty database: rows by COPY, then the chain of the journal.
import { DEFINING } from '@gremium/contract';
import { createHash } from 'node:crypto';
import type { Kind, Row, SectionName } from '@gremium/contract';
import { preset, presetNames } from '@gremium/contract';
import { contentOf, copyIn, many, rowDigests, versionCells, versionColumns } from '@gremium/server';
import type { ClientBase, Pool } from 'pg';
import type { History, MadeEntry } from './history';

/** Loads the history as one transaction, as the owner of the database. */
export const loadHistory = async (pool: Pool, history: History): Promise<void> => {
  const tx = await pool.connect();
  try {
    await tx.query('begin');
    const { entries } = history;
    const supersededBy = new Map<number, number>();
    for (const { id, change } of entries) for (const row of change.superseded) supersededBy.set(row.id, id);
    await copyThings(tx, entries);
    for (const name of presetNames) {
      const section = preset.section(name);
      const columns = [...versionColumns(section), 'superseded_by'];
      await copyIn(tx, `${name}_version`, columns, function* () {
        for (const row of rowsOf(entries, name))
          yield [...versionCells(row, section), supersededBy.get(row.id) ?? null];
      });
    }
    await copyEntries(tx, entries);
    await copyIn(tx, 'number_given', ['kind', 'number', 'thing_id'], () => numbersOf(entries));
    await tx.query(`select setval('id_block', $1)`, [Math.ceil(history.lastId / 1000) * 1000]);
    const numbers = [...numbersOf(entries)].map(([, number]) => Number(number)).filter(Number.isInteger);
    await tx.query(`select setval('person_number', $1)`, [numbers.reduce((a, b) => Math.max(a, b), 1000)]);
    await tx.query('commit');
    await tx.query('analyze');
  } catch (error) {
    await tx.query('rollback');
    throw error;
  } finally {
    tx.release();
  }
};

function* rowsOf(entries: readonly MadeEntry[], section: SectionName): Generator<Row> {
  for (const { change } of entries) for (const row of change.recorded) if (row.section === section) yield row;
}

function* numbersOf(entries: readonly MadeEntry[]): Generator<unknown[]> {
  const seen = new Set<string>();
  for (const { thing, values } of rowsOf(entries, 'person') as Generator<Row<'person'>>) {
    if (seen.has(values.number)) continue;
    seen.add(values.number);
    yield ['person', values.number, thing];
  }
}

const copyThings = async (tx: ClientBase, entries: readonly MadeEntry[]): Promise<void> => {
  const things = new Map<Kind, Set<number>>();
  for (const { change } of entries)
    for (const { section, thing } of change.recorded) {
      const { kind } = preset.section(section);
      things.set(kind, (things.get(kind) ?? new Set()).add(thing));
    }
  for (const [kind, ids] of things)
    await copyIn(tx, kind, ['id'], function* () {
      for (const id of ids) yield [id];
    });
};

// The chain is over the rows as the database keeps them, exactly as single entries make it.
const copyEntries = async (tx: ClientBase, entries: readonly MadeEntry[]): Promise<void> => {
  const digests = new Map<number, { id: number; digest: string }[]>();
  for (const section of presetNames)
    for (const { entry, id, digest } of await many<{ entry: number; id: number; digest: string }>(
      tx,
      rowDigests(`${section}_version`, null),
    )) {
      const own = digests.get(entry);
      if (own) own.push({ id, digest });
      else digests.set(entry, [{ id, digest }]);
    }
  const lines: unknown[][] = [];
  let digest = '';
  entries.forEach(({ id, moment, kind, account, reason, undoes, change }, i) => {
    const own = (digests.get(id) ?? []).sort((a, b) => a.id - b.id).map((row) => row.digest);
    const superseded = change.superseded.map((row) => row.id);
    const content = contentOf({ kind, account, reason, origin: '{}', undoes }, own, superseded);
    digest = createHash('sha256')
      .update(`${digest}|${i + 1}|${moment}|${content}`)
      .digest('hex');
    const touched = [...change.recorded, ...change.superseded].map(({ section }) => section);
    const sections = `{${[...new Set(touched)].sort().join(',')}}`;
    lines.push([id, i + 1, moment, kind, account, reason, '{}', digest, sections]);
  });
  const columns = ['id', 'number', 'moment', 'kind', 'account', 'reason', 'origin', 'digest', 'sections'];
  await copyIn(tx, 'entry', columns, function* () {
    yield* lines;
  });
  const undone = entries.flatMap(({ id, undoes }) => undoes.map((member) => [id, member]));
  await copyIn(tx, 'entry_undo', ['entry_id', 'undone_id'], function* () {
    yield* undone;
  });
  const defining: readonly string[] = DEFINING;
  const defined = entries.findLastIndex(({ change }) =>
    change.recorded.some(({ section }) => defining.includes(section)),
  );
  await tx.query('update journal_head set number = $1, moment = $2, digest = $3, defined = $4', [
    entries.length,
    entries.at(-1)?.moment,
    digest,
    defined + 1,
  ]);
};
