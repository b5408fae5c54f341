// Which files a change names for the first time: they must be of whoever writes, as they were sent.
import type { Catalogue, Change, FileRef, Problem, Row } from '@gremium/contract';
import { problem } from '@gremium/core';
import { type Db, many } from '../database/sql';
import { sentBy } from './kept-files.sql';

type Naming = { file: FileRef; field: string; thing: number };

const filesIn = (catalogue: Catalogue, rows: readonly Row[]): Naming[] =>
  rows.flatMap(({ section, thing, values }) =>
    [...catalogue.section(section).metas].flatMap(([field, { is }]) => {
      const file = is === 'file' ? ((values as Record<string, unknown>)[field] as FileRef | null) : null;
      return file ? { file, field, thing } : [];
    }),
  );

/** Files that a change names and its things did not name before. */
export const filesNamed = (catalogue: Catalogue, { recorded, superseded }: Change): Naming[] => {
  const named = filesIn(catalogue, recorded);
  if (named.length === 0) return named;
  const before = new Set(filesIn(catalogue, superseded).map(({ file, thing }) => `${thing} ${file.id}`));
  return named.filter(({ file, thing }) => !before.has(`${thing} ${file.id}`));
};

/** What is wrong with files that a change names: not sent by this account, or said to be otherwise than they are. */
export const filesWrong = async (db: Db, account: number, named: readonly Naming[]): Promise<Problem[]> => {
  if (named.length === 0) return [];
  const sent = await many<Required<Omit<FileRef, 'name'>>>(
    db,
    sentBy(
      account,
      named.map(({ file }) => file.id),
    ),
  );
  const known = new Map(sent.map((one) => [one.id, one]));
  return named.flatMap(({ file, field }) => {
    const there = known.get(file.id);
    const isSame = (['type', 'bytes', 'digest'] as const).every((what) => there?.[what] === file[what]);
    return isSame ? [] : problem('file_unknown', {}, field);
  });
};
