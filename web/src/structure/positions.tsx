import '../lists/lists.css';
import type { WhichPositions } from '@gremium/contract';
import { fold } from '@gremium/core';
import { useMemo } from 'react';
import { useTranslation } from 'react-i18next';
import { useParams, useSearchParams } from 'react-router';
import { useSetParams, useTo } from '../frame/lens';
import { pathOf, useNameOfPage } from '../frame/pages';
import { useFormat } from '../texts/format';
import { type Item, RecordList } from '../ui/list';
import { ListAndRecord } from '../ui/list-and-record';
import { type MarkName, OccupancyMark } from '../ui/occupancy-mark';
import { type Pick, PickWord } from '../ui/sentence';
import { Views } from '../ui/views';
import { PositionRecord } from './position-record';
import { useUnitOptions } from './unit-options';
import { type PositionLine, usePositions } from './structure.queries';
import { useUnits } from '../time/time.queries';
import { useHeldSaid } from './held-said';
import { useMatching } from '../reports/reports.queries';
import { ListFoot } from '../lists/list-foot';
import { ListTable } from '../lists/list-table';
import { type Listed, useListView } from '../lists/list-view';
import { WhereLine } from '../lists/where-line';

const SHOWN = ['open', 'free', 'above', 'top', 'differs', 'planned', 'on_hold', 'closed', 'any'] as const;
type Shown = (typeof SHOWN)[number];

// What the server looks for, since it takes more than the line to know.
const asked = (shown: Shown): WhichPositions | undefined =>
  shown === 'above' || shown === 'top' || shown === 'differs' ? shown : undefined;

const fits: Record<Shown, (mark: string) => boolean> = {
  open: (mark) => mark !== 'closed',
  free: (mark) => mark === 'vacant' || mark === 'part_filled',
  above: () => true,
  top: () => true,
  differs: () => true,
  planned: (mark) => mark === 'planned',
  on_hold: (mark) => mark === 'on_hold',
  closed: (mark) => mark === 'closed',
  any: () => true,
};

/** Positions of a day by unit, and the record of one. */
export const Positions = () => {
  const { t } = useTranslation();
  const pageName = useNameOfPage('/structure/positions');
  const { id } = useParams();
  const format = useFormat();
  const [params] = useSearchParams();
  const set = useSetParams();
  const branch = params.get('in') ?? '';
  const shown = (params.get('shown') ?? 'open') as Shown;
  const search = params.get('search') ?? '';
  const positions = usePositions(branch === '' ? undefined : Number(branch), asked(shown));
  const units = useUnitOptions(t('filter.wholeOrganisation'));
  const list = usePositionView({ branch, shown, search });
  const matching = useMatching(listed.subject, list.where);
  const lines = useMemo(
    () =>
      (positions.data?.positions ?? []).filter(
        (line) =>
          fits[shown](line.mark) &&
          matches(line, search) &&
          (matching.ids === null || matching.ids?.has(line.id)),
      ),
    [positions.data, shown, search, matching.ids],
  );
  const picks: [Pick, Pick] = [
    {
      name: 'shown',
      label: t('position.shown'),
      value: shown,
      options: SHOWN.map((value) => ({ value, label: t(`position.show.${value}`) })),
      onChange: (value) => set({ shown: value === 'open' ? null : value }),
    },
    {
      name: 'in',
      label: t('outline.unit'),
      value: branch,
      options: units,
      onChange: (value) => set({ in: value }),
    },
  ];
  const free = lines.filter(({ mark }) => fits.free(mark)).length;
  return (
    <ListAndRecord
      title={pageName}
      views={<Views of="structure" />}
      filters={{
        sentence: (
          <>
            {t('position.sentence')} <PickWord pick={picks[0]} /> {t('filter.in')}{' '}
            <PickWord pick={picks[1]} />
          </>
        ),
        where: <WhereLine subject={listed.subject} where={list.where} onChange={list.setWhere} />,
        picks,
        search: { value: search, label: t('position.search'), onChange: (text) => set({ search: text }) },
        count: positions.isPending
          ? t('waiting')
          : t('position.count', {
              count: lines.length,
              shown: format.number(lines.length),
              free: format.number(free),
            }),
      }}
      error={positions.error ?? matching.error}
      list={
        !positions.isPending && (
          <Lines lines={lines} open={id ? pathOf('position', id) : ''} units={units} kept={list.kept} />
        )
      }
      record={id ? <PositionRecord key={id} id={Number(id)} /> : null}
      choose={t('position.choose')}
      foot={<ListFoot listed={listed} list={list} />}
      wide={list.shape === 'table' && <ListTable list={list} />}
    />
  );
};

