// All versions of what describes no person, as far as the viewer may see it: what values are called.
import {
  DEFINING,
  type Catalogue,
  type Row,
  type SectionName,
  hiddenFields,
  levelOn,
  ownFieldName,
  ownName,
  may,
} from '@gremium/contract';
import { reachOf } from '../access/scope.sql';
import { type Db, many } from '../database/sql';
import type { Seer } from './catalogues';
import type { Looking } from './lens';
import { allOf, allRows } from './version.sql';

/**
 * Lists, jobs, grades, locations … with all their versions, as believed where one looks; of what defines sections and fields,
 * that of those the viewer sees, unless they define them.
 */
export const referenceRows = async (db: Db, viewer: Seer, looking: Looking): Promise<Row[]> => {
  const { catalogue } = viewer;
  const seen = catalogue.references.filter(
    (name) => isDefining(name) || reachOf(viewer, name, looking.today) !== 'nothing',
  );
  const rows = await many<Row>(db, allOf(seen.map((name) => allRows(catalogue.section(name), looking.by))));
  if (may(viewer).edit('own_section')) return rows;
  const isTheirs = definedFor(viewer);
  return rows.filter((row) => !isDefining(row.section) || isTheirs(row));
};

const isDefining = (name: SectionName): boolean => (DEFINING as readonly string[]).includes(name);

// Whether what a row defines is the viewer's to see.
const definedFor = ({ grants, catalogue }: { grants: Seer['grants']; catalogue: Catalogue }) => {
  const hidden = hiddenFields(grants);
  const sees = (section: string, field: string | null) =>
    catalogue.has(section) &&
    levelOn(grants, section) !== 'none' &&
    (field === null || !hidden.has(`${section}.${field}`));
  return (row: Row): boolean => {
    if (row.section === 'own_section') return sees(ownName(row.thing), null);
    if (row.section === 'own_field')
      return sees(ownName((row as Row<'own_field'>).values.sectionId), ownFieldName(row.thing));
    const { section, field } = (row as Row<'field_setting'>).values;
    return sees(section, field);
  };
};
