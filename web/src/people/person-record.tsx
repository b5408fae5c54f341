import { type Day, type ReplyOf, type SectionName, peopleEndpoints, preset } from '@gremium/contract';
import { contractedShare, expiryOn, hundredths, isOn, requirementsOf } from '@gremium/core';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { useLens, useTo } from '../frame/lens';
import { useMay } from '../frame/session';
import { pathOf } from '../frame/pages';
import type { Texts } from '../texts/en';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { Chronicle } from '../time/chronicle';
import { EXPIRES } from '../ui/expiry';
import { fieldsOf } from '../ui/fields';
import { LoadedRecord } from '../ui/loaded-record';
import { RecordSection, SeveralSection, type Version } from '../ui/record-section';
import {
  type Loaded,
  type PartMark,
  type RecordContext,
  type RecordPart,
  RecordSheet,
  useRecord,
} from '../ui/record-sheet';
import { TableSection } from '../ui/table-section';
import { useRecordQuery } from '../ui/use-record-query';
import { PayCompared } from './pay-compared';
import { PersonHead } from './person-head';
import { type PersonThen, personThen } from './person-then';
import { WhoMay } from './who-may';
import { QUALIFYING, QualifiedPart, qualifiedWords } from './qualified';

export type LoadedPerson = Loaded<ReplyOf<typeof peopleEndpoints.personRecord>>;

/** The record of a person: head, sections in one sheet with an index, chronicle beside it. */
export const PersonRecord = ({ id }: { id: number }) => (
  <LoadedRecord query={useRecordQuery(peopleEndpoints.personRecord, { kind: 'person', id })}>
    {(loaded) => <Sheet id={id} {...loaded} />}
  </LoadedRecord>
);

const Sheet = (loaded: LoadedPerson) => {
  const { id, record, register, nameOf } = loaded;
  const { on } = useLens();
  const then = personThen(loaded, on);
  const ids = {
    personId: id,
    employmentId: then.main?.id,
    awayEmploymentId: then.main?.id,
    placementId: then.forATime,
    absenceId: then.absence,
    standInId: then.standIn,
  };
  const states = [
    then.status,
    ...(then.forATime === undefined ? [] : ['for_a_time']),
    ...(then.isEnding ? ['ending'] : []),
    ...(then.isAbsent ? ['absent'] : []),
    ...(then.standIn === undefined ? [] : ['stands_in']),
  ];
  const context = useRecord('person', loaded, { name: then.name, ids, states });
  return (
    <RecordSheet
      context={context}
      head={(acts) => <PersonHead {...{ loaded, then, acts }} />}
      parts={useParts(loaded, then, context)}
      beside={<Chronicle kind="person" {...{ id, record, register, nameOf }} />}
    />
  );
};

const OF_ITS_OWN: readonly SectionName[] = [
  'placement',
  'employment',
  'contract',
  'pay',
  'contact',
  'person_name',
  'person',
];

// Whatever else is declared of a person or of their employments.
const others: readonly SectionName[] = [
  ...preset.of('person'),
  ...preset.belongingTo('person'),
  ...preset.belongingTo('employment'),
].filter((name) => !OF_ITS_OWN.includes(name));

