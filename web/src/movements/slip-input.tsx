import { type Day, type InputField, type ListEntry, pickListOf } from '@gremium/contract';
import { useTranslation } from 'react-i18next';
import { useLens } from '../frame/lens';
import { useUnitOptions } from '../structure/unit-options';
import type { Texts } from '../texts/en';
import { Choice, FieldInput, SeveralChoice, listOptions } from '../ui/field-input';
import { useFieldName } from '../ui/field-name';
import type { Field } from '../ui/fields';
import { Finder } from '../ui/finder';
import { SlipPeople } from './slip-people';
import type { Slip } from './use-slip';

type InputProps = { id: string; path: string; field: InputField; slip: Slip; label: string };

const lastOf = (path: string): string => path.split('.').at(-1) ?? path;

/** The input of a field of a slip, by what the field is. */
export const SlipInput = (props: InputProps) => {
  const { meta } = props.field;
  if (props.path.startsWith('own.')) return <PlainInput {...props} />;
  if (meta.is === 'ref' && (meta.kind === 'person' || meta.kind === 'position'))
    return <FoundInput {...props} kind={meta.kind} />;
  if (meta.is === 'ref' && meta.kind === 'unit') return <UnitInput {...props} />;
  if (meta.is === 'refs') return <SlipPeople {...props} />;
  if (meta.is === 'list') return <ListInput {...props} list={meta.list} />;
  if (meta.is === 'choice' || meta.is === 'yes_no') return <OptionInput {...props} />;
  if (meta.is === 'choices') return <SeveralInput {...props} options={meta.options} />;
  return <PlainInput {...props} />;
};

const FoundInput = ({ id, path, field, slip, label, kind }: InputProps & { kind: 'person' | 'position' }) => {
  const { on } = useLens();
  const value = slip.valueOf(path);
  return (
    <Finder
      {...{ id, kind, label }}
      day={(slip.context?.day ?? on) as Day}
      clearable={slip.mayClear(field)}
      freeFirst={lastOf(path) === 'positionId'}
      within={path === 'positionId' ? unitOf(slip) : undefined}
      chosen={typeof value === 'number' ? { id: value, name: slip.nameOf(kind, value) } : null}
      onChoose={(chosen) => slip.choose(path, kind, chosen)}
    />
  );
};

// The unit a slip was begun from: its own places are offered first.
const unitOf = ({ context }: Slip): number | undefined =>
  context?.about.kind === 'unit' ? context.about.id : undefined;

const UnitInput = ({ id, path, field, slip, label }: InputProps) => (
  <Choice
    {...{ id, label }}
    adds={pickListOf('unit')}
    clearable={slip.mayClear(field)}
    options={useUnitOptions('')
      .slice(1)
      .map(({ value, label: name }) => ({ value: Number(value), label: name }))}
    value={slip.valueOf(path) ?? null}
    onChange={(value) => slip.put(path, value)}
  />
);

const ListInput = ({ id, path, field, slip, label, list }: InputProps & { list: ListEntry['list'] }) => {
  const { i18n } = useTranslation();
  const { on } = useLens();
  const { context, declared } = slip;
  if (!context) return null;
  const options = listOptions(context.showing.register, list, {
    on: context.day ?? on,
    language: i18n.language,
    fits: (entry) => declared.fits?.(path, entry) ?? true,
  });
  return (
    <Choice
      {...{ id, label, options }}
      adds={pickListOf('list_entry', { list, ...(list === 'reason' ? actsOf(slip) : {}) })}
      clearable={slip.mayClear(field)}
      value={slip.valueOf(path) ?? null}
      onChange={(value) => slip.put(path, value)}
    />
  );
};

// Reasons stand in lists by what they may be chosen for.
const ACTS = {
  hire: 'hire',
  rehire: 'hire',
  transfer: 'transfer',
  transfer_for_a_time: 'transfer',
  change_terms: 'change',
  change_pay: 'change',
  pay_once: 'change',
  cover: 'transfer',
  acting: 'transfer',
  second_placement: 'transfer',
  leave: 'leave',
} as const;
const actsOf = ({ movement: { kind } }: Slip) => (kind in ACTS ? { acts: ACTS[kind as 'hire'] } : {});

const OptionInput = ({ id, path, field, slip, label }: InputProps) => {
  const { meta } = field;
  const { t } = useTranslation();
  const own = slip.words.options ?? {};
  const options =
    meta.is === 'choice'
      ? meta.options.map((value) => ({
          value,
          label: own[value] ?? t(`choice.${value as keyof Texts['choice']}`, { defaultValue: value }),
        }))
      : [
          { value: 'yes', label: t('yes') },
          { value: 'no', label: t('no') },
        ];
  const value = slip.valueOf(path);
  const shown = meta.is === 'yes_no' && typeof value === 'boolean' ? (value ? 'yes' : 'no') : (value ?? null);
  return (
    <Choice
      {...{ id, label, options }}
      clearable={slip.mayClear(field)}
      value={shown}
      onChange={(chosen) =>
        slip.put(path, meta.is === 'yes_no' && chosen !== null ? chosen === 'yes' : chosen)
      }
    />
  );
};

const SeveralInput = ({ id, path, slip, label, options }: InputProps & { options: readonly string[] }) => (
  <SeveralChoice
    {...{ id, label, options }}
    called={slip.words.options ?? {}}
    value={slip.valueOf(path)}
    onChange={(value) => slip.put(path, value)}
  />
);

const PlainInput = ({ id, path, field, slip, label }: InputProps) => {
  const { on } = useLens();
  const { context } = slip;
  if (!context) return null;
  const typed = slip.typedOf(path);
  return (
    <FieldInput
      {...{ id, label }}
      field={{ ...field.meta, name: lastOf(path) } as Field}
      showing={context.showing}
      on={context.day ?? on}
      autoFocus={slip.firstPath === path}
      value={typed ?? slip.valueOf(path)}
      isChanged={typed !== undefined}
      understood={(value) => slip.declared.understood?.(path, value, context) ?? slip.say(field, value)}
      onChange={(value) => slip.type(path, value)}
    />
  );
};

/** Label of a field: the slip's own word for it, else what the field is called everywhere. */
export const useFieldLabel = () => {
  const { t } = useTranslation();
  const nameOf = useFieldName();
  return (path: string, own: Record<string, string> = {}): string =>
    own[path] ??
    (path.startsWith('own.') ? nameOf('', lastOf(path)) : undefined) ??
    t(`field.${lastOf(path) as keyof Texts['field']}`, { defaultValue: path });
};
