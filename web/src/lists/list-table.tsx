import { useVirtualizer } from '@tanstack/react-virtual';
import { Popover } from 'antd';
import { useEffect, useMemo, useRef } from 'react';
import { Link } from 'react-router';
import { useTo } from '../frame/lens';
import { hasRecord, pathOf } from '../frame/pages';
import { ColumnOrder } from '../reports/column-order';
import { FieldShelf } from '../reports/field-shelf';
import { useCellSaid } from '../reports/preview';
import { reportWords } from '../reports/report-words';
import { useReportFields, useReportPages } from '../reports/reports.queries';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { Problems } from '../ui/problems';
import type { ListView } from './list-view';
import { listViewWords } from './list-view-words';

const NUMERIC = new Set(['number', 'hundredths', 'exact']);
const ROW = 34;
// Where tables were left, by what they showed: going back finds the same place.
const places = new Map<string, number>();

/** A list as a table of any columns, ordered by its heads; rows come as one scrolls, each opens its record. */
export const ListTable = ({ list }: { list: ListView }) => {
  const { view } = list;
  const words = useWords(listViewWords);
  const report = useWords(reportWords);
  const format = useFormat();
  const to = useTo();
  const said = useCellSaid();
  const pages = useReportPages(view);
  const fields = useReportFields(view.subject).data?.fields ?? [];
  const rows = useMemo(() => pages.data?.pages.flatMap((page) => page.rows) ?? [], [pages.data]);
  const [head] = pages.data?.pages ?? [];
  const box = useRef<HTMLDivElement>(null);
  const place = JSON.stringify(view);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => box.current,
    estimateSize: () => ROW,
    overscan: 12,
    initialOffset: places.get(place) ?? 0,
  });
  const shown = virtual.getVirtualItems();
  const last = shown.at(-1)?.index ?? 0;
  const { hasNextPage, isFetchingNextPage, fetchNextPage } = pages;
  useEffect(() => {
    if (hasNextPage && !isFetchingNextPage && last >= rows.length - 30) void fetchNextPage();
  }, [last, rows.length, hasNextPage, isFetchingNextPage, fetchNextPage]);
  const [before, after] = [
    shown[0]?.start ?? 0,
    Math.max(0, virtual.getTotalSize() - (shown.at(-1)?.end ?? 0)),
  ];
  const [key] = view.order;
  const orderBy = (field: string) =>
    list.setOrder([{ field, down: key?.field === field ? !key.down : false }]);
  return (
    <div className="listtable">
      <div className="counts">
        {head && (
          <span role="status">
            {words.matched(format.number(head.matched), format.number(head.looked))}
            {head.noValue > 0 && (
              <span className="ochre">, {words.noValue(format.number(head.noValue))}</span>
            )}
          </span>
        )}
        <Popover
          trigger="click"
          placement="bottomRight"
          destroyOnHidden
          content={
            <div className="columnsform">
              <FieldShelf fields={fields} chosen={view.columns} onChange={list.setColumns} />
              <ColumnOrder fields={fields} columns={view.columns} onChange={list.setColumns} isPlain />
            </div>
          }
        >
          <button type="button" className="textact">
            {words.columns}
          </button>
        </Popover>
      </div>
      <Problems of={pages.error} />
      {head && rows.length === 0 && <div className="empty">{words.empty}</div>}
      {head && rows.length > 0 && (
        <div
          className="tablebox"
          ref={box}
          onScroll={({ currentTarget }) => places.set(place, currentTarget.scrollTop)}
          tabIndex={-1}
        >
          <table className="register report">
            <thead>
              <tr>
                {head.columns.map(({ label, kind, field, why, section }) => {
                  const isKey = key?.field === field;
                  return (
                    <th
                      key={field}
                      scope="col"
                      className={NUMERIC.has(kind) ? 'r' : undefined}
                      aria-sort={isKey ? (key.down ? 'descending' : 'ascending') : undefined}
                    >
                      {why ? (
                        <>
                          {label}
                          <div className="source">
                            {why === 'hidden' ? report.hidden(section ?? '') : report.unknown}
                          </div>
                        </>
                      ) : (
                        <button
                          type="button"
                          aria-label={words.orderBy(label)}
                          onClick={() => orderBy(field)}
                        >
                          {label}
                          {isKey && <span aria-hidden> {key.down ? '↓' : '↑'}</span>}
                        </button>
                      )}
                    </th>
                  );
                })}
              </tr>
            </thead>
            <tbody>
              {before > 0 && <tr aria-hidden style={{ height: before }} />}
              {shown.map(({ index }) => {
                const row = rows[index];
                if (!row) return null;
                return (
                  <tr key={index} data-index={index} ref={virtual.measureElement}>
                    {row.cells.map((value, c) => {
                      const column = head.columns[c];
                      const text = said(value, column?.kind ?? 'text');
                      const className = NUMERIC.has(column?.kind ?? '')
                        ? 'r'
                        : column?.kind === 'day'
                          ? 'day'
                          : undefined;
                      return (
                        <td key={c} className={className}>
                          {c === 0 && hasRecord(row.kind) ? (
                            <Link to={to(pathOf(row.kind, row.id), list.kept)}>{text}</Link>
                          ) : (
                            text
                          )}
                        </td>
                      );
                    })}
                  </tr>
                );
              })}
              {after > 0 && <tr aria-hidden style={{ height: after }} />}
            </tbody>
          </table>
        </div>
      )}
    </div>
  );
};
