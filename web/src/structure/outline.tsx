import { movementOf } from '@gremium/contract';
import { useVirtualizer } from '@tanstack/react-virtual';
import { Button } from 'antd';
import { type KeyboardEvent, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, useSearchParams } from 'react-router';
import { useKeys } from '../frame/keys';
import { useSetParams, useTo } from '../frame/lens';
import { pathOf, useNameOfPage } from '../frame/pages';
import { useMay, useSession } from '../frame/session';
import { useStart } from '../movements/acts';
import { useFormat } from '../texts/format';
import { Monogram } from '../ui/monogram';
import { type MarkName, OccupancyMark } from '../ui/occupancy-mark';
import { Problems } from '../ui/problems';
import { PickWord } from '../ui/sentence';
import { Cost } from './cost';
import { type Reorganising, useReorganising } from './reorganise';
import { useScopeSaid } from './scope-said';
import { Views } from '../ui/views';
import { LEVELS, type UnitLine, useOutline } from './structure.queries';

const MARKS: MarkName[] = ['filled', 'part_filled', 'vacant', 'over_held', 'on_hold', 'planned'];
const ROW = 34;

// The address holds the units that are not folded or unfolded as their level is.
const useFolding = () => {
  const [params] = useSearchParams();
  const set = useSetParams();
  const turned = new Set((params.get('turned') ?? '').split('.').map(Number).filter(Boolean));
  const isOpen = ({ id, depth }: UnitLine) => depth + 1 < LEVELS !== turned.has(id);
  const turn = (id: number) => {
    if (!turned.delete(id)) turned.add(id);
    set({ turned: [...turned].join('.') });
  };
  return { turned: [...turned], isOpen, turn };
};

/** The tree of units as a table with rolled-up figures of the day looked at. */
export const Outline = () => {
  const { t } = useTranslation();
  const pageName = useNameOfPage('/structure/outline');
  const format = useFormat();
  const { turned, isOpen, turn } = useFolding();
  const outline = useOutline(turned);
  const [params] = useSearchParams();
  const set = useSetParams();
  const isOwn = params.get('figures') === 'own';
  const { units: lines = [], count = 0, levels = 0 } = outline.data ?? {};
  const [top] = lines;
  const scopeOf = useScopeSaid();
  const reorganising = useReorganising(lines);
  const figures = [
    { value: 'branch', label: t('outline.branch') },
    { value: 'own', label: t('outline.own') },
  ];
  return (
    <main className="sheet outline">
      <Views of="structure" />
      <h1 className="hidden">{pageName}</h1>
      {(top || outline.isPending) && (
        <div className="sentence">
          <p>
            {t('outline.whole', { unit: top?.name ?? '' })}{' '}
            <PickWord
              pick={{
                name: 'figures',
                label: t('outline.figures'),
                value: isOwn ? 'own' : 'branch',
                options: figures,
                onChange: (value) => set({ figures: value === 'own' ? 'own' : null }),
              }}
            />
          </p>
          <span className="soft">
            {outline.isPending ? t('waiting') : t('outline.count', { count, levels: format.number(levels) })}
            {top && ` · ${scopeOf(top.branch ?? top.own)}`}
            {top && reorganising.button}
          </span>
        </div>
      )}
      {reorganising.line}
      <Problems of={outline.error} />
      {outline.isSuccess && lines.length === 0 && <NoUnits />}
      {lines.length > 0 && (
        <Table {...{ lines, isOpen, turn, isOwn, reorganising }} isWaiting={outline.isPlaceholderData} />
      )}
    </main>
  );
};

// Nothing stands on this day: the first of all is begun here.
const NoUnits = () => {
  const { t } = useTranslation();
  const may = useMay();
  const to = useTo();
  const start = useStart();
  const { organisationId, organisation } = useSession();
  const { right } = movementOf('new_unit');
  return (
    <div className="empty">
      <p>{t('outline.empty')}</p>
      {organisationId === null
        ? may.edit('organisation') && <Link to={to('/setup/organisation')}>{t('outline.describeFirst')}</Link>
        : may.do(right) && (
            <Button
              onClick={() =>
                start('new_unit', { kind: 'organisation', id: organisationId, name: organisation }, {})
              }
            >
              {t('outline.firstUnit')}
            </Button>
          )}
    </div>
  );
};

