import type { Fault, ImportRow, ListName, Problem } from '@gremium/contract';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useMay } from '../frame/session';
import { useFormat } from '../texts/format';
import { Problems, useSentence } from '../ui/problems';
import { useFieldLabel } from './import-field-label';
import { useAddToList, useImportRows } from './files.queries';
import type { StepProps } from './import-step';

const SHOWN = 200;

/** Rows that are refused, with what is wrong beside their number: cells to type into, offers to take, all alike at once. */
export const RepairGrid = ({ of, acts }: StepProps) => {
  const { t } = useTranslation('files');
  const format = useFormat();
  const labelOf = useFieldLabel();
  const { id, columns, counts, own } = of;
  const refused = useImportRows(id, 'refused', SHOWN);
  const rows = refused.data?.rows ?? [];
  const total = counts?.refused ?? 0;
  const taken = useColumns(columns, rows);
  const spread = useSpread(rows, columns);
  const addTo = useAddToList(id);
  const mayAdd = useMay().edit('list_entry');
  const repair = (row: ImportRow, field: string, text: string) =>
    acts.repair.mutate({ repairs: [{ row: row.row, field, text, alike: spread.isOn(row, field) }] });
  return (
    <section className="importstep now" aria-label={t('repair.head')}>
      <div className="no" aria-hidden>
        4
      </div>
      <div className="stepbody wide">
        <div className="repairhead">
          <h2>{t('repair.head')}</h2>
          <p className="source">{t('repair.lead', { count: total, shown: format.number(total) })}</p>
          <a className="textact" href={`/api/imports/${id}/workbook`} download>
            {t('repair.workbook')}
          </a>
        </div>
        <Problems of={addTo.error} />
        <div className="gridbox" role="region" aria-label={t('repair.head')} tabIndex={0}>
          <table className="repairgrid">
            <thead>
              <tr>
                <th scope="col" className="n">
                  {t('repair.row')}
                </th>
                <th scope="col">{t('repair.wrong')}</th>
                {taken.map(({ field, i }) => (
                  <th key={i} scope="col">
                    {labelOf(field)}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {rows.map((row) => (
                <tr key={row.row}>
                  <th scope="row" className="n">
                    {row.row}
                  </th>
                  <td className="faults">
                    {row.faults.map((fault) => (
                      <FaultLine
                        key={`${fault.field} ${fault.problem.code}`}
                        fault={fault}
                        alike={spread.count(row, fault)}
                        isAll={fault.field !== null && spread.isOn(row, fault.field)}
                        onAll={(isAll) => spread.set(row, fault.field as string, isAll)}
                        onTake={
                          own && fault.field !== null
                            ? (text) => repair(row, fault.field as string, text)
                            : null
                        }
                        onNew={() => acts.arrange.mutate({ newNumbers: true })}
                        onAdd={mayAdd ? (list, text) => addTo.mutate({ list, text }) : null}
                      />
                    ))}
                    {own && (
                      <button
                        type="button"
                        className="textact"
                        aria-label={t('repair.leaveOutRow', { row: row.row })}
                        onClick={() => acts.leaveOut.mutate({ rows: [row.row], leftOut: true })}
                      >
                        {t('repair.leaveOut')}
                      </button>
                    )}
                  </td>
                  {taken.map(({ field, heading, i }) => (
                    <Cell
                      key={`${i} ${row.cells[i]}`}
                      text={row.cells[i] ?? ''}
                      label={t('repair.cell', { heading, row: row.row })}
                      isBad={row.faults.some((fault) => fault.field === field)}
                      onType={own ? (text) => repair(row, field, text) : null}
                    />
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
        {total > rows.length && rows.length > 0 && (
          <p className="source">
            {t('repair.more', { shown: format.number(rows.length), total: format.number(total) })}
          </p>
        )}
      </div>
    </section>
  );
};

type Taken = { field: string; heading: string; i: number };

const WHO: readonly string[] = ['number', 'name', 'given', 'family', 'id', 'of', 'code'];

// What was wrong when the table was opened first, then who it is about, then the rest: bad cells are in sight, nothing jumps.
const useColumns = (
  columns: readonly { field: string | null; heading: string }[],
  rows: readonly ImportRow[],
): Taken[] => {
  const [wrong, setWrong] = useState<readonly string[]>([]);
  const found = rows.flatMap(({ faults }) => faults.flatMap(({ field }) => field ?? []));
  const fresh = [...new Set(found)].filter((field) => !wrong.includes(field));
  if (fresh.length > 0) setWrong([...wrong, ...fresh]);
  const rank = ({ field }: Taken) => (wrong.includes(field) ? 0 : WHO.includes(field) ? 1 : 2);
  return columns
    .flatMap(({ field, heading }, i) => (field === null ? [] : [{ field, heading, i }]))
    .sort((a, b) => rank(a) - rank(b) || a.i - b.i);
};

// Two rows about the same person or with the same email are mended one by one: alike they are the fault.
const ONE_BY_ONE = new Set<Problem['code']>(['person_twice', 'email_twice']);

/** Which repairs go to all cells that say the same and are wrong in the same way: preset where they say anything. */
const useSpread = (rows: readonly ImportRow[], columns: readonly { field: string | null }[]) => {
  const [chosen, setChosen] = useState<ReadonlyMap<string, boolean>>(new Map());
  const textOf = (row: ImportRow, field: string | null) =>
    row.cells[columns.findIndex((column) => column.field === field)]?.trim();
  const isAlike = (a: ImportRow, b: ImportRow, { field, problem }: Fault) =>
    textOf(a, field) === textOf(b, field) &&
    b.faults.some((other) => other.field === field && other.problem.code === problem.code);
  const count = (row: ImportRow, fault: Fault): number =>
    fault.field === null || ONE_BY_ONE.has(fault.problem.code)
      ? 1
      : rows.filter((other) => isAlike(row, other, fault)).length;
  return {
    /** How many of the rows shown are wrong alike, this one included. */
    count,
    isOn: (row: ImportRow, field: string): boolean => {
      const fault = row.faults.find((one) => one.field === field);
      if (!fault || count(row, fault) === 1) return false;
      return chosen.get(`${row.row} ${field}`) ?? textOf(row, field) !== '';
    },
    set: (row: ImportRow, field: string, isAll: boolean) =>
      setChosen(new Map(chosen).set(`${row.row} ${field}`, isAll)),
  };
};

const DAY = /^\d{4}-\d{2}-\d{2}$/;

const FaultLine = ({
  fault: { field, problem, offers },
  alike,
  isAll,
  onAll,
  onTake,
  onNew,
  onAdd,
}: {
  fault: Fault;
  alike: number;
  isAll: boolean;
  onAll: (isAll: boolean) => void;
  onTake: ((text: string) => void) | null;
  onNew: () => void;
  onAdd: ((list: string, text: string) => void) | null;
}) => {
  const { t } = useTranslation('files');
  const { t: texts } = useTranslation();
  const format = useFormat();
  const sentence = useSentence();
  const labelOf = useFieldLabel();
  const shown = (offer: string) => (DAY.test(offer) ? format.day(offer) : offer);
  return (
    <div className="fault">
      {field !== null && <b>{labelOf(field)}: </b>}
      {sentence(problem)}{' '}
      {onTake &&
        offers.filter(Boolean).map((offer) => (
          <button key={offer} type="button" className="textact" onClick={() => onTake(offer)}>
            {shown(offer)}
          </button>
        ))}
      {onTake && problem.code === 'person_unknown' && (
        <button type="button" className="textact" onClick={onNew}>
          {t('repair.asNew')}
        </button>
      )}
      {onTake && onAdd && problem.code === 'value_unknown' && typeof problem.params['list'] === 'string' && (
        <button
          type="button"
          className="textact"
          onClick={() => onAdd(String(problem.params['list']), String(problem.params['text']))}
        >
          {t('repair.addTo', { list: texts(`choice.${problem.params['list'] as ListName}`) })}
        </button>
      )}
      {onTake && alike > 1 && (
        <label className="source">
          <input type="checkbox" checked={isAll} onChange={(event) => onAll(event.target.checked)} />{' '}
          {t(problem.code === 'value_missing' ? 'repair.alikeBlank' : 'repair.alike', { count: alike })}
        </label>
      )}
    </div>
  );
};

// The next cell that is wrong, in the order of the table; leaving the one typed into sends it.
const goToNextFault = (from: HTMLInputElement): void => {
  const all = [...(from.closest('table')?.querySelectorAll<HTMLInputElement>('input[aria-invalid]') ?? [])];
  const next = all
    .slice(all.indexOf(from) + 1)
    .find((input) => input.getAttribute('aria-invalid') === 'true');
  if (next) next.focus();
  else from.blur();
};

const Cell = ({
  text,
  label,
  isBad,
  onType,
}: {
  text: string;
  label: string;
  isBad: boolean;
  onType: ((text: string) => void) | null;
}) => {
  const { t } = useTranslation('files');
  return (
    <td className={isBad ? 'bad' : undefined}>
      {isBad && (
        <span className="badmark" title={t('repair.bad')}>
          !
        </span>
      )}
      {onType ? (
        <input
          aria-label={label}
          aria-invalid={isBad}
          defaultValue={text}
          size={Math.min(34, Math.max(6, text.length))}
          onBlur={(event) => {
            if (event.target.value !== text) onType(event.target.value);
          }}
          onKeyDown={(event) => {
            if (event.key === 'Enter') goToNextFault(event.currentTarget);
            if (event.key === 'Escape') event.currentTarget.value = text;
          }}
        />
      ) : (
        text
      )}
    </td>
  );
};
