import { type ReplyOf, type SectionName, type peopleEndpoints, preset } from '@gremium/contract';
import {
  type Register,
  contractedShare,
  hundredths,
  isBefore,
  isOn,
  lastDay,
  mainEmployment,
  placementOf,
  spellsOf,
  spokenName,
  statusOf,
} from '@gremium/core';
import { Button } from 'antd';
import { useTranslation } from 'react-i18next';
import { Link, useSearchParams } from 'react-router';
import { useKeys } from '../frame/keys';
import { useLens, useTo } from '../frame/lens';
import { useMay } from '../frame/session';
import { useStartMovement } from '../movements/start-movement';
import type { Texts } from '../texts/en';
import { useFormat } from '../texts/format';
import { Chronicle } from '../time/chronicle';
import { useEdits } from '../time/edits';
import { SaveBar } from '../time/save-bar';
import type { Version } from '../time/section-editor';
import type { NameOf } from '../time/time.queries';
import { type Showing, labelIn, useShow } from '../ui/field-value';
import { fieldsOf } from '../ui/fields';
import { LoadedRecord } from '../ui/loaded-record';
import { Managers } from '../ui/managers';
import { Monogram } from '../ui/monogram';
import { RecordSection, useEditing } from '../ui/record-section';
import { usePersonRecord } from './people.queries';

/** The record of a person: head, sections in one sheet with an index, chronicle beside it. */
export const PersonRecord = ({ id }: { id: number }) => (
  <LoadedRecord query={usePersonRecord(id)}>{(loaded) => <Sheet id={id} {...loaded} />}</LoadedRecord>
);

