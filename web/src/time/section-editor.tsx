import { type MovementKind, type Values, doorOf, movementOf } from '@gremium/contract';
import { addDays, isEqual } from '@gremium/core';
import { useEffect, useId, useRef } from 'react';
import { useTranslation } from 'react-i18next';
import { useLens } from '../frame/lens';
import { useMay } from '../frame/session';
import { rangeOfEmployment, usePayInWords } from '../people/pay-in-words';
import { useFormat, useReading } from '../texts/format';
import { DayInput, isDay } from '../ui/day-input';
import { FieldInput } from '../ui/field-input';
import { type Showing, useShow } from '../ui/field-value';
import { useFieldName } from '../ui/field-name';
import { type Field, typedFieldsOf } from '../ui/fields';
import { useSentence } from '../ui/problems';
import { BothVersions } from './both-versions';
import { type Edits, type SectionEdit, neededIn } from './edits';

type EditorProps = {
  edit: SectionEdit;
  edits: Edits;
  showing: Showing;
  /** Of its fields, these; left out: those that are shown in its own place. */
  only?: ReadonlySet<string>;
};

/** One section while it is changed: how, from when, and what, beside what was there before. */
export const SectionEditor = (props: EditorProps) => {
  const { edit, edits, showing, only } = props;
  const shown = typedFieldsOf(edit.section).filter(({ name, shownIn }) =>
    only ? only.has(name) : shownIn === undefined || shownIn === edit.section,
  );
  const conflict = edits.conflicts.find(
    (found) => found.section === edit.section && found.thing === edit.thing,
  );
  const isThere = edit.mode !== 'create' && edit.mode !== 'end';
  const box = useRef<HTMLDivElement>(null);
  // a section that is opened comes wholly into view, and is gone on with from the keyboard
  useEffect(() => {
    const section = box.current?.closest('section');
    const sheet = box.current?.closest('.record');
    if (!section || !sheet) return;
    const isTall = section.clientHeight > sheet.clientHeight - 116;
    section.scrollIntoView({ block: isTall ? 'start' : 'nearest' });
    if (document.activeElement === document.body)
      box.current?.querySelector<HTMLElement>('input, button')?.focus({ preventScroll: true });
  }, []);
  return (
    <div className="editor" ref={box} data-section={edit.section}>
      {isThere && <Modes {...props} />}
      {edit.mode !== 'mend' && <Days {...props} />}
      {edit.mode !== 'end' && <FieldsTable {...props} shown={shown} />}
      {edit.mode === 'create' && <Needed edit={edit} />}
      {conflict && <BothVersions {...{ conflict, edit, edits, showing, shown }} />}
    </div>
  );
};

const Modes = ({ edit, edits }: EditorProps) => {
  const { t } = useTranslation();
  const may = useMay();
  return (
    <div className="modes" role="radiogroup" aria-label={t('edit.how')}>
      {(doorOf(edit.section) ? (['mend'] as const) : (['set', 'mend'] as const)).map((mode) => (
        <button
          key={mode}
          type="button"
          role="radio"
          aria-checked={edit.mode === mode}
          disabled={mode === 'mend' && !may.act('mend')}
          onClick={() => edits.put({ ...edit, mode })}
        >
          {t(`edit.${mode}`)}
        </button>
      ))}
      <p className="explains">{t(edit.mode === null ? 'edit.ask' : `edit.${edit.mode as 'set'}Means`)}</p>
    </div>
  );
};

// From when it holds; beside it until when, where it is for a time. Of an end the last day alone.
const Days = ({ edit, edits }: EditorProps) => {
  const { t } = useTranslation();
  const id = useId();
  const isEnd = edit.mode === 'end';
  const { unread = {} } = edit;
  // a text that is no day is kept beside the day, and bars the save
  const take = (which: 'from' | 'lastDay', typed: string | null) => {
    const { [which]: _, ...others } = unread;
    const isRead = typed === null || isDay(typed);
    edits.put({
      ...edit,
      ...(isRead ? { [which]: typed } : {}),
      unread: isRead ? others : { ...others, [which]: typed },
    });
  };
  return (
    <div className="fromuntil">
      <label className="from" htmlFor={`${id}from`}>
        <span>{t(isEnd ? 'edit.lastDay' : 'edit.from')}</span>
        <DayInput
          id={`${id}from`}
          value={unread.from ?? (edit.from === '-infinity' ? null : edit.from)}
          onChange={(day) => take('from', day ?? '')}
        />
      </label>
      {!isEnd && (
        <label className="from" htmlFor={`${id}until`}>
          <span>{t('edit.untilOptional')}</span>
          <DayInput
            id={`${id}until`}
            value={unread.lastDay ?? edit.lastDay ?? null}
            onChange={(day) => take('lastDay', day)}
          />
        </label>
      )}
    </div>
  );
};

