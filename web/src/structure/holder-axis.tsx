import type { Bound, Day } from '@gremium/contract';
import {
  BEGINNING,
  OPEN,
  type Register,
  addDays,
  daysBetween,
  earlier,
  handovers,
  isBefore,
  later,
  personOf,
  spanOf,
  stackedHoldings,
  vacancies,
} from '@gremium/core';
import { useTranslation } from 'react-i18next';
import { keptMovements } from '../movements/kept-movements';
import { useLens } from '../frame/lens';
import { useMode } from '../frame/session';
import { useFormat } from '../texts/format';
import type { NameOf } from '../time/time.queries';
import { colours } from '../tokens';
import { useAllKept } from '../time/kept';

const WIDTH = 1000;
const HEIGHT = 66;
const TOP = 20;

const YEAR = 366;

// The axis reaches from the first holder (at most ten years back) to a year after the last thing known.
const windowOf = (register: Register, id: number, on: Day, today: Day): { from: Day; until: Day } => {
  const rows = [...register.rows('position', id), ...register.referrers('placement', 'positionId', id)];
  const bounds = rows.flatMap(({ from, until }) => [from, until]);
  const days = bounds.filter((bound): bound is Day => bound !== BEGINNING && bound !== OPEN);
  const known = [...days, on, today];
  return {
    from: later(addDays(known.reduce(earlier), -60), addDays(today, -10 * YEAR)),
    until: addDays(known.reduce(later), YEAR),
  };
};

type AxisProps = { id: number; register: Register; nameOf: NameOf };

// All that the axis is drawn from: where days and shares lie, who held what, what a slip prepares.
const useAxis = ({ id, register }: AxisProps) => {
  const { on, today } = useLens();
  const movements = useAllKept(keptMovements) ?? [];
  const window = windowOf(register, id, on, today);
  const days = daysBetween(window.from, window.until);
  const xOf = (of: Bound): number => {
    if (!isBefore(window.from, of)) return 0;
    return isBefore(of, window.until) ? (daysBetween(window.from, of as Day) / days) * WIDTH : WIDTH;
  };
  const limits = register.at('position_limits', id, on);
  const stacks = stackedHoldings(register, id, on);
  const held = stacks.map(({ row }) => row);
  const most = Math.max(
    ...register.rows('position_limits', id).map(({ values }) => values.fte ?? 0),
    ...stacks.map(({ share, foot }) => foot + share),
    100,
  );
  return {
    ...{ xOf, limits, stacks, held, most },
    yOf: (hundredths: number): number => TOP + HEIGHT - (hundredths / most) * HEIGHT,
    exempt: handovers(held, limits?.handoverDays ?? 0),
    prepared: movements.flatMap(({ key, kind, input }) =>
      (kind === 'hire' || kind === 'transfer' || kind === 'rehire') &&
      input['positionId'] === id &&
      typeof input['firstDay'] === 'string'
        ? { key, from: input['firstDay'] as Bound }
        : [],
    ),
    years: yearsIn(window).filter((year) => xOf(`${year}-01-01` as Bound) < WIDTH * 0.97),
  };
};

type Axis = ReturnType<typeof useAxis>;

/** Holders over time: height is the share, dotted line the limit, ochre foot a vacancy, dashed indigo what a slip prepares. */
export const HolderAxis = (props: AxisProps) => {
  const { t } = useTranslation();
  const format = useFormat();
  const axis = useAxis(props);
  const { limits, years, xOf } = axis;
  return (
    <section className="block axis">
      <h2>
        {t('position.overTime')}
        <span className="since">
          {limits?.fte
            ? t('position.limit', { fte: format.hundredths(limits.fte), count: limits.places ?? 0 })
            : t('position.noLimit')}
        </span>
      </h2>
      <div className="axisbox">
        <Drawn {...props} axis={axis} />
        <HolderNames {...props} axis={axis} />
        <DayLabels axis={axis} />
        {years.map((year) => (
          <span key={year} className="year" style={{ left: percent(xOf(`${year}-01-01` as Bound)) }}>
            {year}
          </span>
        ))}
      </div>
      <span className="hidden">{t('position.axisInWords')}</span>
    </section>
  );
};

const percent = (x: number) => `${((100 * x) / WIDTH).toFixed(2)}%`;

