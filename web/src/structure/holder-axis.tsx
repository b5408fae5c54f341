import type { Bound, Row } from '@gremium/contract';
import { type Register, handovers, personOf, takesNothing } from '@gremium/core';
import { useTranslation } from 'react-i18next';
import { useDrafts } from '../movements/drafts';
import { useLens } from '../frame/lens';
import { useMode } from '../frame/session';
import { holdings } from './holdings';
import { useFormat } from '../texts/format';
import type { NameOf } from '../time/time.queries';
import { colours } from '../tokens';

const WIDTH = 1000;
const HEIGHT = 66;
const TOP = 20;

type Span = { from: number; until: number };
const number = (of: Bound): number => Date.parse(of);

// The axis reaches from the first holder (at most ten years back) to a year after the last thing known.
const windowOf = (register: Register, id: number, on: Bound, today: Bound): Span => {
  const rows = [...register.rows('position', id), ...register.referrers('placement', 'positionId', id)];
  const days = rows
    .flatMap(({ from, until }) => [from, until])
    .filter((bound) => !bound.endsWith('infinity'));
  const known = [...days, on, today].map(number);
  const from = Math.max(Math.min(...known) - 60 * 86_400_000, number(today) - 3652 * 86_400_000);
  return { from, until: Math.max(...known) + 366 * 86_400_000 };
};