const Needed = ({ edit }: { edit: SectionEdit }) => {
  const { t } = useTranslation();
  const reading = useReading();
  const needed = neededIn(edit, reading);
  const nameOfField = useFieldName();
  if (needed.length === 0) return null;
  const what = needed.map((name) => nameOfField(edit.section, name)).join(', ');
  return <p className="soft">{t('slip.missing', { what })}</p>;
};

type FieldsProps = EditorProps & { shown: readonly Field[] };

const FieldsTable = (props: FieldsProps) => {
  const { t } = useTranslation();
  const format = useFormat();
  const { edit, shown } = props;
  const isMend = edit.mode === 'mend';
  const eve = edit.from === '-infinity' ? '' : format.day(addDays(edit.from, -1));
  return (
    <table className="beforeafter">
      <thead>
        <tr>
          <th scope="col">
            <span className="hidden">{t('edit.field')}</span>
          </th>
          {edit.mode !== 'create' && (
            <th scope="col">{isMend ? t('edit.recorded') : t('edit.until', { day: eve })}</th>
          )}
          <th scope="col" className="after">
            {isMend ? t('edit.right') : t('edit.fromDay', { day: format.day(edit.from) })}
          </th>
        </tr>
      </thead>
      <tbody>
        {shown.map((field) => (
          <FieldRow key={field.name} {...props} field={field} />
        ))}
      </tbody>
    </table>
  );
};

// What was found of a field: named by its field, in the section that says it.
const foundAt = (edits: Edits, { section }: SectionEdit, name: string) =>
  edits.found.filter(
    ({ field, code }) =>
      field?.split('.').at(-1) === name &&
      code !== 'word_missing' &&
      edits.edits.every((other) => other.section === section || !(name in other.values)),
  );

const FieldRow = ({ edit, edits, showing, field }: FieldsProps & { field: Field }) => {
  const { t } = useTranslation();
  const show = useShow(showing);
  const id = useId();
  const { on } = useLens();
  const understood = usePayUnderstood(edit, showing);
  const { name } = field;
  const label = useFieldName()(edit.section, name);
  const isChanged = name in edit.values;
  const sentence = useSentence();
  const found = isChanged || edit.mode === 'create' ? foundAt(edits, edit, name) : [];
  const isElsewhere = field.door !== undefined && edit.mode === 'set';
  const actName = useActName();
  const change = (value: unknown) => {
    const { [name]: _, ...others } = edit.values;
    const isBack = edit.mode !== 'create' && isEqual(value ?? null, edit.base[name] ?? null);
    edits.put({ ...edit, values: isBack ? others : { ...edit.values, [name]: value } });
  };
  return (
    <tr className={isChanged ? 'changed' : undefined}>
      <th scope="row">{label}</th>
      {edit.mode !== 'create' && <td>{show(field, edit.base[name]) || '–'}</td>}
      <td>
        {isElsewhere ? (
          <>
            {show(field, edit.base[name]) || '–'}
            <div className="source">{t('edit.byMovement', { act: actName(field.door) })}</div>
          </>
        ) : (
          <FieldInput
            id={id}
            {...{ label, field, showing, isChanged }}
            on={edit.from === '-infinity' ? on : edit.from}
            value={isChanged ? edit.values[name] : edit.base[name]}
            understood={name === 'amount' ? understood : undefined}
            onChange={change}
          />
        )}
        {found.map((problem) => (
          <div key={problem.code} className={problem.severity === 'error' ? 'source brick' : 'source ochre'}>
            ! {sentence(problem)}
          </div>
        ))}
      </td>
    </tr>
  );
};

// What a movement is called where it is begun.
const useActName = () => {
  const { language } = useTranslation().i18n;
  return (kind: string | undefined): string => {
    const { act } = movementOf(kind as MovementKind);
    return language === 'de' ? act.de : act.en;
  };
};

// An amount of pay is said back with what it was and its range.
const usePayUnderstood = (edit: SectionEdit, { register }: Showing) => {
  const payInWords = usePayInWords();
  const { on } = useLens();
  return (value: unknown): string => {
    const said = { ...edit.base, ...edit.values } as Values<'pay'>;
    const { amount, currency, basis } = said;
    const isAlike = currency === edit.base['currency'] && basis === edit.base['basis'];
    const from = edit.from === '-infinity' ? on : edit.from;
    return payInWords({
      ...{ amount: String(value), currency, basis },
      before: isAlike && amount ? String(edit.base['amount']) : undefined,
      range: rangeOfEmployment(register, said, from),
    });
  };
};
