import type { Day } from '@gremium/contract';
import { addDays, addMonths, day, daysBetween, later, startOfMonth } from '@gremium/core';
import { type KeyboardEvent, type PointerEvent, useLayoutEffect, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useFormat } from '../texts/format';
import { useLens, useSetDay, useStepDay } from './lens';
import { type Tick, neighbourTick } from './top-bar';

const MONTHS = 15;
const HEIGHT = 25;

/** The window of the strip: five months back from today, or around a day that is outside of it. */
const windowFor = (on: Day, today: Day): { from: Day; until: Day } => {
  const usual = startOfMonth(addMonths(startOfMonth(today), -5));
  const isInside = on >= usual && on < addMonths(usual, MONTHS);
  const from = isInside ? usual : later(addMonths(startOfMonth(on), -7), day('1900-01-01'));
  return { from, until: addMonths(from, MONTHS) };
};

// Ticks by week: a year of days would be a grey band.
const byWeek = (ticks: readonly Tick[], from: Day, until: Day): Map<number, number> => {
  const weeks = new Map<number, number>();
  for (const tick of ticks) {
    if (tick.day < from || tick.day >= until) continue;
    const week = Math.floor(daysBetween(from, tick.day) / 7);
    weeks.set(week, (weeks.get(week) ?? 0) + tick.count);
  }
  return weeks;
};

/** A year or so of months with ticks of what happens; its handle is dragged, or moved like a slider. */
export const TimeStrip = ({ ticks }: { ticks: readonly Tick[] }) => {
  const { t } = useTranslation();
  const format = useFormat();
  const { on, today, isToday } = useLens();
  const setDay = useSetDay();
  const box = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(1236);
  const [dragged, setDragged] = useState<Day | null>(null);
  useLayoutEffect(() => {
    const element = box.current;
    if (!element) return;
    const observer = new ResizeObserver(() => setWidth(element.clientWidth));
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  const { from, until } = windowFor(on, today);
  const days = daysBetween(from, until);
  const xOf = (of: Day) => (daysBetween(from, of) / days) * width;
  const shown = dragged ?? on;
  const dayAt = (event: PointerEvent): Day => {
    const left = box.current?.getBoundingClientRect().left ?? 0;
    const n = Math.round(((event.clientX - left) / width) * days);
    return addDays(from, Math.min(days - 1, Math.max(0, n)));
  };
  const stepDay = useStepDay();
  const press = (event: KeyboardEvent) => {
    const steps: Record<string, (from: Day) => Day | null> = {
      ArrowRight: (from) => addDays(from, 1),
      ArrowLeft: (from) => addDays(from, -1),
      ArrowUp: (from) => neighbourTick(ticks, from, 1),
      ArrowDown: (from) => neighbourTick(ticks, from, -1),
      PageUp: (from) => addMonths(from, 1),
      PageDown: (from) => addMonths(from, -1),
      Home: () => today,
    };
    const step = steps[event.key];
    if (!step) return;
    event.preventDefault();
    stepDay(step);
  };
  const months = Array.from({ length: MONTHS }, (_, i) => addMonths(from, i));
  const weeks = byWeek(ticks, from, until);
  const most = Math.max(8, ...weeks.values());
  const isOff = shown !== today;
  return (
    <div
      ref={box}
      className={isToday ? 'strip' : 'strip elsewhere'}
      role="slider"
      tabIndex={0}
      aria-label={t('lens.strip')}
      aria-valuemin={0}
      aria-valuemax={days}
      aria-valuenow={daysBetween(from, shown)}
      aria-valuetext={format.dayInWords(shown)}
      onKeyDown={press}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        setDragged(dayAt(event));
      }}
      onPointerMove={(event) => dragged && setDragged(dayAt(event))}
      onPointerUp={(event) => {
        if (dragged) setDay(dayAt(event));
        setDragged(null);
      }}
    >
      <svg width={width} height={HEIGHT} aria-hidden>
        {isOff && (
          <rect
            className="span"
            x={Math.min(xOf(today), xOf(shown))}
            width={Math.abs(xOf(shown) - xOf(today))}
            y={0}
            height={HEIGHT}
          />
        )}
        {[...weeks].map(([week, count]) => {
          const at = addDays(from, week * 7 + 3);
          return (
            <path
              key={week}
              className={at >= today ? 'tick planned' : 'tick'}
              d={`M${xOf(at).toFixed(1)} ${HEIGHT}v${-(2.5 + 11 * Math.sqrt(count / most))}`}
            />
          );
        })}
        {months.map((month, i) => (
          <g key={month}>
            <path className="month" d={`M${xOf(month).toFixed(1)} 0v${HEIGHT}`} />
            <text x={xOf(month) + 5} y={11} className={month.endsWith('-01-01') ? 'year' : undefined}>
              {monthName(month, i === 0 || month.slice(5, 7) === '01', format.locale)}
            </text>
          </g>
        ))}
        {isOff && <path className="today" d={`M${xOf(today).toFixed(1)} 0v${HEIGHT}`} />}
        <g
          className={isOff ? 'handle elsewhere' : 'handle'}
          transform={`translate(${xOf(shown).toFixed(1)} 0)`}
        >
          <path d={`M0 0v${HEIGHT}`} />
          <path className="grip" d="M-5 0h10v6l-5 5-5-5z" />
        </g>
      </svg>
      {dragged && (
        <output className="dragged" style={{ left: Math.min(width - 110, Math.max(0, xOf(dragged) + 8)) }}>
          {format.day(dragged)}
        </output>
      )}
    </div>
  );
};

const monthName = (month: Day, withYear: boolean, locale: string): string =>
  new Intl.DateTimeFormat(locale, {
    month: 'short',
    timeZone: 'UTC',
    ...(withYear ? { year: 'numeric' } : {}),
  }).format(new Date(`${month}T00:00:00Z`));