const listed: Listed = {
  subject: 'position',
  path: '/structure/positions',
  shapes: ['list', 'table'],
  searched: ['position.title', 'position.code', 'position.holders'],
  columns: [
    'position.title',
    'position.code',
    'unit.name',
    'position.occupancy',
    'position.holders',
    'position.held',
    'position.freeFte',
    'position.hireFte',
    'position.daysVacant',
  ],
  order: 'unit.path,position.title',
  params: ['in', 'shown', 'search'],
  open: { shown: 'any', in: null, search: null },
};

// The filters of this page as conditions.
const usePositionView = ({ branch, shown, search }: { branch: string; shown: Shown; search: string }) => {
  const units = useUnits();
  const unit = units?.find(({ thing }) => String(thing) === branch)?.values['code'];
  const narrowed = [CONDITIONS[shown], typeof unit === 'string' ? `unit.within == "${unit}"` : ''];
  return useListView(listed, { narrowed, search, seen: null });
};

const CONDITIONS: Record<Shown, string> = {
  open: 'position.occupancy != "closed"',
  free: 'position.occupancy in ["vacant", "part_filled"]',
  above: 'position.occupancy == "over_held"',
  top: 'position.unconfirmedTop == true',
  differs: 'position.differences > 0',
  planned: 'position.occupancy == "planned"',
  on_hold: 'position.occupancy == "on_hold"',
  closed: 'position.occupancy == "closed"',
  any: '',
};

const matches = ({ title, code, names }: PositionLine, search: string): boolean => {
  const text = fold(`${title} ${code} ${names.join(' ')}`);
  return fold(search)
    .split(' ')
    .every((word) => text.includes(word));
};

const Lines = ({
  lines,
  open,
  units,
  kept,
}: {
  lines: PositionLine[];
  open: string;
  units: { value: string; label: string }[];
  kept: Record<string, string>;
}) => {
  const { t } = useTranslation();
  const pageName = useNameOfPage('/structure/positions');
  const format = useFormat();
  const to = useTo();
  const heldSaid = useHeldSaid();
  const items = useMemo(() => {
    const byUnit = new Map<string, PositionLine[]>();
    for (const line of lines)
      byUnit.set(String(line.unitId), [...(byUnit.get(String(line.unitId)) ?? []), line]);
    return units.flatMap(({ value, label }): Item[] => {
      const own = byUnit.get(value);
      if (!own) return [];
      return [
        { key: `unit ${value}`, group: label.trim(), name: '' },
        ...own
          .sort((a, b) => a.title.localeCompare(b.title) || a.code.localeCompare(b.code))
          .map((line) => ({
            key: String(line.id),
            path: pathOf('position', line.id),
            to: to(pathOf('position', line.id), kept),
            mark: <OccupancyMark mark={line.mark as MarkName} />,
            name: line.title,
            about: aboutOf(line),
            end:
              line.held === line.limit
                ? format.hundredths(line.held)
                : heldSaid({ ...line, holders: line.holders.length }),
          })),
      ];
    });
    function aboutOf(line: PositionLine): string {
      if (line.mark === 'over_held' && line.reviewOn)
        return t('position.review', { day: format.day(line.reviewOn) });
      if (line.mark === 'planned' || line.mark === 'closed') return t(`mark.${line.mark}`);
      const held =
        line.holders.length === 1
          ? (line.names[0] ?? t('position.holders', { count: 1, shown: 1 }))
          : t('position.holders', { count: line.holders.length, shown: format.number(line.holders.length) });
      if (line.mark === 'vacant' && line.vacantSince)
        return t('position.vacantSince', { day: format.day(line.vacantSince) });
      if (line.mark === 'on_hold') return [line.names[0], t('mark.on_hold')].filter(Boolean).join(', ');
      return held;
    }
  }, [lines, units, kept, t, format, to, heldSaid]);
  return <RecordList label={pageName} items={items} open={open} empty={t('position.none')} />;
};