// Parts in the order of reading: those of which something may be seen.
const useParts = (loaded: LoadedPerson, then: PersonThen, context: RecordContext): RecordPart[] => {
  const { t } = useTranslation();
  const { record, id } = loaded;
  const may = useMay();
  const { on } = useLens();
  const [opened, setOpened] = useState<ReadonlySet<SectionName>>(new Set());
  // also what is being added: a draft that was kept is found again
  const seen = (name: SectionName) =>
    record.rows.some((row) => row.section === name) ||
    context.edits.edits.some((edit) => edit.section === name);
  const label = (name: SectionName) => t(`section.${name as keyof Texts['section']}`);
  const rows = (name: SectionName) => record.rows.filter((row) => row.section === name) as Version[];
  const part = (name: SectionName, content: React.ReactNode) => ({
    ...{ id: name, label: label(name), content },
    mark: markOf(rows(name), on),
  });
  const several = (name: SectionName, versions = rows(name)) => {
    const { owner } = preset.section(name as 'pay');
    const whose = owner?.kind === 'employment' ? then.main?.id : id;
    return part(name, <SeveralSection section={name} versions={versions} owner={whose ?? id} {...context} />);
  };
  const table = (name: SectionName) => {
    const { owner } = preset.section(name);
    const whose = owner?.kind === 'employment' ? then.main?.id : id;
    const versions = rows(name).filter(
      ({ values }) => owner?.kind !== 'employment' || values['employmentId'] === then.main?.id,
    );
    const foot = footOf(name, may.edit(name));
    const order = ORDERS[name];
    return part(
      name,
      <TableSection
        section={name}
        {...{ versions, foot, ...(order ? { order } : {}) }}
        owner={whose ?? id}
        {...context}
      />,
    );
  };
  const asked = useWords(qualifiedWords);
  const positionId = then.isPast ? undefined : then.placement?.values.positionId;
  const isAsked =
    positionId !== undefined &&
    QUALIFYING.every((name) => may.view(name)) &&
    requirementsOf(loaded.register, positionId, on).length > 0;
  const closed = others.filter(
    (name) =>
      !seen(name) &&
      !opened.has(name) &&
      may.edit(name) &&
      fieldsOf(name).length > 0 &&
      (preset.section(name).owner?.kind !== 'employment' || then.main !== undefined),
  );
  const open = (name: SectionName) => {
    setOpened(new Set(opened).add(name));
    const { owner } = preset.section(name);
    context.editing.add(name, owner?.kind === 'employment' ? (then.main?.id ?? id) : id);
  };
  const mine = (name: 'contract' | 'pay') =>
    rows(name).filter(({ values }) => values['employmentId'] === then.main?.id);
  return [
    seen('placement') && part('placement', <PlacementPart {...{ loaded, then, context }} />),
    isAsked && {
      id: 'qualified',
      label: asked.head,
      content: <QualifiedPart loaded={loaded} positionId={then.placement?.values.positionId ?? 0} />,
    },
    seen('employment') &&
      part(
        'employment',
        <RecordSection
          section="employment"
          versions={(then.main?.rows ?? []) as never}
          {...context}
          isFixed
        />,
      ),
    seen('contract') && several('contract', mine('contract')),
    seen('pay') &&
      part(
        'pay',
        <>
          {several('pay', mine('pay')).content}
          {then.main && (
            <PayCompared register={loaded.register} employmentId={then.main.id} pay={mine('pay') as never} />
          )}
        </>,
      ),
    part('contact', <Contacts {...{ loaded, context }} />),
    part('person_name', <RecordSection section="person_name" versions={rows('person_name')} {...context} />),
    seen('person') &&
      part('person', <RecordSection section="person" versions={rows('person')} {...context} />),
    ...others.map((name) => (seen(name) || opened.has(name)) && fieldsOf(name).length > 0 && table(name)),
    closed.length > 0 && {
      id: 'more',
      label: t('record.more'),
      content: <More names={closed} label={label} onOpen={open} />,
    },
  ].filter((one) => one !== false);
};

// How many rows hold on a day, and whether something in them runs out then or did.
const markOf = (versions: readonly Version[], on: Day): PartMark => {
  const here = versions.filter((version) => isOn(version, on));
  const states = here.flatMap(({ values }) =>
    EXPIRES.flatMap((field) => (values[field] ? (expiryOn(values[field] as Day, on) ?? []) : [])),
  );
  return {
    count: here.length,
    tone: states.includes('over') ? 'over' : states.includes('due') ? 'due' : null,
  };
};

const byText = (field: string) => (a: Version, b: Version) =>
  String(a.values[field] ?? '').localeCompare(String(b.values[field] ?? ''));

