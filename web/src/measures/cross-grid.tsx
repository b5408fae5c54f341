import { useVirtualizer } from '@tanstack/react-virtual';
import { type KeyboardEvent, useRef } from 'react';
import { useTranslation } from 'react-i18next';
import { useSetParams } from '../frame/lens';
import { useFormat } from '../texts/format';
import { useLabel } from './use-label';
import { MonthChart } from './month-chart';
import { MOST_LINES } from './chart-lines';
import type { Asked, CrossOut } from './measures.queries';
import { useCells } from './use-cells';

/** Widths in pixels that chart and table share, so that the chart's points stand above the table's columns. */
export const NAMES = 180;
const LABELS = 128;
const LEAST_MONTH = 50;
const ROW = 32;

type Row = {
  key: string;
  name: string;
  values: (number | null)[];
  weight: number;
  closes?: number[] | undefined;
};
type Open = { key: string; month: string } | null;
type GridProps = { asked: Asked; table: CrossOut; open: Open; title: string };

/** Chart and table of a report, scrolled as one. */
export const CrossGrid = ({ asked, table, open, title }: GridProps) => {
  const { t } = useTranslation('reports');
  const language = useLabel();
  const box = useRef<HTMLDivElement>(null);
  const rows: Row[] = table.rows.map(({ key, label, values, closes, weight }) => ({
    key: key === null ? '-' : String(key),
    name: asked.by === 'whole' ? t('all') : key === null ? t('none') : language(label),
    values,
    weight,
    closes,
  }));
  const total: Row = { key: 'all', name: t('all'), values: table.total.values, weight: 0 };
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => box.current,
    estimateSize: () => ROW,
    overscan: 16,
  });
  const items = virtual.getVirtualItems();
  const [before, after] = [items[0]?.start ?? 0, virtual.getTotalSize() - (items.at(-1)?.end ?? 0)];
  const width = NAMES + table.months.length * LEAST_MONTH + LABELS;
  return (
    <>
      <div className="scroll crossing" ref={box}>
        <div style={{ minWidth: width }}>
          <MonthChart
            {...{ asked, table, rows, total, title }}
            open={open?.key ?? null}
            widths={{ NAMES, LABELS }}
          />
          <table className="register cross" onKeyDown={moveInGrid}>
            <colgroup>
              <col style={{ width: NAMES }} />
              {table.months.map(({ month }) => (
                <col key={month} />
              ))}
              <col style={{ width: LABELS }} />
            </colgroup>
            <Head asked={asked} table={table} />
            <tbody>
              {before > 0 && <tr aria-hidden style={{ height: before }} />}
              {items.map(({ index }) => (
                <Line key={rows[index]!.key} row={rows[index]!} index={index} {...{ asked, table, open }} />
              ))}
              {after > 0 && <tr aria-hidden style={{ height: after }} />}
            </tbody>
            {asked.by !== 'whole' && (
              <tfoot>
                <Line row={total} index={rows.length} {...{ asked, table, open }} />
              </tfoot>
            )}
          </table>
        </div>
      </div>
      <Legend asked={asked} table={table} rows={rows} />
    </>
  );
};

const Head = ({ asked, table }: { asked: Asked; table: CrossOut }) => {
  const { t } = useTranslation('reports');
  const format = useFormat();
  const { isRate } = useCells(asked);
  return (
    <thead>
      <tr>
        <th scope="col">
          {t(`heads.${asked.by}`)}
          {isRate && <>, {t('percent')}</>}
        </th>
        {table.months.map(({ month, isFuture, isCut }, i) => (
          <th key={month} scope="col" className={isFuture ? 'r indigo' : 'r'}>
            {isCut && <span className="sofar">{t('soFar')}</span>}
            <span>{format.month(month, i === 0 || month.endsWith('-01') ? 'year' : 'short')}</span>
          </th>
        ))}
        <td aria-hidden />
      </tr>
    </thead>
  );
};

type LineProps = { row: Row; index: number; asked: Asked; table: CrossOut; open: Open };

const Line = ({ row, index, asked, table, open }: LineProps) => {
  const { t } = useTranslation('reports');
  const format = useFormat();
  const cells = useCells(asked);
  const set = useSetParams();
  const isOpen = open?.key === row.key;
  return (
    <tr className={isOpen ? 'current' : undefined}>
      <th scope="row" title={row.name}>
        {row.name}
      </th>
      {table.months.map(({ month, isKnown, isFuture }, i) => {
        const value = row.values[i] ?? null;
        const there = row.closes?.[i];
        const isShort = value !== null && there !== undefined && there < 12;
        const text = isKnown ? cells.value(value) : '';
        const said = value === null && isKnown ? t('cellNobody') : text;
        const note = isShort ? `, ${t('shortCell', { closes: there })}` : '';
        const isThis = isOpen && open.month === month;
        return (
          <td key={month} className={isFuture ? 'r indigo' : 'r'}>
            {isKnown && (
              <button
                type="button"
                className={isThis ? 'cell on' : 'cell'}
                tabIndex={isThis || (!open && index === 0 && i === 0) ? 0 : -1}
                data-at={`${index}.${i}`}
                aria-label={`${t('cell', { row: row.name, month: format.month(month), value: said })}${note}`}
                title={isShort ? t('shortCell', { closes: there }) : undefined}
                onClick={() => set({ cell: isThis ? null : `${row.key}~${month}` }, { replace: false })}
              >
                <span>
                  {text}
                  {isShort && '°'}
                </span>
              </button>
            )}
          </td>
        );
      })}
      <td />
    </tr>
  );
};

const STEPS: Record<string, [number, number]> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};

// The table is one stop for the tab key; arrows go from cell to cell.
const moveInGrid = (event: KeyboardEvent<HTMLTableElement>): void => {
  const step = STEPS[event.key];
  const [row, column] = ((event.target as HTMLElement).dataset['at'] ?? '').split('.').map(Number);
  if (!step || row === undefined || column === undefined) return;
  const next = event.currentTarget.querySelector<HTMLElement>(
    `[data-at="${row + step[0]}.${column + step[1]}"]`,
  );
  event.preventDefault();
  next?.focus();
};

const Legend = ({ asked, table, rows }: { asked: Asked; table: CrossOut; rows: Row[] }) => {
  const { t } = useTranslation('reports');
  const format = useFormat();
  const { isRate } = useCells(asked);
  const isBars = asked.measure === 'joiners' || asked.measure === 'leavers';
  const unfinished = table.months.find(({ isCut }) => isCut);
  const isAny = (test: (row: Row, i: number) => boolean) =>
    rows.some((row) => table.months.some(({ isKnown }, i) => isKnown && test(row, i)));
  const said = [
    isRate && isAny(({ values }, i) => values[i] === 0) && t('legend.zero'),
    isRate && isAny(({ values }, i) => values[i] === null) && t('legend.nobody'),
    table.months.some(({ isKnown }) => !isKnown) && t('legend.blank'),
    isAny(({ closes, values }, i) => values[i] !== null && (closes?.[i] ?? 12) < 12) && t('legend.short'),
    unfinished && t('legend.soFar', { day: format.day(unfinished.end) }),
    !isBars && rows.length > MOST_LINES && t('legend.lines', { shown: MOST_LINES, all: rows.length }),
  ].filter(Boolean);
  return (
    <p className="legend soft">
      {said.map((text) => (
        <span key={String(text)}>{text}</span>
      ))}
    </p>
  );
};

export type { Row };
