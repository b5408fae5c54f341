import { type FieldMeta, type OwnField, type OwnSection, preset } from '@gremium/contract';
import { codeFrom } from '@gremium/core';
import { Input } from 'antd';
import { useTranslation } from 'react-i18next';
import { useLens } from '../frame/lens';
import type { Texts } from '../texts/en';
import { useReading } from '../texts/format';
import { useWords } from '../texts/words';
import { EntryField } from '../ui/entry-field';
import { Choice, FieldInput } from '../ui/field-input';
import type { Showing } from '../ui/field-value';
import { ThingInputs, readThing, useTypedThing } from '../ui/thing-inputs';
import { readTyped } from '../ui/typed';
import { EntryFrame } from './entry-frame';
import type { Definition, NewField } from './own-acts';
import { ownWords } from './own-words';

type Typed = Record<string, unknown>;
type FormProps<V> = {
  /** What it is now; none: a new one. */
  now?: Definition<V> | undefined;
  place: number;
  error: Error | null;
  isBusy: boolean;
  onLeave: () => void;
};

const textOf = (value: unknown): string => (typeof value === 'string' ? value.trim() : '');

const begun = (values: { label: { en: string; de: string } } | undefined): Typed =>
  values ? { ...values, en: values.label.en, de: values.label.de } : {};

// A name in one language stands for both until somebody translates it.
const labelIn = (typed: Typed) => {
  const [en, de] = [textOf(typed['en']), textOf(typed['de'])];
  return { en: en || de, de: de || en };
};

const isNamed = (typed: Typed): boolean => textOf(typed['en']) !== '' || textOf(typed['de']) !== '';

const Names = ({ typed, set }: { typed: Typed; set: (name: string) => (value: unknown) => void }) => {
  const words = useWords(ownWords);
  const { i18n } = useTranslation();
  const order = i18n.language === 'de' ? (['de', 'en'] as const) : (['en', 'de'] as const);
  const labels = { en: words.labelEn, de: words.labelDe };
  return order.map((language, i) => (
    <EntryField key={language} label={labels[language]}>
      <Input
        aria-label={labels[language]}
        autoFocus={i === 0}
        autoComplete="off"
        maxLength={200}
        className="line-input"
        variant="underlined"
        value={textOf(typed[language]) === '' ? String(typed[language] ?? '') : String(typed[language])}
        onChange={(event) => set(language)(event.target.value)}
      />
    </EntryField>
  ));
};

/** A section, typed. */
export const SectionForm = ({
  now,
  place,
  onSave,
  ...frame
}: FormProps<OwnSection> & { onSave: (values: OwnSection, name: string) => void }) => {
  const words = useWords(ownWords);
  const { i18n } = useTranslation();
  const reading = useReading();
  const [typed, set] = useTypedThing(() => ({
    ...{ of: 'person', several: false, sensitive: false },
    ...begun(now?.values),
  }));
  const label = labelIn(typed);
  const save = () => {
    const read = readThing('own_section', typed, reading) as unknown as OwnSection;
    const values: OwnSection = {
      ...read,
      label,
      code: now?.values.code ?? codeFrom(label.en),
      place: now?.values.place ?? place,
      retired: now?.values.retired ?? null,
    };
    onSave(values, i18n.language === 'de' ? label.de : label.en);
  };
  return (
    <EntryFrame
      lead={now ? words.change : words.addSection}
      submit={words.save}
      isReady={isNamed(typed)}
      {...frame}
      onSubmit={save}
    >
      <div className="entryfields">
        <Names typed={typed} set={set} />
        <ThingInputs
          section="own_section"
          {...{ typed, set }}
          only={[...(now ? [] : ['of']), 'several', 'sensitive', 'seenBy', 'editedBy']}
        />
      </div>
    </EntryFrame>
  );
};

// What more is asked of a field of a kind.
const ASKED: { [K in OwnField['kind']]?: readonly string[] } = {
  text: ['unique', 'pattern', 'searched'],
  email: ['unique', 'searched'],
  phone: ['unique', 'searched'],
  link: ['unique', 'searched'],
  number: ['unique', 'least', 'most'],
};

// What can be preset: kinds that are typed.
const USUAL: { [K in OwnField['kind']]?: FieldMeta } = {
  text: { is: 'text' },
  long_text: { is: 'text', long: true },
  email: { is: 'email' },
  phone: { is: 'phone' },
  link: { is: 'link' },
  number: { is: 'decimal' },
  day: { is: 'day' },
  yes_no: { is: 'yes_no' },
};

const NOTHING = { register: { rows: () => [] }, nameOf: () => '' } as unknown as Showing;