// In which order rows stand: documents by their folder, honours by their day.
const ORDERS: { [S in SectionName]?: (a: Version, b: Version) => number } = {
  document: byText('folder'),
  confidential_document: byText('folder'),
  award: byText('awardedOn'),
  emergency_contact: byText('order'),
};

// Sections whose readers are said to whoever writes in them.
const SAID: readonly SectionName[] = ['note', 'confidential_document', 'disciplinary_measure'];

// Who records honours, to whoever may not; who sees what is closed to most.
const footOf = (name: SectionName, mayEdit: boolean): React.ReactNode => {
  if (name === 'award') return <AwardFoot mayEdit={mayEdit} />;
  return SAID.includes(name) ? <WhoMay section={name} isSeen /> : undefined;
};

const awardWords = {
  en: { due: 'Who is due by years of service' },
  de: { due: 'Wer nach Dienstjahren an der Reihe ist' },
};

const AwardFoot = ({ mayEdit }: { mayEdit: boolean }) => {
  const words = useWords(awardWords);
  const to = useTo();
  const may = useMay();
  return (
    <>
      {!mayEdit && <WhoMay section="award" />}
      {may.count && (
        <p className="source">
          <Link to={to('/people/honours')}>{words.due}</Link>
        </p>
      )}
    </>
  );
};

// What nothing is recorded of yet: pressed, it opens with its first row.
const More = ({
  names,
  label,
  onOpen,
}: {
  names: readonly SectionName[];
  label: (name: SectionName) => string;
  onOpen: (name: SectionName) => void;
}) => {
  const { t } = useTranslation();
  return (
    <section className="block" aria-label={t('record.more')}>
      <h2>{t('record.moreSaid')}</h2>
      <p className="addmore">
        {names.map((name) => (
          <button key={name} type="button" className="textact" onClick={() => onOpen(name)}>
            {label(name)}
          </button>
        ))}
      </p>
    </section>
  );
};

const Contacts = ({ loaded, context }: { loaded: LoadedPerson; context: RecordContext }) => {
  const { t } = useTranslation();
  const versions = loaded.record.rows.filter((row) => row.section === 'contact') as Version[];
  const titleOf = ({ values }: Version) =>
    t('record.contact', {
      kind: t(`choice.${values['kind'] as 'email'}`),
      use: t(`choice.${values['use'] as 'work'}`),
    });
  return <SeveralSection section="contact" {...{ versions, titleOf }} owner={loaded.id} {...context} />;
};

type PlacementProps = { loaded: LoadedPerson; then: PersonThen; context: RecordContext };

const PlacementPart = ({ loaded, then, context }: PlacementProps) => {
  const { t } = useTranslation();
  const format = useFormat();
  const to = useTo();
  const { register, record, nameOf } = loaded;
  const { placement, position, main } = then;
  const versions = main
    ? register
        .referrers('placement', 'employmentId', main.id)
        .filter(({ values }) => values.kind === 'primary')
    : [];
  const share = placement && format.hundredths(hundredths(contractedShare(placement.values)));
  const hours =
    placement &&
    t('record.hoursOf', {
      hours: format.hundredths(placement.values.hours),
      fullTime: format.hundredths(placement.values.fullTime),
      source: t(`source.${placement.values.fullTimeSource}`),
    });
  const title = position ? (
    <Link to={to(pathOf('position', placement?.values.positionId ?? 0))}>{position.title}</Link>
  ) : (
    record.place?.title
  );
  return (
    <RecordSection
      section="placement"
      versions={versions as never}
      {...context}
      isFixed
      facts={[
        { label: t('field.positionId'), value: title },
        { label: t('field.unitId'), value: record.place?.unit },
        { label: t('field.jobId'), value: position && nameOf('job', position.jobId) },
        { label: t('position.share'), value: share, note: hours },
      ]}
    />
  );
};