type SheetProps = {
  id: number;
  record: ReplyOf<typeof peopleEndpoints.personRecord>;
  register: Register;
  nameOf: NameOf;
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

const Sheet = ({ id, record, register, nameOf }: SheetProps) => {
  const { t, i18n } = useTranslation();
  const format = useFormat();
  const { on } = useLens();
  const to = useTo();
  const may = useMay();
  const movement = useStartMovement();
  const [params] = useSearchParams();
  const edits = useEdits('person', id);
  const editing = useEditing({ record, edits });
  const showing: Showing = { register, nameOf };
  const show = useShow(showing);
  const names = register.rows('person_name', id);
  const name = spokenName((names.find((row) => isOn(row, on)) ?? names[0])?.values as never);
  const number = register.rows('person', id)[0]?.values.number;
  const spells = spellsOf(register, id);
  const main = mainEmployment(spells, on) ?? spells.find(({ from }) => isBefore(on, from)) ?? spells.at(-1);
  const employment = main?.rows.find((row) => isOn(row, on)) ?? main?.rows[0];
  const placement = placementOf(register, id, on);
  const position = placement && register.at('position', placement.values.positionId, on);
  const status = statusOf(register, id, on);
  const contacts = register.referrers('contact', 'personId', id);
  const here = (section: SectionName, field: 'employmentId'): Version[] =>
    (main ? register.referrers(section as 'pay', field, main.id) : []) as unknown as Version[];
  const startTransfer = () => movement.transfer({ personId: id, person: name });
  const mayTransfer = may.act('transfer') && placement !== undefined;
  useKeys({ ...(mayTransfer ? { transfer: startTransfer } : {}) });
  const factsFor = (section: SectionName, version: Version | undefined) =>
    fieldsOf(section)
      .map((field) => ({
        label: t(`field.${field.name as keyof Texts['field']}`),
        value: version ? show(field, version.values[field.name]) : '',
      }))
      .filter(({ value }) => value !== '');
  const on0 = (versions: readonly Version[]) => versions.find((version) => isOn(version, on));
  const section = (name: SectionName, versions: readonly Version[], title?: string) => (
    <RecordSection
      key={`${name} ${versions[0]?.thing ?? 0}`}
      section={name}
      versions={versions}
      facts={factsFor(name, on0(versions))}
      {...{ editing, edits, showing }}
      {...(title ? { title } : {})}
    />
  );
  const things = (rows: readonly Version[]): Version[][] =>
    [...new Set(rows.map(({ thing }) => thing))].map((thing) => rows.filter((row) => row.thing === thing));
  const running = (groups: Version[][]) => {
    const now = groups.filter((group) => on0(group));
    return now.length > 0 ? now : groups.slice(-1);
  };
  const index = [...OF_ITS_OWN, ...others];
  const share = placement && hundredths(contractedShare(placement.values));
  const seen = (of: SectionName) => record.rows.some((row) => row.section === of);
  return (
    <main className="record">
      <header className="recordhead person">
        <Monogram name={name} size={72} />
        <div>
          <div className="title">
            <h1>{name}</h1>
            {number && <span className="soft n">{t('record.number', { number })}</span>}
            <span className={`standing ${status}`}>{t(`status.${status}`)}</span>
          </div>
          <p>
            {record.place?.title}
            {record.place && ', '}
            {position ? (
              <Link to={to('/structure/positions', { in: String(position.unitId) })}>
                {record.place?.unit}
              </Link>
            ) : (
              record.place?.unit
            )}
            {placement &&
              placement.from !== '-infinity' &&
              ` ${t('record.since', { day: format.day(placement.from) })}`}
          </p>
          {placement && <Managers of={record.managers} />}
          <p className="soft">
            {[
              main &&
                main.from !== '-infinity' &&
                t(status === 'coming' ? 'record.starts' : 'record.hired', { day: format.day(main.from) }),
              employment && labelIn(register, employment.values.workerTypeId, i18n.language),
              employment && nameOf('legal_entity', employment.values.legalEntityId),
              main && main.until !== 'infinity' && t('record.lastDay', { day: format.day(lastDay(main)) }),
            ]
              .filter(Boolean)
              .join(' · ')}
          </p>
        </div>
        <div className="contact">
          {contacts
            .filter((row) => isOn(row, on) && row.values.kind !== 'address')
            .slice(0, 2)
            .map((row) => (
              <div key={row.id}>
                {row.values.kind === 'email' ? (
                  <a href={`mailto:${row.values.value}`}>{row.values.value}</a>
                ) : (
                  row.values.value
                )}
              </div>
            ))}
          {mayTransfer && (
            <Button
              type={params.has('slip') || edits.edits.length > 0 ? 'default' : 'primary'}
              onClick={startTransfer}
            >
              {t('record.transfer')}
            </Button>
          )}
        </div>
      </header>
      <div className="threeparts">
        <nav className="index" aria-label={t('record.index')}>
          {index.filter(seen).map((name) => (
            <a
              key={name}
              href={`#section-${name}`}
              className={edits.edits.some((edit) => edit.section === name) ? 'unsaved' : undefined}
              onClick={(event) => {
                event.preventDefault();
                document.getElementById(`section-${name}`)?.scrollIntoView({ block: 'start' });
              }}
            >
              {t(`section.${name as keyof Texts['section']}`)}
            </a>
          ))}
        </nav>
        <div className="recordbody">
          {seen('placement') && (
            <RecordSection
              section="placement"
              versions={here('placement', 'employmentId').filter(
                ({ values }) => values['kind'] === 'primary',
              )}
              {...{ editing, edits, showing }}
              act={mayTransfer ? { label: t('record.transfer'), start: startTransfer } : null}
              facts={[
                {
                  label: t('field.positionId'),
                  value: position ? (
                    <Link to={to(`/structure/positions/${placement.values.positionId}`)}>
                      {position.title}
                    </Link>
                  ) : (
                    record.place?.title
                  ),
                },
                { label: t('field.unitId'), value: record.place?.unit },
                { label: t('field.jobId'), value: position && nameOf('job', position.jobId) },
                {
                  label: t('position.share'),
                  value: share !== undefined && format.hundredths(share),
                  note:
                    placement &&
                    t('record.hoursOf', {
                      hours: format.hundredths(placement.values.hours),
                      fullTime: format.hundredths(placement.values.fullTime),
                      source: t(`source.${placement.values.fullTimeSource}`),
                    }),
                },
              ]}
            />
          )}
          {seen('employment') && (
            <RecordSection
              section="employment"
              versions={(main?.rows ?? []) as never}
              facts={factsFor('employment', employment as never)}
              {...{ editing, edits, showing }}
              act={null}
            />
          )}
          {running(things(here('contract', 'employmentId'))).map((versions) => section('contract', versions))}
          {running(things(here('pay', 'employmentId'))).map((versions) => section('pay', versions))}
          {things(contacts as unknown as Version[])
            .filter((versions) => on0(versions))
            .map((versions) =>
              section(
                'contact',
                versions,
                t('record.contact', {
                  kind: t(`choice.${on0(versions)?.values['kind'] as 'email'}`),
                  use: t(`choice.${on0(versions)?.values['use'] as 'work'}`),
                }),
              ),
            )}
          {section('person_name', names as unknown as Version[])}
          {seen('person') && section('person', register.rows('person', id) as unknown as Version[])}
          {others.flatMap((name) =>
            running(things(record.rows.filter((row) => row.section === name))).map((versions) =>
              section(name, versions),
            ),
          )}
        </div>
        <Chronicle id={id} record={record} {...showing} />
      </div>
      <SaveBar edits={edits} />
    </main>
  );
};