type TableProps = {
  lines: UnitLine[];
  isOpen: (line: UnitLine) => boolean;
  turn: (id: number) => void;
  isOwn: boolean;
  isWaiting: boolean;
  reorganising: Reorganising;
};

const Table = ({ lines, isOpen, turn, isOwn, isWaiting, reorganising }: TableProps) => {
  const { t } = useTranslation();
  const box = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: lines.length,
    getScrollElement: () => box.current,
    estimateSize: () => ROW,
    getItemKey: (i) => lines[i]?.id ?? i,
    overscan: 12,
  });
  const links = () => [...(box.current?.querySelectorAll<HTMLElement>('th a') ?? [])];
  const move = (step: 1 | -1) => {
    const all = links();
    const at = all.indexOf(document.activeElement as HTMLElement);
    all[Math.min(all.length - 1, Math.max(0, at + step))]?.focus();
  };
  useKeys({ down: () => move(1), up: () => move(-1) });
  // one row is a stop for the tab key: the one last gone to
  const [stop, setStop] = useState<number | null>(null);
  const stopAt = lines.some(({ id }) => id === stop) ? stop : (lines[0]?.id ?? null);
  const press = (event: KeyboardEvent, line: UnitLine) => {
    const step = { ArrowDown: 1 as const, ArrowUp: -1 as const }[event.key];
    if (step) {
      event.preventDefault();
      return move(step);
    }
    const opens = { ArrowRight: true, ArrowLeft: false }[event.key];
    if (opens === undefined || !line.hasBelow || isOpen(line) === opens) return;
    event.preventDefault();
    turn(line.id);
  };
  const byId = new Map(lines.map((line) => [line.id, line]));
  const items = virtual.getVirtualItems();
  const [before, after] = [items[0]?.start ?? 0, virtual.getTotalSize() - (items.at(-1)?.end ?? 0)];
  return (
    <div className="scroll" ref={box} aria-busy={isWaiting}>
      <table className="register tree">
        <colgroup>
          <col className="c-unit" />
          <col className="c-head" />
          <col className="c-n" />
          <col className="c-n" />
          <col className="c-marks" />
          <col className="c-n" />
          <col className="c-n" />
          <col className="c-s" />
          <col className="c-cost" />
          <col className="c-bar" />
        </colgroup>
        <thead>
          <tr>
            <th scope="col">{t('outline.unit')}</th>
            <th scope="col">{t('outline.head')}</th>
            <th scope="col" className="r">
              {t('outline.people')}
            </th>
            <th scope="col" className="r">
              {t('outline.fte')}
            </th>
            <th scope="col">{t('outline.positions')}</th>
            <th scope="col" className="r">
              {t('outline.freeFte')}
            </th>
            <th scope="col" className="r">
              {t('outline.hireFte')}
            </th>
            <th scope="col" className="r">
              {t('outline.span')}
            </th>
            <th scope="col" className="r">
              {t('outline.cost')}
            </th>
            <th scope="col">{t('outline.ofParent')}</th>
          </tr>
        </thead>
        <tbody>
          {before > 0 && <tr style={{ height: before }} aria-hidden />}
          {items.map(({ index }) => {
            const line = lines[index] as UnitLine;
            return (
              <Row
                key={line.id}
                {...{ line, isOwn, reorganising }}
                parent={line.parentId === null ? undefined : byId.get(line.parentId)}
                fold={line.hasBelow ? { isOpen: isOpen(line), turn: () => turn(line.id) } : null}
                onKeyDown={(event) => press(event, line)}
                tabIndex={line.id === stopAt ? 0 : -1}
                onFocus={() => setStop(line.id)}
              />
            );
          })}
          {after > 0 && <tr style={{ height: after }} aria-hidden />}
        </tbody>
      </table>
    </div>
  );
};

