import {
  type Day,
  type Kind,
  type RecordOut,
  type SectionRowOut,
  type Values,
  movementOf,
  type SectionName,
} from '@gremium/contract';
import {
  type Happening,
  changesOf,
  chronicle,
  hundredths,
  isBefore,
  isEqual,
  shareAtWork,
} from '@gremium/core';
import type { TOptions } from 'i18next';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useLens, useSetParams } from '../frame/lens';
import { useMay } from '../frame/session';
import { keptMovements } from '../movements/kept-movements';
import type { Texts } from '../texts/en';
import { type Format, useFormat } from '../texts/format';
import { type Showing, labelIn, useShow } from '../ui/field-value';
import { type Field, fieldsOf } from '../ui/fields';
import { useEntryName } from './entry-name';
import { useAllKept } from './kept';
import { useFieldName } from '../ui/field-name';
import { useSectionName } from '../ui/section-name';

type Entries = RecordOut['entries'];

const SHOWN = 14;

type ChronicleProps = { kind: Kind; id: number; record: RecordOut } & Showing;

// What happened of a record: of a person all that hangs on employments too, of anything else its own sections.
const happeningsOf = ({
  kind,
  id,
  register,
}: Pick<ChronicleProps, 'kind' | 'id' | 'register'>): Happening[] =>
  kind === 'person' ? chronicle(register, id) : changesOf(register, kind, id);

const usePast = ({ record }: ChronicleProps, happenings: readonly Happening[]): Told[] => {
  const { today } = useLens();
  const format = useFormat();
  return [
    ...correctionsIn(record, format.dayOf),
    ...happenings.filter(({ day }) => !isBefore(today, day)),
  ].sort((a, b) => Number(isBefore(a.day, b.day)) - Number(isBefore(b.day, a.day)));
};

/** What happened and is planned, as a line from above (planned) to below (past); acts are undone from here. */
export const Chronicle = (props: ChronicleProps) => {
  const { kind, id, record, register, nameOf } = props;
  const { t } = useTranslation();
  const { today } = useLens();
  const [isAll, setAll] = useState(false);
  const happenings = happeningsOf(props);
  const plans = happenings.filter(({ day }) => isBefore(today, day));
  const past = usePast(props, happenings);
  const showing = { register, nameOf };
  const line = (told: Told, i: number, isPlanned = false) =>
    'fields' in told ? (
      <CorrectionLine key={`${told.row.id} ${told.entry.id}`} {...{ correction: told, showing }} />
    ) : (
      <Line
        key={`${told.row.id} ${told.what} ${i}`}
        {...{ happening: told, showing, isPlanned }}
        entries={record.entries}
      />
    );
  return (
    <aside className="chronicle" aria-label={t('chronicle.title')}>
      <h2>
        {t('chronicle.title')}
        {past.length > SHOWN && (
          <button type="button" className="textact" onClick={() => setAll(!isAll)}>
            {isAll ? t('chronicle.fewer') : t('chronicle.all', { count: plans.length + past.length })}
          </button>
        )}
      </h2>
      <ol>
        <Prepared about={`${kind} ${id}`} />
        {plans.map((told, i) => line(told, i, true))}
        <li className="today">{t('lens.today')}</li>
        {(isAll ? past : past.slice(0, SHOWN)).map((told, i) => line(told, i))}
      </ol>
    </aside>
  );
};

/** Slips of this record that are being prepared. */
const Prepared = ({ about }: { about: string }) => {
  const { t } = useTranslation();
  const format = useFormat();
  const nameOfEntry = useEntryName();
  const set = useSetParams();
  const movements = useAllKept(keptMovements) ?? [];
  return (
    <>
      {movements
        .filter((movement) => movement.about === about)
        .map(({ key, kind, input }) => {
          const day = input[movementOf(kind).day.field];
          return (
            <li key={key} className="draft">
              <div className="day">{typeof day === 'string' ? format.day(day) : ''}</div>
              <div>{nameOfEntry(kind)}</div>
              <div className="source">
                {t('draft.nothingYet')}{' '}
                <button type="button" className="textact" onClick={() => set({ slip: key })}>
                  {t('draft.continue')}
                </button>
              </div>
            </li>
          );
        })}
    </>
  );
};

type Correction = {
  day: Day;
  row: SectionRowOut;
  entry: Entries[number];
  before: Record<string, unknown>;
  after: Record<string, unknown>;
  fields: Field[];
};
type Told = Happening | Correction;

// Positions that somebody held stand in their own records.
const isElsewhere = ({ rows }: RecordOut, section: string): boolean =>
  section === 'position' && rows.some((row) => row.section === 'person_name');

// What was recorded wrongly stands on the day on which it was mended; of the positions held, in their own records.
const correctionsIn = (record: RecordOut, dayOf: Format['dayOf']): Correction[] =>
  record.rows
    .filter(({ section }) => !isElsewhere(record, section))
    .flatMap((row) =>
      (row.corrections ?? []).flatMap(({ entry: id, before, after }) => {
        const entry = record.entries.find((one) => one.id === id);
        const fields = fieldsOf(row.section).filter(
          ({ name }) => !isEqual(before[name] ?? null, after[name] ?? null),
        );
        return entry && fields.length > 0
          ? [{ day: dayOf(entry.moment), row, entry, before, after, fields }]
          : [];
      }),
    )
    .sort((a, b) => b.entry.number - a.entry.number);

