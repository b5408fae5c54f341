import {
  BarController,
  BarElement,
  CategoryScale,
  Chart as ChartJs,
  LineController,
  LineElement,
  LinearScale,
  type Plugin,
  PointElement,
} from 'chart.js';
import { useMemo } from 'react';
import { Chart } from 'react-chartjs-2';
import { useTranslation } from 'react-i18next';
import { useMode } from '../frame/session';
import { useFormat } from '../texts/format';
import { colours, sans } from '../tokens';
import { chartLines } from './chart-lines';
import type { Row } from './cross-grid';
import type { Asked, CrossOut } from './measures.queries';
import { useCells } from './use-cells';

ChartJs.register(
  BarController,
  BarElement,
  CategoryScale,
  LineController,
  LineElement,
  LinearScale,
  PointElement,
);

const HEIGHT = 150;
const LINE = 14;

type ChartProps = {
  asked: Asked;
  table: CrossOut;
  rows: Row[];
  total: Row;
  title: string;
  /** Key of the row that is open. */
  open: string | null;
  widths: { NAMES: number; LABELS: number };
};

type Drawn = Row & { colour: string; width: number };

// Names stand at the ends of their lines, pushed apart where they would lie over each other.
const endLabels = (drawn: readonly Drawn[]): Plugin => ({
  id: 'end-labels',
  afterDatasetsDraw: (chart) => {
    const { ctx, chartArea } = chart;
    const labels = drawn
      .map(({ name, colour, width }, i) => ({
        name,
        colour,
        isBold: width > 2,
        at: chart.getDatasetMeta(i).data.at(-1)?.y,
      }))
      .filter(({ at }) => at !== undefined && Number.isFinite(at))
      .sort((a, b) => (a.at as number) - (b.at as number));
    let last = -Infinity;
    const places = labels.map(({ at }) => (last = Math.max(at as number, last + LINE)));
    const over = Math.max(0, (places.at(-1) ?? 0) - (chartArea.bottom + LINE / 2));
    ctx.save();
    ctx.textBaseline = 'middle';
    labels.forEach(({ name, colour, isBold }, i) => {
      ctx.font = `${isBold ? 600 : 400} 12px ${sans}`;
      ctx.fillStyle = colour;
      ctx.fillText(shortened(ctx, name), chartArea.right + 8, (places[i] as number) - over);
    });
    ctx.restore();
  },
});

const MOST_WIDTH = 116;
const shortened = (ctx: CanvasRenderingContext2D, name: string): string => {
  if (ctx.measureText(name).width <= MOST_WIDTH) return name;
  let text = name;
  while (text.length > 3 && ctx.measureText(`${text}…`).width > MOST_WIDTH) text = text.slice(0, -1);
  return `${text.trimEnd()}…`;
};

/** Lines of the largest values and of the one that is open, or bars where things are counted by month. */
export const MonthChart = ({ asked, table, rows, total, title, open, widths }: ChartProps) => {
  const { t } = useTranslation('reports');
  const format = useFormat();
  const c = colours[useMode()];
  const { isRate, plain } = useCells(asked);
  const isBars = asked.measure === 'joiners' || asked.measure === 'leavers';
  const drawn = useMemo((): Drawn[] => {
    const opened = rows.find(({ key }) => key === open);
    if (isBars) return [{ ...(opened ?? total), colour: opened ? c.bronze : c.ink, width: 2 }];
    const tints = [c.indigo, c.moss, c.ochre, c.soft, c.faint];
    const largest = chartLines(rows.filter((row) => row !== opened)).map((row, i): Drawn => ({
      ...row,
      colour: tints[i] as string,
      width: 1.5,
    }));
    return [
      ...largest,
      ...(opened ? [{ ...opened, colour: c.bronze, width: 3 }] : []),
      // a total of counts would press all others to the ground
      ...(isRate || rows.length === 1 ? [{ ...total, colour: c.ink, width: 2.5 }] : []),
    ];
  }, [rows, total, open, isBars, isRate, c]);
  const plugins = useMemo(() => [endLabels(drawn)], [drawn]);
  const data = {
    labels: table.months.map(({ month }) => month),
    datasets: drawn.map(({ name, colour, width, values }) => ({
      label: name,
      data: values.map(plain),
      borderColor: colour,
      backgroundColor: colour,
      borderWidth: isBars ? 0 : width,
      borderDash: colour === c.faint ? [4, 3] : [],
      pointRadius: values.length === 1 ? 3 : 0,
      maxBarThickness: 26,
      spanGaps: false,
    })),
  };
  const grid = { color: c.hair, drawTicks: false };
  const ticks = { color: c.soft, font: { family: sans, size: 12 }, maxTicksLimit: 4, padding: 8 };
  return (
    <figure className="monthchart" style={{ height: HEIGHT }}>
      <Chart
        key={`${isBars} ${drawn.map(({ key, colour }) => `${key}${colour}`).join()}`}
        type={isBars ? 'bar' : 'line'}
        aria-label={t('chart', { title })}
        role="img"
        data={data}
        plugins={plugins}
        options={{
          animation: false,
          responsive: true,
          maintainAspectRatio: false,
          events: [],
          layout: { padding: { right: widths.LABELS, top: 10, bottom: 2 } },
          scales: {
            x: {
              offset: true,
              grid: { display: false },
              ticks: { display: false },
              border: { display: false },
            },
            y: {
              beginAtZero: true,
              grid,
              border: { display: false },
              ticks: {
                ...ticks,
                callback: (value) => `${format.number(Number(value))}${isRate ? ' %' : ''}`,
              },
              // as wide as the table's column of names, so that points stand above the months
              afterFit: (axis) => (axis.width = widths.NAMES),
            },
          },
        }}
      />
    </figure>
  );
};