const Drawn = (props: AxisProps & { axis: Axis }) => {
  const { id, register, axis } = props;
  const { on, today } = useLens();
  const { xOf, yOf, limits, most, years, prepared } = axis;
  return (
    <svg viewBox={`0 0 ${WIDTH} ${TOP + HEIGHT + 4}`} preserveAspectRatio="none" aria-hidden>
      {years.map((year) => (
        <path key={year} className="grid" d={`M${xOf(`${year}-01-01` as Bound)} ${TOP}v${HEIGHT}`} />
      ))}
      {vacancies(register, id).map(({ from, until }) => (
        <rect
          key={from}
          className="vacancy"
          x={xOf(from)}
          width={Math.max(0, xOf(until) - xOf(from))}
          y={TOP + HEIGHT - 4}
          height={4}
        />
      ))}
      <Held {...props} />
      {register
        .rows('position_limits', id)
        .map(({ from, until, values }) =>
          values.fte === null ? null : (
            <path key={from} className="limit" d={`M${xOf(from)} ${yOf(values.fte)}H${xOf(until)}`} />
          ),
        )}
      {prepared.map(({ key, from }) => (
        <rect
          key={key}
          className="prepared"
          x={xOf(from)}
          width={WIDTH - xOf(from) - 1}
          y={yOf(limits?.fte ?? 100)}
          height={((limits?.fte ?? 100) / most) * HEIGHT}
        />
      ))}
      <path className="today" d={`M${xOf(today)} ${TOP - 6}v${HEIGHT + 6}`} />
      {on !== today && <path className="on" d={`M${xOf(on)} ${TOP - 6}v${HEIGHT + 6}`} />}
    </svg>
  );
};

const Held = ({ register, axis }: AxisProps & { axis: Axis }) => {
  const { monograms } = colours[useMode()];
  const { xOf, yOf, stacks, most, exempt, held } = axis;
  return (
    <>
      {stacks.map(({ row, share, foot }) => (
        <rect
          key={row.id}
          className="held"
          x={xOf(row.from)}
          width={Math.max(1, xOf(row.until) - xOf(row.from))}
          y={yOf(foot + share)}
          height={(share / most) * HEIGHT}
          fill={monograms[(personOf(register, row.values, row.from) ?? 0) % monograms.length]}
        />
      ))}
      {[...exempt].map(([thing, from]) => {
        const end = spanOf(held.filter((row) => row.thing === thing))?.until ?? from;
        return (
          <rect
            key={thing}
            className="handover"
            x={xOf(from)}
            width={Math.max(3, xOf(end) - xOf(from))}
            y={TOP}
            height={HEIGHT}
          />
        );
      })}
    </>
  );
};

const HolderNames = ({ register, nameOf, axis }: AxisProps & { axis: Axis }) => {
  const format = useFormat();
  const { xOf, yOf, stacks, most, held } = axis;
  return (
    <>
      {stacks
        .filter(({ row }) => xOf(row.until) - xOf(row.from) > 90 && held.length <= 12)
        .map(({ row, share, foot }) => (
          <span
            key={row.id}
            className="holder"
            style={{
              left: percent(xOf(row.from)),
              width: percent(xOf(row.until) - xOf(row.from)),
              top: yOf(foot + share),
              height: (share / most) * HEIGHT,
            }}
          >
            <span className="serif">{nameOf('person', personOf(register, row.values, row.from))}</span>
            <span className="soft">{format.hundredths(share)}</span>
          </span>
        ))}
    </>
  );
};

// The two labels turn away from each other, and from the right edge.
const DayLabels = ({ axis: { xOf } }: { axis: Axis }) => {
  const { t } = useTranslation();
  const format = useFormat();
  const { on, today } = useLens();
  const isOnLeft = isBefore(on, today);
  const isTodayLeft = xOf(today) > WIDTH * (isBefore(today, on) ? 0.1 : 0.9);
  return (
    <>
      <span
        className={isTodayLeft ? 'at left' : 'at'}
        style={{ left: isTodayLeft ? `min(${percent(xOf(today))}, calc(100% - 88px))` : percent(xOf(today)) }}
      >
        {t('lens.today')}
      </span>
      {on !== today && (
        <span
          className={isOnLeft ? 'at left indigo' : 'at indigo'}
          style={{ left: isOnLeft ? percent(xOf(on)) : `min(${percent(xOf(on))}, calc(100% - 84px))` }}
        >
          {format.day(on)}
        </span>
      )}
    </>
  );
};

const yearsIn = ({ from, until }: { from: Day; until: Day }): number[] => {
  const [first, last] = [Number(from.slice(0, 4)) + 1, Number(until.slice(0, 4))];
  const step = last - first > 8 ? 2 : 1;
  return Array.from({ length: Math.max(0, last - first + 1) }, (_, i) => first + i).filter(
    (year) => year % step === 0,
  );
};
