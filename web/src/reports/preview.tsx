import type { ReportFieldOut, ReportRun, ViewDefinition } from '@gremium/contract';
import { Fragment } from 'react';
import { Link } from 'react-router';
import { useTo } from '../frame/lens';
import { hasRecord, pathOf } from '../frame/pages';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { byId } from './definition';
import { reportWords } from './report-words';

type PreviewProps = {
  run: ReportRun;
  view: ViewDefinition;
  fields: readonly ReportFieldOut[];
  onMore: () => void;
};

const NUMERIC = new Set(['number', 'hundredths', 'exact']);

type Wire = ReportRun['rows'][number]['cells'][number];

/** Values as the page shows them: days, numbers and yes or no in the language of the user; the rest as it comes. */
export const useCellSaid = () => {
  const words = useWords(reportWords);
  const format = useFormat();
  return (value: Wire, kind: ReportFieldOut['kind']): string => {
    if (value === null) return '–';
    if (typeof value === 'boolean') return value ? words.yes : words.no;
    if (kind === 'day') return format.day(String(value));
    if (kind === 'number') return format.number(Number(value));
    if (kind === 'exact' || kind === 'hundredths') return format.amount(String(value));
    return String(value);
  };
};

/** The rows of a report as a table: groups with subtotals, totals under a double rule, each row opening its record. */
export const Preview = ({ run, view, fields, onMore }: PreviewProps) => {
  const words = useWords(reportWords);
  const format = useFormat();
  const to = useTo();
  const said = useCellSaid();
  const known = byId(fields);
  const { columns, rows, groups } = run;
  const isRight = (i: number) => NUMERIC.has(columns[i]?.kind ?? '');
  const starts = new Map<number, typeof groups>();
  const ends = new Map<number, typeof groups>();
  for (const group of groups) {
    starts.set(group.first, [...(starts.get(group.first) ?? []), group]);
    const last = group.first + group.rows - 1;
    ends.set(last, [group, ...(ends.get(last) ?? [])]);
  }
  const totalCells = (label: string, things: number, totals: ReportRun['totals']) =>
    columns.map((column, i) => {
      const total = totals[i];
      const text = total ? said(total.value, total.name === 'count' ? 'number' : column.kind) : '';
      const named = total && total.name !== 'sum' ? `${text} (${words.totals[total.name]})` : text;
      return (
        <td key={i} className={isRight(i) ? 'r' : undefined}>
          {i === 0 ? [`${label} ${format.number(things)}`.trim(), named].filter(Boolean).join(' · ') : named}
        </td>
      );
    });
  return (
    <>
      <div className="previewbox">
        <table className="register report">
          <thead>
            <tr>
              {columns.map(({ label, why, section, field }, i) => (
                <th key={`${field} ${i}`} scope="col" className={isRight(i) ? 'r' : undefined}>
                  {known.get(field) || why ? label : label}
                  {why && (
                    <div className="source">
                      {why === 'hidden' ? words.hidden(section ?? '') : words.unknown}
                    </div>
                  )}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((row, i) => (
              <Fragment key={`${row.kind} ${row.id} ${i}`}>
                {(starts.get(i) ?? []).map((group) => (
                  <tr key={`g${group.depth}`} className="groupline">
                    <th
                      scope="rowgroup"
                      colSpan={columns.length}
                      style={{ paddingLeft: 8 + group.depth * 16 }}
                    >
                      {group.label || '–'} <span className="soft">{format.number(group.rows)}</span>
                    </th>
                  </tr>
                ))}
                <tr>
                  {row.cells.map((value, c) => {
                    const text = said(value, columns[c]?.kind ?? 'text');
                    return (
                      <td
                        key={c}
                        className={isRight(c) ? 'r' : columns[c]?.kind === 'day' ? 'day' : undefined}
                      >
                        {c === 0 && hasRecord(row.kind) ? (
                          <Link to={to(pathOf(row.kind, row.id))}>{text}</Link>
                        ) : (
                          text
                        )}
                      </td>
                    );
                  })}
                </tr>
                {view.columns.some(({ total }) => total) &&
                  (ends.get(i) ?? []).map((group) => (
                    <tr key={`s${group.depth}`} className="subtotal">
                      {totalCells(group.label, group.things, group.totals)}
                    </tr>
                  ))}
              </Fragment>
            ))}
          </tbody>
          {rows.length > 0 && (
            <tfoot>
              <tr>{totalCells('', run.things, run.totals)}</tr>
            </tfoot>
          )}
        </table>
      </div>
      {rows.length === 0 ? (
        <p className="soft">{words.rowsNone}</p>
      ) : (
        <p className="soft">
          {words.shown('1', format.number(rows.length), format.number(run.matched))}{' '}
          {rows.length < run.matched && rows.length < 500 && (
            <button type="button" className="textact" onClick={onMore}>
              {words.more}
            </button>
          )}
        </p>
      )}
    </>
  );
};