/** Holders over time: height is the share, dotted line the limit, ochre foot a vacancy, dashed indigo what a slip prepares. */
export const HolderAxis = ({ id, register, nameOf }: { id: number; register: Register; nameOf: NameOf }) => {
  const { t } = useTranslation();
  const format = useFormat();
  const { on, today } = useLens();
  const { monograms } = colours[useMode()];
  const drafts = useDrafts() ?? [];
  const window = windowOf(register, id, on, today);
  const xOf = (of: Bound): number => {
    const at = of === '-infinity' ? window.from : of === 'infinity' ? window.until : number(of);
    const inside = Math.min(Math.max(at, window.from), window.until);
    return ((inside - window.from) / (window.until - window.from)) * WIDTH;
  };
  const limits = register.at('position_limits', id, on);
  const held = holdings(register, id).filter(({ values }) => !takesNothing(values));
  const exempt = handovers(held, limits?.handoverDays ?? 0);
  const stacks = stacked(held, exempt);
  const tops = stacks.map(({ row, foot }) => foot + shareOf(row));
  const most = Math.max(limits?.fte ?? 0, ...tops, 100);
  const yOf = (hundredths: number): number => TOP + HEIGHT - (hundredths / most) * HEIGHT;
  const prepared = drafts.filter(
    ({ kind, content }) =>
      kind !== 'edit' && content['positionId'] === id && typeof content['firstDay'] === 'string',
  );
  const years = yearsIn(window).filter((year) => xOf(`${year}-01-01` as Bound) < WIDTH * 0.97);
  // the two labels turn away from each other, and from the right edge
  const isOnLeft = on < today;
  const isTodayLeft = xOf(today) > WIDTH * (on > today ? 0.1 : 0.9);
  const percent = (x: number) => `${((100 * x) / WIDTH).toFixed(2)}%`;
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
        <svg viewBox={`0 0 ${WIDTH} ${TOP + HEIGHT + 4}`} preserveAspectRatio="none" aria-hidden>
          {years.map((year) => (
            <path key={year} className="grid" d={`M${xOf(`${year}-01-01` as Bound)} ${TOP}v${HEIGHT}`} />
          ))}
          {vacancies(register, id, held, on).map(({ from, until }) => (
            <rect
              key={from}
              className="vacancy"
              x={xOf(from)}
              width={Math.max(0, xOf(until) - xOf(from))}
              y={TOP + HEIGHT - 4}
              height={4}
            />
          ))}
          {stacks.map(({ row, foot }) => {
            const share = shareOf(row);
            return (
              <rect
                key={row.id}
                className="held"
                x={xOf(row.from)}
                width={Math.max(1, xOf(row.until) - xOf(row.from))}
                y={yOf(foot + share)}
                height={(share / most) * HEIGHT}
                fill={monograms[(personOf(register, row.values, row.from) ?? 0) % monograms.length]}
              />
            );
          })}
          {[...exempt].map(([thing, from]) => {
            const end = held
              .filter((row) => row.thing === thing)
              .map(({ until }) => until)
              .sort()
              .at(-1) as Bound;
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
          {limits?.fte && <path className="limit" d={`M0 ${yOf(limits.fte)}H${WIDTH}`} />}
          {prepared.map((draft) => {
            const from = draft.content['firstDay'] as Bound;
            return (
              <rect
                key={draft.key}
                className="prepared"
                x={xOf(from)}
                width={WIDTH - xOf(from) - 1}
                y={yOf(limits?.fte ?? 100)}
                height={((limits?.fte ?? 100) / most) * HEIGHT}
              />
            );
          })}
          <path className="today" d={`M${xOf(today)} ${TOP - 6}v${HEIGHT + 6}`} />
          {on !== today && <path className="on" d={`M${xOf(on)} ${TOP - 6}v${HEIGHT + 6}`} />}
        </svg>
        {stacks
          .filter(({ row }) => xOf(row.until) - xOf(row.from) > 90 && held.length <= 12)
          .map(({ row, foot }) => (
            <span
              key={row.id}
              className="holder"
              style={{
                left: percent(xOf(row.from)),
                width: percent(xOf(row.until) - xOf(row.from)),
                top: yOf(foot + shareOf(row)),
                height: (shareOf(row) / most) * HEIGHT,
              }}
            >
              <span className="serif">{nameOf('person', personOf(register, row.values, row.from))}</span>
              <span className="soft">{format.hundredths(shareOf(row))}</span>
            </span>
          ))}
        <span
          className={isTodayLeft ? 'at left' : 'at'}
          style={{
            left: isTodayLeft ? `min(${percent(xOf(today))}, calc(100% - 88px))` : percent(xOf(today)),
          }}
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

const shareOf = ({ values }: Row<'placement'>): number => Math.round((100 * values.hours) / values.fullTime);

// Each holding stands on those that began before it and still run; a leaver in a handover carries nobody.
const stacked = (
  rows: readonly Row<'placement'>[],
  exempt: ReadonlyMap<number, Bound>,
): { row: Row<'placement'>; foot: number }[] => {
  const order = [...rows].sort((a, b) => (a.from < b.from ? -1 : 1));
  const carries = (other: Row<'placement'>, on: Bound) =>
    other.from <= on && on < other.until && !((exempt.get(other.thing) ?? 'infinity') <= on);
  return order.map((row, i) => ({
    row,
    foot: order
      .slice(0, i)
      .filter((other) => carries(other, row.from))
      .map(shareOf)
      .reduce((sum, share) => sum + share, 0),
  }));
};

// Days in force with nobody, among those shown.
const vacancies = (register: Register, id: number, holdings: readonly Row<'placement'>[], on: Bound) => {
  const inForce = register.rows('position', id).filter(({ values }) => values.standing === 'in_force');
  return inForce.flatMap((standing) => {
    const bounds = [standing.from, standing.until, ...holdings.flatMap(({ from, until }) => [from, until])]
      .filter((bound) => standing.from <= bound && bound <= standing.until)
      .sort();
    return [...new Set(bounds)].flatMap((from, i, all) => {
      const until = all[i + 1];
      const isHeld = holdings.some((row) => row.from <= from && from < row.until);
      return until === undefined || isHeld || from === until ? [] : [{ from, until, on }];
    });
  });
};

const yearsIn = ({ from, until }: Span): number[] => {
  const first = new Date(from).getUTCFullYear() + 1;
  const last = new Date(until).getUTCFullYear();
  const step = last - first > 8 ? 2 : 1;
  return Array.from({ length: Math.max(0, last - first + 1) }, (_, i) => first + i).filter(
    (year) => year % step === 0,
  );
};
