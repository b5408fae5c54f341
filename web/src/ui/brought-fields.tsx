// Fields that are kept in one section and shown under another: read there, and changed there.
import type { Kind, SectionName } from '@gremium/contract';
import { isOn } from '@gremium/core';
import { useTranslation } from 'react-i18next';
import { useLens } from '../frame/lens';
import { useMay } from '../frame/session';
import { editKey } from '../time/edits';
import { catalogueNow } from '../time/catalogue-now';
import { SectionEditor } from '../time/section-editor';
import { Facts, useShow } from './field-value';
import { useFieldName } from './field-name';
import { type Field, broughtInto } from './fields';
import { type Editing, type Version, lastBefore, shownValue } from './record-section';
import type { RecordContext } from './record-sheet';
import { useSectionName } from './section-name';

type Context = Pick<RecordContext, 'edits' | 'editing' | 'showing' | 'of' | 'rows'>;

/** Whether fields of other sections are shown under one. */
export const isBrought = (into: SectionName, may: (section: SectionName) => boolean): boolean =>
  broughtInto(into).some(({ section }) => may(section));

/** What other sections keep and this one shows. */
export const BroughtFields = ({ into, ...context }: Context & { into: SectionName }) => {
  const may = useMay();
  return broughtInto(into)
    .filter(({ section }) => may.view(section))
    .map(({ section, fields }) => <FromOne key={section} {...{ section, fields, into, ...context }} />);
};

const isOwners = (section: SectionName, { kind, id }: { kind: Kind; id: number }) => {
  const { owner } = catalogueNow().section(section);
  return ({ thing, values }: Version): boolean =>
    owner && owner.field !== 'thing' ? owner.kind === kind && values[owner.field] === id : thing === id;
};

type OneProps = Context & { section: SectionName; into: SectionName; fields: readonly Field[] };

const FromOne = ({ section, into, fields, edits, editing, showing, of, rows }: OneProps) => {
  const { t } = useTranslation();
  const { on } = useLens();
  const name = useSectionName()(section);
  const nameOfField = useFieldName();
  const show = useShow(showing);
  const isTheirs = isOwners(section, of);
  const versions = (rows.filter((row) => row.section === section) as Version[]).filter(isTheirs);
  const version = versions.find((one) => isOn(one, on)) ?? lastBefore(versions, on);
  const open = edits.edits.filter(
    (edit) =>
      edit.section === section &&
      (edit.mode === 'create' || versions.some(({ thing }) => thing === edit.thing)),
  );
  const facts = fields
    .map((field) => ({
      label: nameOfField(section, field.name),
      value: version ? shownValue(show, section, version, field) : '',
    }))
    .filter(({ value }) => value !== '');
  if (open.length > 0)
    return (
      <section className="block editing brought">
        {open.map((edit) => (
          <div key={editKey(section, edit.thing)}>
            <p className="rowhead">
              {name}{' '}
              <button type="button" className="textact" onClick={() => edits.drop(edit)}>
                {t('edit.discardOne')}
              </button>
            </p>
            <SectionEditor {...{ edit, edits, showing }} only={new Set(fields.map((field) => field.name))} />
          </div>
        ))}
      </section>
    );
  return (
    <section className="block brought" data-from={section}>
      {facts.length > 0 && <Facts of={facts} />}
      <Begin {...{ section, into, version, editing, owner: of.id }} />
    </section>
  );
};

// A change of what stands, or the first time that anything is said.
const Begin = ({
  section,
  into,
  version,
  editing,
  owner,
}: {
  section: SectionName;
  into: SectionName;
  version: Version | undefined;
  editing: Editing;
  owner: number;
}) => {
  const { t } = useTranslation();
  const may = useMay();
  const name = useSectionName()(section);
  if (!may.edit(section)) return null;
  const begin = () =>
    version ? editing.begin(section, version, {}, into) : editing.add(section, owner, into);
  return (
    <p className="addrow">
      <button type="button" className="textact" onClick={begin}>
        {t('record.broughtFrom', { section: name })}
      </button>
    </p>
  );
};
