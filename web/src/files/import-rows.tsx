import type { ImportRow, RowChange, RowStatus } from '@gremium/contract';
import { RowRegister } from '@gremium/core';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { useTo } from '../frame/lens';
import { hasRecord, pathOf } from '../frame/pages';
import { useFormat } from '../texts/format';
import { type NameOf, useReferenceRegister } from '../time/time.queries';
import { useShow } from '../ui/field-value';
import { fieldsOf } from '../ui/fields';
import { useSentence } from '../ui/problems';
import { useFieldLabel } from './import-field-label';
import { useImportRows } from './files.queries';
import { useFieldName } from '../ui/field-name';

const SHOWN = 200;

type RowsProps = { id: number; status: RowStatus; onPutBack?: ((row: number) => void) | undefined };

/** Rows of an import that do one thing: whom each is about, what is wrong with it, what it changes, old and new. */
export const ImportRows = ({ id, status, onPutBack }: RowsProps) => {
  const { t } = useTranslation('files');
  const format = useFormat();
  const rows = useImportRows(id, status, SHOWN);
  const total = rows.data?.total ?? 0;
  const changeSaid = useChangeSaid(rows.data?.names ?? []);
  return (
    <>
      <ul className="resultrows">
        {rows.data?.rows.map((row) => (
          <li key={row.row}>
            <span className="n soft">{row.row}</span>
            <span>
              <Whom of={row} />
              <Faults of={row} />
              {row.changes.length > 0 && (
                <span className="source"> {row.changes.map(changeSaid).filter(Boolean).join('; ')}</span>
              )}
              {onPutBack && ' · '}
              {onPutBack && (
                <button type="button" className="textact" onClick={() => onPutBack(row.row)}>
                  {t('repair.putBack')}
                </button>
              )}
            </span>
          </li>
        ))}
      </ul>
      {total > SHOWN && (
        <p className="source">
          {t('repair.more', { shown: format.number(SHOWN), total: format.number(total) })}
        </p>
      )}
    </>
  );
};

const Whom = ({ of: { personId, person, opens, cells } }: { of: ImportRow }) => {
  const { t } = useTranslation('files');
  const to = useTo();
  if (personId !== null && person !== null)
    return (
      <Link className="serif" to={to(pathOf('person', personId))}>
        {person}
      </Link>
    );
  if (opens !== null && hasRecord(opens.kind))
    return (
      <Link className="serif" to={to(pathOf(opens.kind, opens.id))}>
        {opens.name}
      </Link>
    );
  return (
    <span className="soft">
      {personId === null ? cells.filter(Boolean).slice(0, 4).join(' · ') : t('result.hidden')}
    </span>
  );
};

const Faults = ({ of: { faults } }: { of: ImportRow }) => {
  const sentence = useSentence();
  const labelOf = useFieldLabel();
  return faults.map(({ field, problem }) => (
    <span key={problem.code} className="source">
      {' '}
      {field === null ? '' : `${labelOf(field)}: `}
      {sentence(problem)}
    </span>
  ));
};

/** A change in words: "Amount 3,413 → 3,500 from 1 Jan 2027"; nothing for what no record shows. */
const useChangeSaid = (names: readonly { kind: string; id: number; name: string }[]) => {
  const { t } = useTranslation();
  const format = useFormat();
  const nameOfField = useFieldName();
  const reference = useReferenceRegister();
  const nameOf: NameOf = (kind, id) => {
    const found = names.find((one) => one.kind === kind && one.id === id)?.name;
    const values = reference?.rows(kind as 'job', id ?? 0).at(-1)?.values as { name?: string } | undefined;
    return found ?? values?.name ?? '';
  };
  const show = useShow({ register: reference ?? new RowRegister(), nameOf });
  return ({ section, field: name, from, was, is }: RowChange): string => {
    const field = fieldsOf(section).find((one) => one.name === name);
    const shown = field && [was, is].map((value) => show(field, value));
    if (!field || !shown || (shown[0] === '' && shown[1] === '')) return '';
    const label = nameOfField(section, name);
    const day = from === '-infinity' ? '' : ` ${t('edit.fromDay', { day: format.day(from) })}`;
    return shown[0] === '' ? `${label} ${shown[1]}` : `${label} ${shown[0]} → ${shown[1] || '–'}${day}`;
  };
};
