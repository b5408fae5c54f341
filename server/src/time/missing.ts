// Why a record that is asked for is not there, as far as the viewer may know.
import type { Kind, SectionName } from '@gremium/contract';
import { spokenName } from '@gremium/core';
import { seesAll } from '../access/scope.sql';
import { fail } from '../database/failure';
import { type Db, maybeOne } from '../database/sql';
import type { Seer } from './catalogues';
import type { Looking } from './lens';
import { lastSaid } from './records.sql';

type Said = {
  values: Record<string, unknown>;
  made: number;
  madeAt: string;
  /** The entry by which it is no longer believed, if it is not. */
  gone: number | null;
  goneAt: string | null;
  goneBy: string | null;
};

// What it was called by the values of the section that holds its name.
const nameOf = (section: SectionName, values: Record<string, unknown>): string =>
  section === 'person_name'
    ? spokenName(values as Parameters<typeof spokenName>[0])
    : String(values['title'] ?? values['name'] ?? '');

/**
 * Fails with why no row of `section` is there for a thing: it was undone (by whom and when), it was recorded later than the
 * moment looked at, or there is none; whoever sees only a part is told no more than that it is not for them.
 */
export const failMissing = async (
  db: Db,
  viewer: Seer,
  asked: { kind: Kind; id: number; section: SectionName },
  looking: Looking,
): Promise<never> => {
  const { kind, id, section } = asked;
  if (!seesAll(viewer, section)) return fail('record_hidden', { kind });
  const said = await maybeOne<Said>(db, lastSaid(viewer.catalogue.section(section), id));
  if (!said) return fail('thing_unknown', { kind });
  const name = nameOf(section, said.values);
  if (said.gone !== null && said.goneAt !== null && said.goneBy !== null) {
    const { made, gone, goneAt: at, goneBy: who } = said;
    return fail('record_undone', { kind, name, entry: made, undone: gone, at, who });
  }
  if (looking.by !== null && said.made > looking.by)
    return fail('record_later', { kind, name, entry: said.made, at: said.madeAt });
  return fail('record_hidden', { kind });
};
