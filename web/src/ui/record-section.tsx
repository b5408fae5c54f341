import {
  type Bound,
  type Day,
  type FileRef,
  type RecordOut,
  type SectionName,
  doorOf,
} from '@gremium/contract';
import { addDays, byFrom, isBefore, isOn } from '@gremium/core';
import { Children, Fragment } from 'react';
import { useTranslation } from 'react-i18next';
import { useLens } from '../frame/lens';
import { useMay } from '../frame/session';
import type { Act } from '../movements/acts';
import { useFormat } from '../texts/format';
import { type Version, beginEdit, beginRow, endRow } from '../time/begin-edit';
import { type Edits, type SectionEdit, editKey } from '../time/edits';
import { SectionEditor } from '../time/section-editor';
import { Facts, type Showing, useShow } from './field-value';
import { catalogueNow } from '../time/catalogue-now';
import { useFieldName } from './field-name';
import { useSectionName } from './section-name';
import { type Field, isElsewhere, shownFieldsOf } from './fields';
import { FileLink } from './file-link';

export type { Version };

/** Begins edits of sections on the day of the lens. */
export const useEditing = ({ record, edits }: { record: RecordOut; edits: Edits }) => {
  const { on, today } = useLens();
  const here = { record, on, today };
  // opened under its own heading or under another one; what was typed already stays
  const open = (edit: SectionEdit, at: SectionName | undefined) => {
    const isAlone = edit.mode === 'create' && !catalogueNow().section(edit.section).several;
    const isSame = (one: SectionEdit) =>
      one.section === edit.section &&
      one.mode !== 'end' &&
      (one.thing === edit.thing || (isAlone && one.mode === 'create'));
    const { at: _, ...known } = edits.edits.find(isSame) ?? edit;
    edits.put({ ...known, values: { ...known.values, ...edit.values }, ...(at ? { at } : {}) });
  };
  return {
    begin: (section: SectionName, version: Version, values: Record<string, unknown> = {}, at?: SectionName) =>
      open({ ...beginEdit(section, version, here), values }, at),
    add: (section: SectionName, owner: number, at?: SectionName) =>
      open(beginRow(section, owner, { on, thing: -1 - edits.edits.length }), at),
    end: (section: SectionName, version: Version) => edits.put(endRow(section, version, here)),
  };
};

export type Editing = ReturnType<typeof useEditing>;
type FactsOf = React.ComponentProps<typeof Facts>['of'];

type Common = {
  section: SectionName;
  editing: Editing;
  edits: Edits;
  showing: Showing;
  /** What can be begun from the record: a section that changes through a movement opens it. */
  acts: readonly Act[];
};

type SectionProps = Common & {
  versions: readonly Version[];
  /** Left out: each field that has a value. */
  facts?: FactsOf;
  /** It is not changed in its place. */
  isFixed?: boolean;
  title?: string;
  /** It is one of several: it can end, and another begin. */
  isOne?: boolean;
};

/** A value as it stands on a record: in words, a file as what opens it. */
export const shownValue = (
  show: ReturnType<typeof useShow>,
  section: SectionName,
  { thing, id, values }: Version,
  field: Field,
): React.ReactNode => {
  const value = values[field.name];
  return field.is === 'file' && value ? (
    <FileLink {...{ section, thing, row: id, field: field.name, file: value as FileRef }} />
  ) : (
    show(field, value)
  );
};

/** What stands in a section on a day: each field that has a value, but those that are told already. */
export const useFacts = (showing: Showing) => {
  const show = useShow(showing);
  const nameOfField = useFieldName();
  return (section: SectionName, version: Version | undefined, told?: ReadonlySet<string>): FactsOf =>
    shownFieldsOf(section)
      .filter(({ name }) => !told?.has(name))
      .map((field) => ({
        label: nameOfField(section, field.name),
        value: version ? shownValue(show, section, version, field) : '',
      }))
      .filter(({ value }) => value !== '');
};

/** A section of a record: what is in effect, since when; edited in its place. */
export const RecordSection = (props: SectionProps) => {
  const { section, versions, edits, showing } = props;
  const { t } = useTranslation();
  const { on } = useLens();
  const factsOf = useFacts(showing);
  const version = versions.find((candidate) => isOn(candidate, on));
  // what is over is shown as it last was, and said to be over
  const last = version ?? lastBefore(versions, on);
  const things = new Set(versions.map(({ thing }) => thing));
  const open = edits.edits.filter(
    (edit) => edit.section === section && things.has(edit.thing) && !isElsewhere(edit),
  );
  const facts = props.facts ?? factsOf(section, last);
  return (
    <section
      className={`block${open.length > 0 ? ' editing' : ''}${last && !version ? ' over' : ''}`}
      id={`section-${section}`}
    >
      <SectionHead {...props} version={version} over={version ? undefined : last} open={open} />
      {open.length === 0 && (last ? <Facts of={facts} /> : <p className="soft">{t('record.nothing')}</p>)}
      {open.map((edit) => (
        <SectionEditor key={editKey(section, edit.thing)} {...{ edit, edits, showing }} />
      ))}
    </section>
  );
};

/** The version that ended last before a day. */
export const lastBefore = <V extends Pick<Version, 'until'>>(
  versions: readonly V[],
  on: Bound,
): V | undefined =>
  versions
    .filter(({ until }) => !isBefore(on, until))
    .sort((a, b) => (isBefore(a.until, b.until) ? 1 : -1))[0];

type HeadProps = SectionProps & {
  version: Version | undefined;
  /** What held last, where nothing is in effect. */
  over: Version | undefined;
  open: Edits['edits'];
};

