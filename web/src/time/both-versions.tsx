import { Button } from 'antd';
import { useTranslation } from 'react-i18next';
import { ComparedTable } from '../ui/compared-table';
import { type Showing, useShow } from '../ui/field-value';
import type { Field } from '../ui/fields';
import type { Version } from './begin-edit';
import type { Conflict, Edits, SectionEdit } from './edits';
import { useFieldName } from '../ui/field-name';

type Both = {
  conflict: Conflict;
  edit: SectionEdit;
  edits: Edits;
  showing: Showing;
  shown: readonly Field[];
};

/** Two people saved the same section: what was there, what the other saved, what was typed here, field by field. */
export const BothVersions = ({ conflict, edit, edits, showing, shown }: Both) => {
  const nameOfField = useFieldName();
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
  const settle = (act: () => void) => () => {
    edits.save.reset();
    act();
  };
  return (
    <div className="conflict" role="alert">
      <p>! {t('problem.conflict', { entry: conflict.entry })}</p>
      <ComparedTable
        heads={[t('edit.was'), t('edit.theirs'), t('edit.mine')]}
        rows={differing.map((field) => ({
          key: field.name,
          label: nameOfField(edit.section, field.name),
          cells: [edit.base[field.name], theirs.values[field.name], mine(field.name)].map(
            (value) => show(field, value) || '–',
          ),
        }))}
      />
      <Button onClick={settle(() => edits.put(rebased))}>{t('edit.keepMine')}</Button>{' '}
      <Button type="text" onClick={settle(() => edits.drop(edit))}>
        {t('edit.takeTheirs')}
      </Button>
    </div>
  );
};
