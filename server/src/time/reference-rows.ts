// All versions of what describes no person, as far as the viewer may see it: what values are called.
import type { Row } from '@gremium/contract';
import { reachOf } from '../access/scope.sql';
import { type Db, many } from '../database/sql';
import type { Seer } from './catalogues';
import type { Looking } from './lens';
import { allOf, allRows } from './version.sql';

/** Lists, jobs, grades, locations … with all their versions, as believed where one looks. */
export const referenceRows = async (db: Db, viewer: Seer, looking: Looking): Promise<Row[]> => {
  const { catalogue } = viewer;
  const seen = catalogue.references.filter((name) => reachOf(viewer, name, looking.today) !== 'nothing');
  const queries = seen.map((name) => allRows(catalogue.section(name), looking.by));
  return queries.length === 0 ? [] : many<Row>(db, allOf(queries));
};