const SectionHead = (props: HeadProps) => {
  const { section, versions, version, over, title } = props;
  const { t } = useTranslation();
  const nameOfSection = useSectionName();
  const format = useFormat();
  const { on } = useLens();
  const later = versions.filter(({ from }) => isBefore(on, from)).sort(byFrom)[0];
  const last = version && version.until !== 'infinity' && !later ? version.until : null;
  return (
    <h2>
      {title ?? nameOfSection(section)}
      {version && version.from !== '-infinity' && (
        <span className="since">{t('record.since', { day: format.day(version.from) })}</span>
      )}
      {later && <span className="since indigo">{t('record.changes', { day: format.day(later.from) })}</span>}
      {last && (
        <span className="since indigo">{t('record.until', { day: format.day(addDays(last, -1)) })}</span>
      )}
      {over && (
        <span className="since ochre">
          {t('record.over', {
            from: format.day(over.from),
            until: format.day(addDays(over.until as Day, -1)),
          })}
        </span>
      )}
      <span className="act">
        <SectionActs {...props} />
      </span>
    </h2>
  );
};

const SectionActs = ({ section, version, open, isFixed, editing, edits, title, isOne, acts }: HeadProps) => {
  const { t } = useTranslation();
  const nameOfSection = useSectionName();
  const may = useMay();
  const name = title ?? nameOfSection(section);
  if (open.length > 0)
    return <TextAct label={t('edit.discardOne')} act={() => open.forEach((edit) => edits.drop(edit))} />;
  if (isFixed || !version || !may.edit(section)) return null;
  const door = doorOf(section);
  const way = acts.find(({ kind }) => kind === door);
  const begin = () => editing.begin(section, version);
  if (door)
    return (
      <Several>
        {way && (
          <TextAct
            label={t('edit.change')}
            full={t('edit.changeSection', { section: name })}
            act={way.start}
          />
        )}
        {may.act('mend') && (
          <TextAct label={t('edit.correct')} full={t('edit.correctSection', { section: name })} act={begin} />
        )}
      </Several>
    );
  const mayEnd = isOne && version.until === 'infinity';
  return (
    <Several>
      <TextAct label={t('edit.change')} full={t('edit.changeSection', { section: name })} act={begin} />
      {mayEnd && (
        <TextAct
          label={t('edit.end')}
          full={t('edit.endSection', { section: name })}
          act={() => editing.end(section, version)}
        />
      )}
    </Several>
  );
};

/** Acts beside each other, with a dot between. */
const Several = ({ children }: { children: React.ReactNode }) =>
  Children.toArray(children).map((child, i) => (
    <Fragment key={i}>
      {i > 0 && ' · '}
      {child}
    </Fragment>
  ));

const TextAct = ({ label, full, act }: { label: string; full?: string; act: () => void }) => (
  <button type="button" className="textact" aria-label={full ?? label} onClick={act}>
    {label}
  </button>
);

type SeveralProps = Common & {
  /** All versions of all rows of the section that are shown. */
  versions: readonly Version[];
  owner: number;
  titleOf?: (version: Version) => string;
  /** There is one at a time: no other one is added beside it. */
  isAlone?: boolean;
};

/** A section of several rows: each that is in effect (else the last), and one more can begin. */
export const SeveralSection = ({ versions, owner, titleOf, isAlone = false, ...common }: SeveralProps) => {
  const { section, edits, showing } = common;
  const { on } = useLens();
  const groups = [...new Set(versions.map(({ thing }) => thing))].map((thing) =>
    versions.filter((version) => version.thing === thing),
  );
  const there = groups.filter((group) => group.some((version) => isOn(version, on)));
  const fresh = edits.edits.filter(
    (edit) => edit.section === section && edit.mode === 'create' && !isElsewhere(edit),
  );
  return (
    <>
      {(there.length > 0 ? there : groups.slice(-1)).map((group) => {
        const version = group.find((one) => isOn(one, on)) ?? lastBefore(group, on);
        return (
          <RecordSection
            key={group[0]?.thing ?? 0}
            {...common}
            versions={group}
            isOne
            {...(titleOf && version ? { title: titleOf(version) } : {})}
          />
        );
      })}
      {fresh.map((edit) => (
        <section key={edit.thing} className="block editing">
          <NewHead section={section} onDrop={() => edits.drop(edit)} />
          <SectionEditor {...{ edit, edits, showing }} />
        </section>
      ))}
      {!(isAlone && there.length + fresh.length > 0) && (
        <AddRow {...common} owner={owner} isFirst={groups.length === 0 && fresh.length === 0} />
      )}
    </>
  );
};

const NewHead = ({ section, onDrop }: { section: SectionName; onDrop: () => void }) => {
  const { t } = useTranslation();
  const nameOfSection = useSectionName();
  return (
    <h2>
      {t('record.oneMore', { section: nameOfSection(section) })}
      <span className="act">
        <TextAct label={t('edit.discardOne')} act={onDrop} />
      </span>
    </h2>
  );
};

const AddRow = ({ section, editing, owner, isFirst }: Common & { owner: number; isFirst: boolean }) => {
  const { t } = useTranslation();
  const nameOfSection = useSectionName();
  const may = useMay();
  if (!may.edit(section) || !catalogueNow().has(section)) return null;
  const name = nameOfSection(section);
  return (
    <p className={isFirst ? 'addrow first' : 'addrow'}>
      <TextAct label={t('edit.add', { section: name })} act={() => editing.add(section, owner)} />
    </p>
  );
};
