import { useId } from 'react';
import type { Bound, RecordOut, SectionName, Values } from '@gremium/contract';
import { addDays } from '@gremium/core';
import { Button } from 'antd';
import { useTranslation } from 'react-i18next';
import { useLens } from '../frame/lens';
import { useMay } from '../frame/session';
import { rangeOfEmployment, usePayInWords } from '../people/pay-in-words';
import type { Texts } from '../texts/en';
import { useFormat } from '../texts/format';
import { DayInput, FieldInput } from '../ui/field-input';
import { type Showing, useShow } from '../ui/field-value';
import { type Field, fieldsOf } from '../ui/fields';
import type { Conflict, Edits, SectionEdit } from './edits';

export type Version = {
  id: number;
  thing: number;
  from: Bound;
  until: Bound;
  values: Record<string, unknown>;
};

/** The start of an edit of a section: from the day of the lens, nothing changed yet. For a past day the mode is asked. */
export const beginEdit = (
  section: SectionName,
  version: Version,
  { record, on, today }: { record: RecordOut; on: Bound; today: Bound },
): SectionEdit => ({
  section,
  thing: version.thing,
  mode: on < today ? null : 'set',
  from: version.from > on ? version.from : on,
  row: version.id,
  values: {},
  base: version.values,
  basedOn:
    record.lastEntries.find((last) => last.section === section && last.thing === version.thing)?.number ?? 0,
});

type EditorProps = {
  edit: SectionEdit;
  edits: Edits;
  showing: Showing;
  fields?: readonly string[];
};

/** One section while it is changed: how, from when, and what, beside what was there before. */
export const SectionEditor = ({ edit, edits, showing, fields }: EditorProps) => {
  const { t } = useTranslation();
  const format = useFormat();
  const show = useShow(showing);
  const may = useMay();
  const payInWords = usePayInWords();
  const id = useId();
  const { on } = useLens();
  const shown = fieldsOf(edit.section).filter(({ name }) => !fields || fields.includes(name));
  const change = (name: string, value: unknown) => {
    const { [name]: _, ...others } = edit.values;
    const isBack = (value ?? null) === (edit.base[name] ?? null);
    edits.put({ ...edit, values: isBack ? others : { ...edit.values, [name]: value } });
  };
  const conflict = edits.conflicts.find(
    (found) => found.section === edit.section && found.thing === edit.thing,
  );
  const isMend = edit.mode === 'mend';
  const understood = (value: unknown): string => {
    const { amount, currency, basis, employmentId } = { ...edit.base, ...edit.values } as Values<'pay'>;
    const isAlike = currency === edit.base['currency'] && basis === edit.base['basis'];
    return payInWords({
      ...{ amount: String(value), currency, basis },
      before: isAlike && amount ? String(edit.base['amount']) : undefined,
      range: rangeOfEmployment(
        showing.register,
        employmentId,
        currency,
        edit.from === '-infinity' ? on : edit.from,
      ),
    });
  };
  return (
    <div className="editor" data-section={edit.section}>
      <div className="modes" role="radiogroup" aria-label={t('edit.how')}>
        {(['set', 'mend'] as const).map((mode) => (
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
        <p className="explains">{t(edit.mode === null ? 'edit.ask' : `edit.${edit.mode}Means`)}</p>
      </div>
      {!isMend && (
        <label className="from" htmlFor={`${id}from`}>
          <span>{t('edit.from')}</span>
          <DayInput
            id={`${id}from`}
            value={edit.from === '-infinity' ? null : edit.from}
            onChange={(day) => edits.put({ ...edit, from: (day ?? on) as Bound })}
          />
        </label>
      )}
      <table className="beforeafter">
        <thead>
          <tr>
            <th scope="col">
              <span className="hidden">{t('edit.field')}</span>
            </th>
            <th scope="col">
              {isMend
                ? t('edit.recorded')
                : t('edit.until', {
                    day: edit.from === '-infinity' ? '' : format.day(addDays(edit.from, -1)),
                  })}
            </th>
            <th scope="col" className="after">
              {isMend ? t('edit.right') : t('edit.fromDay', { day: format.day(edit.from) })}
            </th>
          </tr>
        </thead>
        <tbody>
          {shown.map((field) => (
            <tr key={field.name} className={field.name in edit.values ? 'changed' : undefined}>
              <th scope="row">{t(`field.${field.name as keyof Texts['field']}`)}</th>
              <td>{show(field, edit.base[field.name]) || '–'}</td>
              <td>
                <FieldInput
                  id={`${id}${field.name}`}
                  label={t(`field.${field.name as keyof Texts['field']}`)}
                  field={field}
                  showing={showing}
                  on={edit.from === '-infinity' ? on : edit.from}
                  value={field.name in edit.values ? edit.values[field.name] : edit.base[field.name]}
                  isChanged={field.name in edit.values}
                  understood={field.name === 'amount' ? understood : undefined}
                  onChange={(value) => change(field.name, value)}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {conflict && <BothVersions {...{ conflict, edit, edits, showing, shown }} />}
    </div>
  );
};

type Both = {
  conflict: Conflict;
  edit: SectionEdit;
  edits: Edits;
  showing: Showing;
  shown: readonly Field[];
};

/** Two people saved the same section: what was there, what the other saved, what was typed here, field by field. */
const BothVersions = ({ conflict, edit, edits, showing, shown }: Both) => {
  const { t } = useTranslation();
  const show = useShow(showing);
  const theirs = (conflict.now.find(({ from, until }) => from <= edit.from && edit.from < until) ??
    conflict.now.at(-1)) as Version | undefined;
  if (!theirs) return null;
  const mine = (name: string) => (name in edit.values ? edit.values[name] : edit.base[name]);
  const differing = shown.filter(
    ({ name }) =>
      name in edit.values || JSON.stringify(theirs.values[name]) !== JSON.stringify(edit.base[name]),
  );
  const rebased = { ...edit, basedOn: conflict.entry, base: theirs.values, row: theirs.id };
  return (
    <div className="conflict" role="alert">
      <p>! {t('problem.conflict', { entry: conflict.entry })}</p>
      <table className="beforeafter">
        <thead>
          <tr>
            <th scope="col">
              <span className="hidden">{t('edit.field')}</span>
            </th>
            <th scope="col">{t('edit.was')}</th>
            <th scope="col">{t('edit.theirs')}</th>
            <th scope="col">{t('edit.mine')}</th>
          </tr>
        </thead>
        <tbody>
          {differing.map((field) => (
            <tr key={field.name}>
              <th scope="row">{t(`field.${field.name as keyof Texts['field']}`)}</th>
              <td>{show(field, edit.base[field.name]) || '–'}</td>
              <td>{show(field, theirs.values[field.name]) || '–'}</td>
              <td>{show(field, mine(field.name)) || '–'}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <Button
        onClick={() => {
          edits.save.reset();
          edits.put(rebased);
        }}
      >
        {t('edit.keepMine')}
      </Button>{' '}
      <Button
        type="text"
        onClick={() => {
          edits.save.reset();
          edits.drop(edit);
        }}
      >
        {t('edit.takeTheirs')}
      </Button>
    </div>
  );
};
