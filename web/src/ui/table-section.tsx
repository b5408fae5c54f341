// A section of several short rows as one table: a line for each that is in effect, changed, ended and added in its place.
import { type Day, type SectionName } from '@gremium/contract';
import { isOn } from '@gremium/core';
import { Fragment } from 'react';
import { useTranslation } from 'react-i18next';
import { useLens } from '../frame/lens';
import { useMay } from '../frame/session';
import { useFormat } from '../texts/format';
import { type Edits, editKey } from '../time/edits';
import { SectionEditor } from '../time/section-editor';
import { type Showing, useShow } from './field-value';
import { EXPIRES, useExpirySaid } from './expiry';
import { useFieldName } from './field-name';
import { ownSectionOf } from '../time/catalogue-now';
import { fieldsOf } from './fields';
import { useSectionName } from './section-name';
import { type Editing, type Version, shownValue } from './record-section';
import { PlainTable } from './plain-table';

type TableProps = {
  section: SectionName;
  /** All versions of all rows of the section that are shown. */
  versions: readonly Version[];
  /** Whose they are. */
  owner: number;
  editing: Editing;
  edits: Edits;
  showing: Showing;
  /** In which order they stand; left out: as they were recorded. */
  order?: (a: Version, b: Version) => number;
  /** Said where there is none. */
  empty?: React.ReactNode;
  /** What stands under it. */
  foot?: React.ReactNode;
};

// More columns have no room beside index and chronicle.
const MOST_COLUMNS = 4;

/** Rows of a section in a table, with the editors of those that are being changed below it. */
export const TableSection = ({ section, versions, owner, order, empty, foot, ...common }: TableProps) => {
  const { edits, editing, showing } = common;
  const { t } = useTranslation();
  const { on } = useLens();
  const may = useMay();
  const format = useFormat();
  const show = useShow(showing);
  const nameOfField = useFieldName();
  const isRetired = ownSectionOf(section)?.retired === true;
  const expiry = useExpirySaid();
  const mayEdit = may.edit(section) && !isRetired;
  const rows = versions.filter((version) => isOn(version, on)).sort(order ?? (() => 0));
  const things = new Set(versions.map(({ thing }) => thing));
  const open = edits.edits.filter(
    (edit) => edit.section === section && (edit.mode === 'create' || things.has(edit.thing)),
  );
  const fields = fieldsOf(section).filter(({ name }) =>
    rows.some(({ values }) => show({ ...fieldOf(section, name) }, values[name]) !== ''),
  );
  const name = useSectionName()(section);
  const cell = (version: Version, field: (typeof fields)[number]): React.ReactNode => {
    const until = EXPIRES.includes(field.name) ? (version.values[field.name] as Day | null) : null;
    if (!until) return shownValue(show, section, version, field) || '–';
    const { text, tone } = expiry(until);
    return tone ? <span className={tone}>{text}</span> : text;
  };
  // what has no room as a column stands under its row
  const isWide = ({ is, ...field }: (typeof fields)[number]) =>
    is === 'file' || ('long' in field && field.long);
  const narrow = fields.filter((field) => !isWide(field));
  // until when something holds always has a column
  const until = narrow.filter(({ name: field }) => EXPIRES.includes(field));
  const others = narrow.filter((field) => !until.includes(field));
  const columns =
    fields.length > MOST_COLUMNS ? [...others.slice(0, MOST_COLUMNS - until.length), ...until] : fields;
  const beneath = fields.filter((field) => !columns.includes(field));
  const underOf = (version: Version): React.ReactNode => {
    const said = beneath.filter((field) => show(field, version.values[field.name]) !== '');
    if (said.length === 0) return undefined;
    return said.map((field, i) => (
      <Fragment key={field.name}>
        {i > 0 && ' · '}
        <span className="soft">{nameOfField(section, field.name)}</span> {cell(version, field)}
      </Fragment>
    ));
  };
  const isShort = ({ is }: (typeof fields)[number]) => is === 'choice' || is === 'day' || is === 'currency';
  const isNumber = ({ is }: (typeof fields)[number]) =>
    is === 'number' || is === 'decimal' || is === 'hundredths';
  return (
    <section className={open.length > 0 ? 'block editing' : 'block'} id={`section-${section}`}>
      <h2>{name}</h2>
      {rows.length === 0 && open.length === 0 && (empty || !mayEdit) && (
        <p className="soft">{empty ?? t('record.nothing')}</p>
      )}
      {rows.length > 0 && (
        <PlainTable
          heads={[
            ...columns.map((field) => ({
              label: nameOfField(section, field.name),
              isNumber: isNumber(field),
              isShort: isShort(field),
            })),
            { label: t('edit.since'), isShort: true },
            ...(mayEdit ? [{ label: t('edit.acts'), isShort: true }] : []),
          ]}
          rows={rows.map((version) => ({
            key: version.id,
            cells: [
              ...columns.map((field) => cell(version, field)),
              version.from === '-infinity' ? '–' : format.day(version.from),
              ...(mayEdit ? [<RowActs key="acts" {...{ version, section, editing, name }} />] : []),
            ],
            under: underOf(version),
          }))}
        />
      )}
      {open.map((edit) => (
        <div key={editKey(section, edit.thing)}>
          <p className="rowhead">
            {edit.mode === 'create' ? t('record.oneMore', { section: name }) : name}{' '}
            <button type="button" className="textact" onClick={() => edits.drop(edit)}>
              {t('edit.discardOne')}
            </button>
          </p>
          <SectionEditor {...{ edit, edits, showing }} />
        </div>
      ))}
      {foot}
      {mayEdit && (
        <p className={rows.length === 0 ? 'addrow first' : 'addrow'}>
          <button type="button" className="textact" onClick={() => editing.add(section, owner)}>
            {t('edit.add', { section: name })}
          </button>
        </p>
      )}
    </section>
  );
};

const fieldOf = (section: SectionName, name: string) =>
  fieldsOf(section).find((field) => field.name === name) as ReturnType<typeof fieldsOf>[number];

type ActsProps = Pick<TableProps, 'section' | 'editing'> & { version: Version; name: string };

const RowActs = ({ version, section, editing, name }: ActsProps) => {
  const { t } = useTranslation();
  return (
    <>
      <button
        type="button"
        className="textact"
        aria-label={t('edit.changeSection', { section: name })}
        onClick={() => editing.begin(section, version)}
      >
        {t('edit.change')}
      </button>
      {version.until === 'infinity' && (
        <>
          {' · '}
          <button
            type="button"
            className="textact"
            aria-label={t('edit.endSection', { section: name })}
            onClick={() => editing.end(section, version)}
          >
            {t('edit.end')}
          </button>
        </>
      )}
    </>
  );
};
