import { type ConcernedOut, type Moved, type SlipValue, preset } from '@gremium/contract';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { useTo } from '../frame/lens';
import { hasRecord, pathOf } from '../frame/pages';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { type Showing, useShow } from '../ui/field-value';
import { PlainTable } from '../ui/plain-table';
import { useFieldLabel } from './slip-input';

type ConcernedProps = {
  of: NonNullable<Moved['concerned']>;
  showing: Showing;
  /** What can be decided otherwise of one of them: its word. */
  turn?: { word: (line: ConcernedOut) => string; set: (line: ConcernedOut) => void };
};

const FIRST = 12;

const en = {
  follow: (count: number) => (count === 1 ? '1 follows' : `${count} follow`),
  keep: (count: number, values: string, isPerson: boolean) =>
    count === 1
      ? `1 keeps ${isPerson ? 'their' : 'its'} own (${values})`
      : `${count} keep their own (${values})`,
};
const de: typeof en = {
  follow: (count) => (count === 1 ? '1 folgt' : `${count} folgen`),
  keep: (count, values) =>
    count === 1 ? `1 behält Eigenes (${values})` : `${count} behalten Eigenes (${values})`,
};

// Where something follows a source, a value that does not take it over is one of its own.
const isFollowing = ({ kind, values }: ConcernedOut): boolean =>
  (kind === 'position' || kind === 'placement') &&
  !values.some(({ field }) => field === 'fullTime') &&
  values.some(({ source }) => source === 'job' || source === 'position' || source === 'before');

/** Values of those concerned as they are shown: by the section that says what they are. */
const useSaid = (showing: Showing) => {
  const show = useShow(showing);
  const { t } = useTranslation();
  return ({ section, field }: SlipValue, value: SlipValue['after'], name: string | undefined): string => {
    if (value === null) return field === 'hours' ? t('position.fullTime') : '–';
    const meta =
      section && preset.has(section as 'pay') ? preset.section(section as 'pay').metas.get(field) : undefined;
    if (meta?.is === 'ref') return name ?? showing.nameOf(meta.kind, Number(value));
    return meta ? show({ ...meta, name: field }, value) : String(value);
  };
};

// How many follow, and which values those have that keep their own, by field.
const Summary = ({ of: { lines }, showing }: Pick<ConcernedProps, 'of' | 'showing'>) => {
  const words = useWords({ en, de });
  const labelOf = useFieldLabel();
  const said = useSaid(showing);
  const whole = lines.filter(isFollowing);
  if (whole.length === 0) return null;
  const fields = [...new Set(whole.flatMap(({ values }) => values.map(({ field }) => field)))];
  const countOf = (taken: boolean, field: string) =>
    new Set(
      whole.flatMap(({ id, values }) =>
        values.some((value) => value.field === field && (value.source !== 'before') === taken) ? id : [],
      ),
    ).size;
  return (
    <ul className="followers">
      {fields.map((field) => {
        const own = whole.flatMap(({ values }) =>
          values.filter((value) => value.field === field && value.source === 'before'),
        );
        const [follow, keep] = [countOf(true, field), countOf(false, field)];
        const values = [...new Set(own.map((value) => said(value, value.after, value.afterName)))];
        const parts = [
          ...(follow > 0 ? [words.follow(follow)] : []),
          ...(keep > 0
            ? [words.keep(keep, values.slice(0, 4).join(', '), whole[0]?.kind === 'placement')]
            : []),
        ];
        return (
          <li key={field}>
            {labelOf(field)}: {parts.join(', ')}
          </li>
        );
      })}
    </ul>
  );
};

/** Others whom a movement touches: how many, and what changes of each. */
export const ConcernedLines = ({ of, showing, turn }: ConcernedProps) => {
  const { t } = useTranslation();
  const format = useFormat();
  const labelOf = useFieldLabel();
  const said = useSaid(showing);
  const [isAll, setAll] = useState(false);
  if (of.count === 0) return <p className="soft">{t('slip.concernsNobody')}</p>;
  const shown = isAll ? of.lines : of.lines.slice(0, FIRST);
  const isTaken = ({ values }: ConcernedOut) => values.some(({ after }) => typeof after === 'boolean');
  // where all say the same few fields, each is a column; else they are told one after the other
  const fields = [...new Set(shown.flatMap(({ values }) => values.map(({ field }) => field)))].filter(
    (field) => field !== 'fullTime' && field !== 'firstDay',
  );
  const change = (value: SlipValue | undefined): React.ReactNode => {
    if (!value) return '';
    if (typeof value.after === 'boolean') return value.after ? '✓' : '–';
    const after = said(value, value.after, value.afterName);
    // what is made or reached just now had nothing before
    const isNew = value.before === null && (value.section === undefined || value.field === 'code');
    return value.before === value.after || isNew
      ? after
      : `${said(value, value.before, value.beforeName)} → ${after}`;
  };
  const isWide = fields.length <= 3 && !shown.some(isTaken);
  const isNumber = (field: string) => ['hours', 'fte', 'amount', 'step'].includes(field);
  return (
    <div className="concerned">
      <h3>{t('slip.concerned', { count: of.count, shown: format.number(of.count) })}</h3>
      <Summary {...{ of, showing }} />
      <PlainTable
        heads={[
          { label: t('slip.who') },
          ...(isWide
            ? fields.map((field) => ({ label: labelOf(field), isNumber: isNumber(field) }))
            : [{ label: t('slip.after') }]),
        ]}
        rows={shown.map((line, i) => ({
          key: `${line.id} ${i}`,
          cells: [
            <Named key="name" {...{ line, turn }} />,
            ...(isWide
              ? fields.map((field) => change(line.values.find((value) => value.field === field)))
              : [line.values.map((value) => `${labelOf(value.field)}: ${String(change(value))}`).join('; ')]),
          ],
        }))}
      />
      {!isAll && of.lines.length > FIRST && (
        <button type="button" className="textact" onClick={() => setAll(true)}>
          {t('slip.concernedAll', { shown: format.number(of.lines.length) })}
        </button>
      )}
    </div>
  );
};

const Named = ({ line, turn }: { line: ConcernedOut; turn: ConcernedProps['turn'] }) => {
  const { t } = useTranslation();
  const format = useFormat();
  const day = line.values.find(({ field }) => field === 'firstDay')?.after;
  const to = useTo();
  return (
    <div>
      {hasRecord(line.kind) ? <Link to={to(pathOf(line.kind, line.id))}>{line.name}</Link> : line.name}
      {(line.where || turn || day) && (
        <div className="source">
          {[line.where, typeof day === 'string' && t('slip.fromDay', { day: format.day(day) })]
            .filter(Boolean)
            .join(' · ')}
          {(line.where || day) && turn && ' · '}
          {turn && (
            <button type="button" className="textact" onClick={() => turn.set(line)}>
              {turn.word(line)}
            </button>
          )}
        </div>
      )}
    </div>
  );
};