type RowProps = {
  line: UnitLine;
  parent: UnitLine | undefined;
  isOwn: boolean;
  fold: { isOpen: boolean; turn: () => void } | null;
  onKeyDown: (event: KeyboardEvent) => void;
  tabIndex: number;
  onFocus: () => void;
  reorganising: Reorganising;
};

const Row = ({ line, parent, isOwn, fold, onKeyDown, tabIndex, onFocus, reorganising }: RowProps) => {
  const { t } = useTranslation();
  const format = useFormat();
  const to = useTo();
  const branchOf = (of: UnitLine) => of.branch ?? of.own;
  const figures = isOwn ? line.own : branchOf(line);
  const share =
    parent && branchOf(parent).people > 0
      ? branchOf(line).people / branchOf(parent).people
      : line.parentId === null
        ? 1
        : 0;
  return (
    <tr
      className={
        [line.depth === 0 ? 'top-unit' : '', reorganising.classOf(line)].join(' ').trim() || undefined
      }
      data-unit={line.id}
      onFocus={onFocus}
      {...reorganising.handlers(line)}
    >
      <th scope="row" style={{ paddingLeft: 24 + line.depth * 22 }}>
        {fold ? (
          <button
            type="button"
            className="fold"
            tabIndex={tabIndex}
            aria-expanded={fold.isOpen}
            aria-label={t(fold.isOpen ? 'outline.fold' : 'outline.unfold', { unit: line.name })}
            onClick={fold.turn}
          >
            {fold.isOpen ? '▾' : '▸'}
          </button>
        ) : (
          <span className="fold" />
        )}
        <Link className="serif" to={to(pathOf('unit', line.id))} onKeyDown={onKeyDown} tabIndex={tabIndex}>
          {line.name}
        </Link>
        {reorganising.acts(line)}
      </th>
      <td>
        <HeadCell head={line.head} tabIndex={tabIndex} />
      </td>
      <td className="r">
        {figures.people > 0 ? (
          <Link
            to={to('/people', { in: String(line.id), status: 'counted', itself: isOwn ? 'yes' : null })}
            tabIndex={tabIndex}
          >
            {format.number(figures.people)}
          </Link>
        ) : (
          0
        )}
      </td>
      <td className="r">{format.hundredths(figures.fte)}</td>
      <td className="marks">
        {MARKS.map((mark) => (
          <span key={mark} className="m">
            {(figures.marks[mark] ?? 0) > 0 && (
              <>
                <OccupancyMark mark={mark} /> {format.number(figures.marks[mark] ?? 0)}
              </>
            )}
          </span>
        ))}
      </td>
      <td className="r">{figures.freeFte > 0 ? format.hundredths(figures.freeFte) : '–'}</td>
      <td className="r ochre">{figures.hireFte > 0 ? format.hundredths(figures.hireFte) : '–'}</td>
      <td className="r">{figures.span === null ? '–' : format.hundredths(Math.round(figures.span * 100))}</td>
      <td className="r">
        <Cost cost={figures.cost} />
      </td>
      <td>
        <span
          className="bar"
          style={{ width: `${Math.round(share * 100)}%` }}
          role="img"
          aria-label={t('outline.share', { percent: Math.round(share * 100) })}
        />
      </td>
    </tr>
  );
};

const HeadCell = ({ head, tabIndex }: { head: UnitLine['head']; tabIndex: number }) => {
  const { t } = useTranslation();
  const to = useTo();
  if (!head || head.state === 'none') return <span className="soft">–</span>;
  if (head.name === null) return <span className="soft">{t('problem.record_hidden')}</span>;
  if (head.state === 'bridged')
    return (
      <span className="head ochre">
        <OccupancyMark mark="vacant" /> {t('outline.bridged', { name: head.name })}
      </span>
    );
  return (
    <span className="head">
      <Monogram name={head.name} size={22} />
      <Link className="serif" to={to(`/people/${head.personId}`)} tabIndex={tabIndex}>
        {head.name}
      </Link>
      {head.state === 'acting' && <span className="soft">{t('outline.acting')}</span>}
    </span>
  );
};
