// What a scope is called, in both languages: on pages, above figures, in sentences that read rights back.
import type { Label } from '../measures/cross-table';
import type { Condition, ConditionOf, Scope } from './scope';
import { conditionsOf } from './scope';

/** Names of what conditions name. */
export type ScopeNames = {
  unit: (id: number) => string;
  entity: (id: number) => string;
  workerType: (id: number) => Label;
  country: (code: string, language: 'en' | 'de') => string;
};

const words: { [T in Condition['type']]: (condition: ConditionOf<T>, names: ScopeNames) => Label } = {
  branch: ({ unitId }, { unit }) => alike(unit(unitId)),
  reports: ({ depth }) =>
    depth === 'direct'
      ? { en: 'own direct reports', de: 'direkt Unterstellte' }
      : { en: 'all own reports', de: 'alle Unterstellten' },
  entity: ({ legalEntityId }, { entity }) => alike(entity(legalEntityId)),
  country: ({ country }, names) => ({
    en: `in ${names.country(country, 'en')}`,
    de: `in ${names.country(country, 'de')}`,
  }),
  worker_type: ({ workerTypeId }, { workerType }) => workerType(workerTypeId),
  oneself: () => ({ en: 'own record', de: 'eigene Akte' }),
};

const alike = (name: string): Label => ({ en: name, de: name });

/** What conditions that must all hold are called; none: everything. */
export const conditionWords = (conditions: readonly Condition[], names: ScopeNames): Label => {
  if (conditions.length === 0) return { en: 'the whole organisation', de: 'die ganze Organisation' };
  const said = conditions.map((condition) =>
    (words[condition.type] as (condition: Condition, names: ScopeNames) => Label)(condition, names),
  );
  return {
    en: said.map(({ en }) => en).join(' and '),
    de: said.map(({ de }) => de).join(' und '),
  };
};

/** What a scope is called. */
export const scopeWords = (scope: Scope, names: ScopeNames): Label =>
  conditionWords(conditionsOf(scope), names);
