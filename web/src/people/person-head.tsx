import { type Day, type Row, peopleEndpoints } from '@gremium/contract';
import {
  byFrom,
  contractedShare,
  daysBetween,
  hundredths,
  isBefore,
  isOn,
  lastDay,
  spanOf,
} from '@gremium/core';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { addressOf } from '../api';
import { useLens, useTo } from '../frame/lens';
import { pathOf } from '../frame/pages';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { labelIn } from '../ui/field-value';
import { Managers } from '../ui/managers';
import { Portrait } from './portrait';
import type { LoadedPerson } from './person-record';
import type { PersonThen } from './person-then';

type HeadProps = { loaded: LoadedPerson; then: PersonThen; acts: React.ReactNode };

/** Who it is: name, place, managers, dates, two contacts; and what can be begun. */
export const PersonHead = (props: HeadProps) => {
  const { t } = useTranslation();
  const { loaded, then, acts } = props;
  const { name, number, status, placement } = then;
  return (
    <header className="recordhead person">
      <Portrait id={loaded.id} name={name} register={loaded.register} />
      <div>
        <div className="title">
          <h1>{name}</h1>
          {number && <span className="soft n">{t('record.number', { number })}</span>}
          <span className={`standing ${status}`}>{t(`status.${status}`)}</span>
          <Marks {...props} />
        </div>
        <Place {...props} />
        {placement && !then.isPast && <Managers of={loaded.record.managers} />}
        <Dates {...props} />
        {acts}
        <TakeOut id={loaded.id} />
      </div>
      <Reached loaded={loaded} />
    </header>
  );
};

// Within so many days something that comes is said beside the name.
const SOON = 60;

const markWords = {
  en: {
    starts: (days: number) => (days === 1 ? 'starts tomorrow' : `starts in ${days} days`),
    fixed: (days: number) =>
      days === 0
        ? 'fixed term ends today'
        : days === 1
          ? 'fixed term ends tomorrow'
          : `fixed term ends in ${days} days`,
    probation: (days: number) =>
      days === 0 ? 'probation ends today' : `probation ends in ${days} day${days === 1 ? '' : 's'}`,
    leaves: (days: number) =>
      days === 0 ? 'last day today' : `last day in ${days} day${days === 1 ? '' : 's'}`,
  },
  de: {
    starts: (days: number) => (days === 1 ? 'beginnt morgen' : `beginnt in ${days} Tagen`),
    fixed: (days: number) =>
      days === 0
        ? 'Befristung endet heute'
        : days === 1
          ? 'Befristung endet morgen'
          : `Befristung endet in ${days} Tagen`,
    probation: (days: number) =>
      days === 0 ? 'Probezeit endet heute' : `Probezeit endet in ${days} Tag${days === 1 ? '' : 'en'}`,
    leaves: (days: number) =>
      days === 0 ? 'letzter Tag heute' : `letzter Tag in ${days} Tag${days === 1 ? '' : 'en'}`,
  },
};

// What comes within weeks of the day looked at.
const Marks = ({ loaded: { register }, then: { main } }: HeadProps) => {
  const words = useWords(markWords);
  const { on } = useLens();
  if (!main) return null;
  const contract = register
    .referrers('contract', 'employmentId', main.id)
    .find((row) => isOn(row, on))?.values;
  const said = (day: string | null | undefined, say: (days: number) => string): string[] => {
    if (!day || day === '-infinity' || day === 'infinity') return [];
    const days = daysBetween(on, day as Day);
    return days >= 0 && days <= SOON ? [say(days)] : [];
  };
  const marks = [
    ...(isBefore(on, main.from) ? said(main.from, words.starts) : []),
    ...said(contract?.fixedUntil, words.fixed),
    ...(contract?.probation === 'passed' ? [] : said(contract?.probationUntil, words.probation)),
    ...(main.until === 'infinity' ? [] : said(lastDay(main), words.leaves)),
  ];
  return marks.map((mark) => (
    <span key={mark} className="standing coming">
      {mark}
    </span>
  ));
};

