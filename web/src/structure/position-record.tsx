import type { ReplyOf, Row, Standing, structureEndpoints } from '@gremium/contract';
import {
  type Register,
  heldShare,
  holdings,
  hundredths,
  isOn,
  lastDay,
  markOf,
  nextStandings,
  personOf,
  positionState,
  spanOf,
  takesMore,
  vacancyOn,
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
import { useEdits } from '../time/edits';
import { SaveBar } from '../time/save-bar';
import { type NameOf, useUnits } from '../time/time.queries';
import { labelIn } from '../ui/field-value';
import { LoadedRecord } from '../ui/loaded-record';
import { Managers } from '../ui/managers';
import { type MarkName, OccupancyMark } from '../ui/occupancy-mark';
import { RecordSection, useEditing } from '../ui/record-section';
import { HolderAxis } from './holder-axis';
import { usePositionRecord } from './structure.queries';

/** The record of a position: what it is, who held which share of it when, its limits, what stands below it. */
export const PositionRecord = ({ id }: { id: number }) => (
  <LoadedRecord query={usePositionRecord(id)} units={useUnits()}>
    {(loaded) => <Sheet id={id} {...loaded} />}
  </LoadedRecord>
);

type SheetProps = {
  id: number;
  record: ReplyOf<typeof structureEndpoints.positionRecord>;
  register: Register;
  nameOf: NameOf;
};

const Sheet = ({ id, record, register, nameOf }: SheetProps) => {
  const { t } = useTranslation();
  const format = useFormat();
  const { on, isToday } = useLens();
  const to = useTo();
  const may = useMay();
  const movement = useStartMovement();
  const [params] = useSearchParams();
  const edits = useEdits('position', id);
  const showing = { register, nameOf };
  const editing = useEditing({ record, edits });
  const rows = register.rows('position', id);
  const position = register.at('position', id, on);
  const version = rows.find((row) => isOn(row, on));
  const limits = register.at('position_limits', id, on);
  const state = positionState(register, id, on);
  const mark = (markOf(register, id, on) ?? 'closed') as MarkName;
  const isOpen = takesMore(register, id, on);
  const mayHire = may.act('hire') && isOpen;
  const setStanding = (standing: Standing) =>
    version && editing.begin('position', version as never, { standing });
  useKeys({
    ...(mayHire ? { hire: () => movement.hire(id) } : {}),
    ...(may.act('transfer') && isOpen ? { transfer: () => movement.transfer({ positionId: id }) } : {}),
    ...(version && may.edit('position') ? { edit: () => editing.begin('position', version as never) } : {}),
  });
  if (!position || !version)
    return (
      <main className="record">
        <header className="recordhead">
          <h1>{rows[0]?.values.title}</h1>
          <p>{t('position.notThere', { day: format.day(on) })}</p>
          {rows[0] && (
            <p>
              <Link to={to(`/structure/positions/${id}`, { on: rows[0].from })}>
                {t('position.lookAt', { day: format.day(rows[0].from) })}
              </Link>
            </p>
          )}
        </header>
      </main>
    );
  const vacancy = vacancyOn(register, id, on);
  return (
    <main className="record">
      <header className="recordhead">
        <div className="title">
          <OccupancyMark mark={mark} size={18} />
          <h1>{position.title}</h1>
          <span className="soft n">{position.code}</span>
        </div>
        <p>
          <Link to={to('/structure/positions', { in: String(position.unitId) })}>
            {nameOf('unit', position.unitId)}
          </Link>
        </p>
        <Managers of={record.managers} />
        <p className="notes">
          <span className={`standing ${position.standing}`}>{t(`mark.${position.standing}`)}</span>
          {vacancy && (
            <span className="standing vacant">
              {t('position.vacantSince', { day: format.day(vacancy.since) })}
              {vacancy.days !== null && `, ${t('position.vacantDays', { count: vacancy.days })}`}
            </span>
          )}
          {!isToday && (
            <span className="standing time">{t('position.figuresOf', { day: format.day(on) })}</span>
          )}
        </p>
        <div className="acts">
          {mayHire && (
            <Button type={params.has('slip') ? 'default' : 'primary'} onClick={() => movement.hire(id)}>
              {t('position.hire')}
            </Button>
          )}
          {isOpen && may.act('transfer') && (
            <Button onClick={() => movement.transfer({ positionId: id })}>
              {t('position.transferHere')}
            </Button>
          )}
          {!isOpen && mark !== 'filled' && mark !== 'over_held' && (
            <span className="soft">{t('position.noHire', { standing: t(`mark.${mark}`) })}</span>
          )}
          {may.edit('position') &&
            nextStandings[position.standing].map((standing) => (
              <Button
                key={standing}
                type={!isOpen && standing === 'in_force' ? 'primary' : 'text'}
                onClick={() => setStanding(standing)}
              >
                {t(`position.become.${standing}`)}
              </Button>
            ))}
        </div>
      </header>
      <div className="recordbody">
        <HolderAxis {...{ id, register, nameOf }} />
        <Holders {...{ id, register, nameOf }} />
        <RecordSection
          section="position_limits"
          versions={register.rows('position_limits', id) as never}
          {...{ editing, edits, showing }}
          facts={[
            { label: t('field.places'), value: limits ? (limits.places ?? t('position.noLimit')) : '–' },
            {
              label: t('field.fte'),
              value: limits
                ? limits.fte === null
                  ? t('position.noLimit')
                  : format.hundredths(limits.fte)
                : '–',
            },
            {
              label: t('position.free'),
              value: freeInWords(state, t as never, format.hundredths),
            },
            { label: t('field.handoverDays'), value: limits?.handoverDays },
          ]}
        />
        <RecordSection
          section="position"
          versions={rows as never}
          {...{ editing, edits, showing }}
          facts={[
            { label: t('field.jobId'), value: nameOf('job', position.jobId) },
            { label: t('field.gradeId'), value: nameOf('grade', position.gradeId) },
            ...(['locationId', 'costCentreId', 'legalEntityId'] as const).map((field) => ({
              label: t(`field.${field}`),
              value: nameOf(KINDS[field], record.inherited[field]),
              note: position[field] === null && record.inherited[field] !== null && t('source.unit'),
            })),
            {
              label: t('field.hours'),
              value: position.hours === null ? t('position.fullTime') : format.hundredths(position.hours),
            },
          ]}
        />
        <section className="block">
          <h2>
            {t('position.below')}
            {mark === 'vacant' && record.managers[0] && record.below.length > 0 && (
              <span className="since">{t('position.bridged', { name: record.managers[0].name })}</span>
            )}
          </h2>
          <p>
            {record.below.length === 0
              ? t('position.nobodyBelow')
              : record.below
                  .map(({ title, count }) => (count > 1 ? `${count} × ${title}` : title))
                  .join(', ')}
          </p>
        </section>
      </div>
      <SaveBar edits={edits} />
    </main>
  );
};

type State = ReturnType<typeof positionState>;

const freeInWords = (
  { freePlaces, freeFte }: State,
  t: (key: string, params?: object) => string,
  shown: (n: number) => string,
): string => {
  if (freePlaces === null && freeFte === null) return t('position.noLimit');
  const places = freePlaces === null ? '' : t('position.freePlaces', { count: freePlaces });
  const fte = freeFte === null ? '' : t('position.freeFte', { fte: shown(hundredths(freeFte)) });
  return [places, fte].filter(Boolean).join(', ');
};

const KINDS = { locationId: 'location', costCentreId: 'cost_centre', legalEntityId: 'legal_entity' } as const;

/** Who held it, as a table: the same as the axis, in words. */
const Holders = ({ id, register, nameOf }: { id: number; register: Register; nameOf: NameOf }) => {
  const { t, i18n } = useTranslation();
  const format = useFormat();
  const to = useTo();
  const rows = holdings(register, id).reverse();
  if (rows.length === 0) return null;
  const whyEnded = (row: Row<'placement'>): string => {
    const employment = spanOf(register.rows('employment', row.values.employmentId));
    const last = register.rows('employment', row.values.employmentId).at(-1)?.values;
    if (row.until === 'infinity') return '';
    if (employment?.until !== row.until) return t('position.moved');
    return labelIn(register, last?.endReasonId ?? null, i18n.language) || t('position.left');
  };
  return (
    <section className="block">
      <h2>{t('position.whoHeld')}</h2>
      <table className="register">
        <thead>
          <tr>
            <th scope="col">{t('position.holder')}</th>
            <th scope="col" className="r">
              {t('position.share')}
            </th>
            <th scope="col">{t('position.firstDay')}</th>
            <th scope="col">{t('position.lastDay')}</th>
            <th scope="col">{t('position.whyEnded')}</th>
          </tr>
        </thead>
        <tbody>
          {rows.slice(0, 60).map((row) => {
            const person = personOf(register, row.values, row.from);
            const name = person === undefined ? '' : nameOf('person', person);
            const last = lastDay(row);
            return (
              <tr key={row.id}>
                <td className="serif">
                  {name ? <Link to={to(`/people/${person}`)}>{name}</Link> : t('problem.record_hidden')}
                  {row.values.kind !== 'primary' && (
                    <span className="soft"> {t(`choice.${row.values.kind as keyof Texts['choice']}`)}</span>
                  )}
                </td>
                <td className="r">{format.hundredths(hundredths(heldShare(row.values)))}</td>
                <td className="day">{format.day(row.from)}</td>
                <td className="day">{last ? format.day(last) : '–'}</td>
                <td>{whyEnded(row)}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
};
