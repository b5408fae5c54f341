// The part in which a role is given: conditions that must all hold, each said by its kind and what it names.
import type { Condition, Scope } from '@gremium/contract';
import { codeOptions } from '@gremium/core';
import { useTranslation } from 'react-i18next';
import { useLens } from '../frame/lens';
import { useUnitOptions } from '../structure/unit-options';
import { useWords } from '../texts/words';
import { useReferenceRegister } from '../time/time.queries';
import { Choice, listOptions } from '../ui/field-input';
import { accessWords } from './access-words';

type Kind = Condition['type'];

/** A condition of which it may not yet be said what it names. */
export type Draft = { type: Kind; names: string | number | null };

const KINDS: readonly Kind[] = ['branch', 'reports', 'entity', 'country', 'worker_type', 'oneself'];

const started = (type: Kind): Draft => ({ type, names: type === 'reports' ? 'direct' : null });

const finished: { [T in Kind]: (names: Draft['names']) => Condition | null } = {
  branch: (names) => (names ? { type: 'branch', unitId: Number(names) } : null),
  reports: (names) => ({ type: 'reports', depth: names === 'all' ? 'all' : 'direct' }),
  entity: (names) => (names ? { type: 'entity', legalEntityId: Number(names) } : null),
  country: (names) => (names ? { type: 'country', country: String(names) } : null),
  worker_type: (names) => (names ? { type: 'worker_type', workerTypeId: Number(names) } : null),
  oneself: () => ({ type: 'oneself' }),
};

/** The scope that drafts say; null where one is not finished. */
export const scopeOf = (drafts: readonly Draft[]): Scope | null => {
  const conditions = drafts.map(({ type, names }) => finished[type](names));
  if (conditions.includes(null)) return null;
  const all = conditions as Condition[];
  const [only] = all;
  if (only === undefined) return { type: 'all' };
  return all.length === 1 ? only : { type: 'every', of: all };
};

/** Picks the conditions of a scope; none of them is everything. */
export const ScopePicker = ({
  drafts,
  onChange,
}: {
  drafts: readonly Draft[];
  onChange: (drafts: Draft[]) => void;
}) => {
  const words = useWords(accessWords);
  const put = (i: number, draft: Draft | null) => {
    const next = [...drafts];
    if (draft) next[i] = draft;
    else next.splice(i, 1);
    onChange(next);
  };
  const free = KINDS.filter((kind) => !drafts.some(({ type }) => type === kind));
  return (
    <div className="scopepicker">
      {drafts.map((draft, i) => (
        <div key={draft.type} className="conditionline">
          <span className="soft">{i === 0 ? words.inPart : words.and}</span>
          <Choice
            id={`condition-${i}`}
            label={words.part}
            value={draft.type}
            options={[draft.type, ...free].map((value) => ({ value, label: words.conditions[value] }))}
            onChange={(value) => put(i, value ? started(value as Kind) : null)}
          />
          <Names draft={draft} onChange={(names) => put(i, { ...draft, names })} />
        </div>
      ))}
      {free.length > 0 && (
        <div className="conditionline">
          {drafts.length === 0 && <span className="soft">{words.inPart}</span>}
          <Choice
            id="condition-next"
            label={drafts.length === 0 ? words.part : words.condition}
            value={drafts.length === 0 ? 'all' : null}
            clearable={false}
            options={[
              ...(drafts.length === 0 ? [{ value: 'all', label: words.conditions.all }] : []),
              ...free.map((value) => ({ value, label: words.conditions[value] })),
            ]}
            onChange={(value) => {
              if (value && value !== 'all') onChange([...drafts, started(value as Kind)]);
            }}
          />
        </div>
      )}
    </div>
  );
};

const Names = ({ draft, onChange }: { draft: Draft; onChange: (names: Draft['names']) => void }) => {
  const words = useWords(accessWords);
  const { i18n } = useTranslation();
  const { on } = useLens();
  const register = useReferenceRegister();
  const units = useUnitOptions('').filter(({ value }) => value !== '');
  if (draft.type === 'oneself') return null;
  const options: Record<Exclude<Kind, 'oneself'>, () => { value: string | number; label: string }[]> = {
    branch: () => units,
    reports: () => [
      { value: 'direct', label: words.depths.direct },
      { value: 'all', label: words.depths.all },
    ],
    entity: () =>
      [...(register?.allOn('legal_entity', on) ?? [])].map(({ thing, values }) => ({
        value: thing,
        label: values.name,
      })),
    country: () => codeOptions(i18n.language === 'de' ? 'de' : 'en-GB', 'region'),
    worker_type: () =>
      register ? listOptions(register, 'worker_type', { on, language: i18n.language }) : [],
  };
  const value = draft.type === 'branch' && draft.names !== null ? String(draft.names) : draft.names;
  return (
    <Choice
      id={`names-${draft.type}`}
      label={words.conditions[draft.type]}
      value={value}
      clearable={false}
      options={options[draft.type]()}
      onChange={(names) => onChange(names as Draft['names'])}
    />
  );
};