/** A correction: each field before and after it, with the act that mended it. */
const CorrectionLine = ({ correction, showing }: { correction: Correction; showing: Showing }) => {
  const { t } = useTranslation();
  const format = useFormat();
  const may = useMay();
  const set = useSetParams();
  const show = useShow(showing);
  const nameOfField = useFieldName();
  const nameOfSection = useSectionName();
  const { day, row, entry, before, after, fields } = correction;
  const what = t('chronicle.corrected', {
    section: nameOfSection(row.section),
    day: row.from === '-infinity' ? '' : t('record.since', { day: format.day(row.from) }),
    fields: fields
      .map((field) => {
        const label = nameOfField(row.section, field.name);
        return `${label} ${show(field, before[field.name]) || '–'} → ${show(field, after[field.name]) || '–'}`;
      })
      .join(', '),
  });
  return (
    <li className="correction">
      <div className="day">{format.day(day)}</div>
      <div>{what}</div>
      <div className="source">
        {[entry.reason, entry.account.split('@')[0]].filter(Boolean).join(', ')}
        {may.act('undo') && (
          <>
            {' · '}
            <button
              type="button"
              className="textact"
              aria-label={t('chronicle.undo', { what })}
              onClick={() => set({ undo: String(entry.number), slip: null })}
            >
              {t('undo.word')}
            </button>
          </>
        )}
      </div>
    </li>
  );
};

type LineProps = { happening: Happening; entries: Entries; showing: Showing; isPlanned?: boolean };

const Line = ({ happening, entries, showing, isPlanned = false }: LineProps) => {
  const { t } = useTranslation();
  const format = useFormat();
  const may = useMay();
  const set = useSetParams();
  const say = useSay(showing);
  const { row, isEnd } = happening;
  const { formedBy, endedBy } = row as unknown as SectionRowOut;
  const by = (isEnd ? endedBy : formedBy) ?? row.entry;
  const entry = entries.find(({ id }) => id === by);
  return (
    <li className={isPlanned ? 'planned' : undefined}>
      <div className="day">{format.day(happening.day)}</div>
      <div>{say(happening)}</div>
      <div className="source">
        {entry && [entry.reason, entry.account.split('@')[0]].filter(Boolean).join(', ')}
        {entry && may.act('undo') && (
          <>
            {' · '}
            <button
              type="button"
              className="textact"
              aria-label={t('chronicle.undo', { what: say(happening) })}
              onClick={() => set({ undo: String(entry.number), slip: null })}
            >
              {t('undo.word')}
            </button>
          </>
        )}
      </div>
    </li>
  );
};

/** A happening as a sentence. */
const useSay = ({ register, nameOf }: Showing) => {
  const { t, i18n } = useTranslation();
  const format = useFormat();
  const list = (id: number | null) => labelIn(register, id, i18n.language);
  const place = ({ positionId }: Values<'placement'>, day: string): string => {
    const position =
      register.at('position', positionId, day as never) ?? register.rows('position', positionId)[0]?.values;
    return position
      ? `${position.title}, ${nameOf('unit', position.unitId)}`
      : nameOf('position', positionId) || t('notSeen');
  };
  const share = (values: Values<'placement'>) => format.hundredths(hundredths(shareAtWork(values)));
  const amount = ({ amount: of, currency, basis }: Values<'pay'>) =>
    `${format.decimal(of)} ${currency} ${t(`choice.${basis}`)}`;
  const show = useShow({ register, nameOf });
  const nameOfField = useFieldName();
  const nameOfSection = useSectionName();
  const fieldSaid = (section: SectionName, { field, was, is }: ChangedField): string =>
    `${nameOfField(section, field.name)} ${show(field, was) || '–'} → ${show(field, is) || '–'}`;
  return ({ what, row, before, day }: Happening): string => {
    const key = `chronicle.what.${what as keyof Texts['chronicle']['what']}` as const;
    const sentence = (params: Record<string, string> = {}): string => t(key, params as TOptions);
    if (row.section === 'placement') {
      const values = row.values as Values<'placement'>;
      const was = before?.values as Values<'placement'> | undefined;
      const kind = t(`choice.${values.kind}`);
      return sentence({
        place: place(values, row.from),
        kind,
        was: was ? share(was) : '',
        is: share(values),
      });
    }
    if (row.section === 'pay') {
      const values = row.values as Values<'pay'>;
      const was = before ? amount(before.values as Values<'pay'>) : '';
      return was && what === 'pay'
        ? t('chronicle.payChanged', { kind: list(values.kindId), was, is: amount(values) })
        : sentence({ kind: list(values.kindId), is: amount(values) });
    }
    if (row.section === 'contract')
      return sentence({ kind: list((row.values as Values<'contract'>).kindId) });
    if (row.section === 'employment') {
      const { legalEntityId, endReasonId } = row.values as Values<'employment'>;
      return sentence({
        entity: nameOf('legal_entity', legalEntityId),
        reason: list(endReasonId),
        day: String(day),
      });
    }
    const section = nameOfSection(row.section);
    const fields = what === 'changed' ? changedFields(row, before) : [];
    return fields.length > 0
      ? fields.map((one) => fieldSaid(row.section, one)).join(', ')
      : sentence({ section });
  };
};

type ChangedField = { field: Field; was: unknown; is: unknown };

const changedFields = (row: Happening['row'], before: Happening['before']): ChangedField[] => {
  const [old, now] = [before?.values ?? {}, row.values] as [Record<string, unknown>, Record<string, unknown>];
  return fieldsOf(row.section)
    .map((field) => ({ field, was: old[field.name] ?? null, is: now[field.name] ?? null }))
    .filter(({ was, is }) => !isEqual(was, is));
};