const usualOf = (meta: FieldMeta | undefined, typed: unknown, reading: string): OwnField['usual'] => {
  if (!meta || typed === null || typed === undefined || typed === '') return null;
  const read = readTyped({ ...meta, name: 'usual' }, typed, reading);
  return ('problem' in read ? typed : read.value) as OwnField['usual'];
};

/** A field, typed; its kind never changes. */
export const FieldForm = ({
  now,
  place,
  sectionId,
  mayAsk,
  begin,
  onSave,
  ...frame
}: FormProps<OwnField> & {
  /** What a new one begins with, where something is proposed. */
  begin?: Typed;
  sectionId: number;
  /** A hire can ask for it. */
  mayAsk: boolean;
  onSave: (made: NewField, name: string) => void;
}) => {
  const words = useWords(ownWords);
  const { i18n } = useTranslation();
  const reading = useReading();
  const { on } = useLens();
  const [typed, set] = useTypedThing(() => ({
    ...{ kind: 'text', required: false },
    ...begin,
    ...begun(now?.values),
  }));
  const kind = typed['kind'] as OwnField['kind'];
  const label = labelIn(typed);
  const isChoice = kind === 'list' || kind === 'lists';
  const hasOwnChoices = isChoice && (typed['list'] ?? 'own') === 'own';
  const save = () => {
    const read = readThing('own_field', typed, reading) as unknown as OwnField;
    const values: OwnField = {
      ...read,
      ...{ sectionId, kind, label },
      code: now?.values.code ?? codeFrom(label.en),
      help: textOf(typed['help']) || null,
      usual: usualOf(USUAL[kind], typed['usual'], reading),
      list: isChoice ? ((typed['list'] as OwnField['list']) ?? 'own') : null,
      place: now?.values.place ?? place,
      retired: now?.values.retired ?? null,
    };
    const choices =
      now || !hasOwnChoices
        ? []
        : textOf(typed['choices'])
            .split('\n')
            .map((one) => one.trim())
            .filter(Boolean);
    onSave({ values, choices: [...new Set(choices)] }, i18n.language === 'de' ? label.de : label.en);
  };
  return (
    <EntryFrame
      lead={now ? words.change : words.addField}
      submit={words.save}
      isReady={isNamed(typed)}
      {...frame}
      onSubmit={save}
    >
      <div className="entryfields">
        <Names typed={typed} set={set} />
        {!now && (
          <OptionOfField
            of="kind"
            label={words.kind}
            called={words.kinds}
            value={kind}
            onChange={set('kind')}
          />
        )}
        {!now && isChoice && (
          <OptionOfField
            of="list"
            label={words.list}
            called={{ own: words.ownChoices }}
            value={typed['list'] ?? 'own'}
            onChange={set('list')}
          />
        )}
        {!now && hasOwnChoices && (
          <EntryField label={words.choices}>
            <Input.TextArea
              aria-label={words.choices}
              autoSize={{ minRows: 3, maxRows: 10 }}
              value={String(typed['choices'] ?? '')}
              onChange={(event) => set('choices')(event.target.value)}
            />
          </EntryField>
        )}
        <ThingInputs
          section="own_field"
          {...{ typed, set }}
          only={['help', 'required', ...(mayAsk ? ['atHire'] : []), ...(ASKED[kind] ?? [])]}
        />
        {USUAL[kind] && (
          <EntryField label={words.usual}>
            <FieldInput
              id="own-field-usual"
              label={words.usual}
              field={{ ...USUAL[kind], name: 'usual' }}
              showing={NOTHING}
              on={on}
              value={typed['usual'] ?? null}
              onChange={set('usual')}
            />
          </EntryField>
        )}
        {kind === 'text' && <p className="source">{words.pattern}</p>}
      </div>
    </EntryFrame>
  );
};

type OptionProps = {
  of: 'kind' | 'list';
  label: string;
  /** Options that are called otherwise than among those of other fields. */
  called: Record<string, string>;
  value: unknown;
  onChange: (value: unknown) => void;
};

// An option of a field of the definition itself: its kind, or the list that it is chosen from.
const OptionOfField = ({ of, label, called, value, onChange }: OptionProps) => {
  const { t } = useTranslation();
  const meta = preset.section('own_field').metas.get(of);
  const options = meta?.is === 'choice' ? meta.options : [];
  return (
    <EntryField label={label}>
      <Choice
        id={`own-field-${of}`}
        {...{ label, value, onChange }}
        clearable={false}
        options={options.map((option) => ({
          value: option,
          label: called[option] ?? t(`choice.${option as keyof Texts['choice']}`),
        }))}
      />
    </EntryField>
  );
};