// Where somebody is for a time, on the day looked at or later.
const forATimeOf = (register: HeadProps['loaded']['register'], { main }: HeadProps['then'], on: Day) =>
  main
    ? register
        .referrers('placement', 'employmentId', main.id)
        .filter(({ values, until }) => values.kind === 'temporary' && isBefore(on, until))
        .sort(byFrom)
    : [];

const isAt =
  ({ values: { positionId } }: Row<'placement'>) =>
  ({ values }: Row<'placement'>) =>
    values.positionId === positionId;

const placeWords = {
  en: {
    forATime: (where: string, share: string, from: string, last: string) =>
      `for a time: ${where}, ${share}, ${from} to ${last}`,
  },
  de: {
    forATime: (where: string, share: string, from: string, last: string) =>
      `auf Zeit: ${where}, ${share}, ${from} bis ${last}`,
  },
};

const Place = ({ loaded: { record, register, nameOf }, then }: HeadProps) => {
  const { placement, position, isPast } = then;
  const words = useWords(placeWords);
  const { on } = useLens();
  const { t } = useTranslation();
  const format = useFormat();
  const to = useTo();
  // however often something of it changed since: the first day at this position
  const since =
    placement && spanOf(register.rows('placement', placement.thing).filter(isAt(placement)))?.from;
  if (isPast) {
    const day = placement && lastDay(placement);
    if (!record.place || !day) return null;
    const place = `${record.place.title}, ${record.place.unit}`;
    return <p className="soft">{t('record.wasPlaced', { place, day: format.day(day) })}</p>;
  }
  const away = forATimeOf(register, then, on);
  return (
    <>
      <p>
        {record.place?.title}
        {record.place && ', '}
        {position ? (
          <Link to={to(pathOf('unit', position.unitId))}>{record.place?.unit}</Link>
        ) : (
          record.place?.unit
        )}
        {since && since !== '-infinity' && ` ${t('record.since', { day: format.day(since) })}`}
      </p>
      {away.map((row) => (
        <p key={row.thing} className="indigo">
          {words.forATime(
            nameOf('position', row.values.positionId),
            format.hundredths(hundredths(contractedShare(row.values))),
            format.day(row.from),
            format.day(lastDay(row) ?? row.until),
          )}
        </p>
      ))}
    </>
  );
};

const Dates = ({ loaded: { register, nameOf }, then: { main, employment, status } }: HeadProps) => {
  const { t, i18n } = useTranslation();
  const format = useFormat();
  const said = [
    main &&
      main.from !== '-infinity' &&
      t(status === 'coming' ? 'record.starts' : 'record.hired', { day: format.day(main.from) }),
    employment && labelIn(register, employment.values.workerTypeId, i18n.language),
    employment && nameOf('legal_entity', employment.values.legalEntityId),
    main && main.until !== 'infinity' && t('record.lastDay', { day: format.day(lastDay(main)) }),
  ];
  return <p className="soft">{said.filter(Boolean).join(' · ')}</p>;
};

const outWords = {
  en: { lead: 'This record as a file:', pdf: 'PDF of this day', json: 'JSON with all versions' },
  de: { lead: 'Dieser Datensatz als Datei:', pdf: 'PDF dieses Tages', json: 'JSON mit allen Fassungen' },
};

// The record as it is looked at, as a file.
const TakeOut = ({ id }: { id: number }) => {
  const words = useWords(outWords);
  const { query } = useLens();
  const { i18n } = useTranslation();
  const language = i18n.language === 'de' ? 'de' : 'en';
  const at = (format: 'pdf' | 'json') =>
    addressOf(peopleEndpoints.personOut, { params: { id }, query: { ...query, format, language } });
  return (
    <p className="source">
      {words.lead} <a href={at('pdf')}>{words.pdf}</a> · <a href={at('json')}>{words.json}</a>
    </p>
  );
};

const Reached = ({ loaded: { id, register } }: { loaded: LoadedPerson }) => {
  const { on } = useLens();
  const contacts = register
    .referrers('contact', 'personId', id)
    .filter((row) => isOn(row, on) && row.values.kind !== 'address')
    .slice(0, 2);
  return (
    <div className="contact">
      {contacts.map(({ id: row, values: { kind, value } }) => (
        <div key={row}>{kind === 'email' ? <a href={`mailto:${value}`}>{value}</a> : value}</div>
      ))}
    </div>
  );
};
