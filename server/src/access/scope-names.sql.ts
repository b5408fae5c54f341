// Names of what scopes name, by what is believed now.
import type { Condition, Label, ScopeNames } from '@gremium/contract';
import { codeName } from '@gremium/core';
import { type Db, many, sql } from '../database/sql';

type Named = { kind: string; id: number; name: string | null; label: Label | null };

/** What units, entities and worker types that conditions name are called; what is not there any more has no name. */
export const scopeNamesOf = async (db: Db, conditions: readonly Condition[]): Promise<ScopeNames> => {
  const ids = (type: Condition['type'], field: string) =>
    conditions.flatMap((one) =>
      one.type === type ? [(one as unknown as Record<string, number>)[field]] : [],
    );
  const found = await many<Named>(
    db,
    sql`
      select distinct on (kind, id) kind, id, name, label from (
        select 'unit' as kind, unit_id as id, name, null::jsonb as label, valid_from from unit_version
          where superseded_by is null and unit_id = any(${ids('branch', 'unitId')}::bigint[])
        union all
        select 'entity', legal_entity_id, name, null, valid_from from legal_entity_version
          where superseded_by is null and legal_entity_id = any(${ids('entity', 'legalEntityId')}::bigint[])
        union all
        select 'worker', list_entry_id, null, label, valid_from from list_entry_version
          where superseded_by is null and list_entry_id = any(${ids('worker_type', 'workerTypeId')}::bigint[])
      ) n order by kind, id, valid_from desc`,
  );
  const of = (kind: string, id: number) => found.find((one) => one.kind === kind && one.id === id);
  return {
    unit: (id) => of('unit', id)?.name ?? `${id}`,
    entity: (id) => of('entity', id)?.name ?? `${id}`,
    workerType: (id) => of('worker', id)?.label ?? { en: `${id}`, de: `${id}` },
    country: (code, language) => codeName(language === 'de' ? 'de' : 'en-GB', 'region', code),
  };
};
