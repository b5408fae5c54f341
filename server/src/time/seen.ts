import type { Bound, Kind, SectionName } from '@gremium/contract';
import { reachOf } from '../access/scope.sql';
import { type Db, many } from '../database/sql';
import type { Seer } from './catalogues';
import type { Looking } from './lens';
import { visibleThings } from './records.sql';

/** Kinds of things that somebody may be kept from seeing; references to them tell nothing to those who may not. */
export const HIDEABLE = new Set<Kind>(['person', 'employment', 'placement', 'position', 'unit']);

/** Of the things given, those of which the viewer may see anything in the section (`since`: on that day or later); the database is asked only where that depends. */
export const seenOf = async (
  db: Db,
  viewer: Seer,
  section: SectionName,
  ids: readonly number[],
  looking: Looking,
  since?: Bound,
): Promise<number[]> => {
  const reach = reachOf(viewer, section, looking.today);
  if (ids.length === 0 || reach === 'nothing') return [];
  if (reach === 'all') return [...ids];
  return (await many<{ id: number }>(db, visibleThings(viewer, section, ids, looking, since))).map(
    ({ id }) => id,
  );
};
