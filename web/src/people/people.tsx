import '../lists/lists.css';
import type { PersonLine } from '@gremium/contract';
import { useCallback, useMemo } from 'react';
import { useTranslation } from 'react-i18next';
import { useParams, useSearchParams } from 'react-router';
import { useLens, useSetParams, useTo } from '../frame/lens';
import { keptMovements } from '../movements/kept-movements';
import { pathOf } from '../frame/pages';
import { sectionDrafts } from '../time/section-drafts';
import { useUnitOptions } from '../structure/unit-options';
import { useReferenceRegister, useUnits } from '../time/time.queries';
import { type Item, RecordList, grouped } from '../ui/list';
import { ListAndRecord } from '../ui/list-and-record';
import { Monogram } from '../ui/monogram';
import { type Pick, PickWord } from '../ui/sentence';
import { useCountSaid, useCountedTypes } from './counted';
import { PeopleCards } from './people-cards';
import { type PeopleFilter, STATUSES, type StatusAsked, usePeople } from './people.queries';
import { PersonRecord } from './person-record';
import { ReportingTree } from './reporting-tree';
import { useStatusSaid } from './status-said';
import { useMay } from '../frame/session';
import { ListFoot } from '../lists/list-foot';
import { ListTable } from '../lists/list-table';
import { type Listed, useListView } from '../lists/list-view';
import { WhereLine } from '../lists/where-line';
import { useAllKept } from '../time/kept';

/** People of a day, found by any part of the name, and the record of one. */
export const People = () => {
  const { t } = useTranslation();
  const { id } = useParams();
  const { on } = useLens();
  const [params] = useSearchParams();
  const set = useSetParams();
  const asked = {
    search: params.get('search') ?? '',
    status: (params.get('status') ?? 'here') as StatusAsked,
    branch: Number(params.get('in')) || undefined,
    itself: params.has('itself'),
    location: Number(params.get('place')) || undefined,
    where: params.get('where') ?? '',
    photos: params.get('as') === 'cards',
  };
  const list = usePeopleView(asked);
  const people = usePeople(asked);
  const units = useUnitOptions(t('filter.wholeOrganisation'));
  const places = usePlaceOptions(on);
  const lines = useMemo(() => people.data?.pages.flatMap((page) => page.people) ?? [], [people.data]);
  const total = people.data?.pages[0]?.total ?? 0;
  const counted = useCountedTypes();
  const said = useCountSaid(asked.status, { total, notCounted: people.data?.pages[0]?.notCounted ?? 0 });
  const picks: [Pick, Pick, Pick] = [
    {
      name: 'status',
      label: t('people.status'),
      value: asked.status,
      options: STATUSES.map((value) => ({ value, label: t(`people.which.${value}`, { types: counted }) })),
      onChange: (value) => set({ status: value === 'here' ? null : value }),
    },
    {
      name: 'in',
      label: t('outline.unit'),
      value: params.get('in') ?? '',
      options: units,
      onChange: (value) => set({ in: value, itself: null }),
    },
    {
      name: 'place',
      label: t('people.location'),
      value: params.get('place') ?? '',
      options: places,
      onChange: (value) => set({ place: value }),
    },
  ];
  const to = useTo();
  const toLine = (line: PersonLine) => to(pathOf('person', line.id), list.kept);
  const { hasNextPage, isFetchingNextPage, fetchNextPage } = people;
  const more = useCallback(() => {
    if (hasNextPage && !isFetchingNextPage) void fetchNextPage();
  }, [hasNextPage, isFetchingNextPage, fetchNextPage]);
  return (
    <ListAndRecord
      title={t('divider.people')}
      filters={{
        sentence: (
          <>
            <PickWord pick={picks[0]} /> {t('people.sentence')} <PickWord pick={picks[1]} />{' '}
            {asked.itself && `${t('people.itself')} `}
            {t('filter.at')} <PickWord pick={picks[2]} />
          </>
        ),
        where: <WhereLine subject={listed.subject} where={list.where} onChange={list.setWhere} />,
        picks,
        search: {
          value: asked.search,
          label: t('people.search'),
          onChange: (text) => set({ search: text }),
        },
        count: people.isPending ? t('people.waiting') : said,
      }}
      error={people.error}
      list={
        !people.isPending && (
          <Lines
            lines={lines}
            open={id ? pathOf('person', id) : ''}
            onEnd={more}
            isSearch={asked.search !== '' || asked.where !== ''}
            kept={list.kept}
          />
        )
      }
      record={id ? <PersonRecord key={id} id={Number(id)} /> : null}
      choose={t('people.choose')}
      foot={<ListFoot listed={listed} list={list} />}
      wide={
        list.shape === 'table' ? (
          <ListTable list={list} />
        ) : list.shape === 'tree' ? (
          <ReportingTree to={toLine} />
        ) : (
          list.shape === 'cards' &&
          !people.isPending && (
            <PeopleCards label={t('divider.people')} lines={lines} to={toLine} onEnd={more} />
          )
        )
      }
    />
  );
};

const listed: Listed = {
  subject: 'person_name',
  path: '/people',
  shapes: ['list', 'table', 'cards', 'tree'],
  searched: ['person_name.name', 'person_name.formerNames', 'person.number', 'contact.value'],
  columns: [
    'person_name.name',
    'person.number',
    'position.title',
    'unit.name',
    'location.name',
    'employment.begins',
    'employment.status',
  ],
  order: 'person_name.listed',
  params: ['in', 'itself', 'status', 'place', 'search'],
  open: { status: 'any', in: null, itself: null, place: null, search: null },
};

const STATUS_CONDITIONS: Record<StatusAsked, string> = {
  here: 'employment.status in ["at_work", "away"]',
  counted: 'employment.status in ["at_work", "away"] && employment.counts == true',
  coming: 'employment.status == "coming"',
  left: 'employment.status == "left"',
  any: '',
};

// The filters of this page as conditions, for what shows it otherwise than as its list.
const usePeopleView = ({ status, branch, itself, location, search }: PeopleFilter) => {
  const { on } = useLens();
  const units = useUnits();
  const register = useReferenceRegister();
  const may = useMay();
  const unit = branch && units?.find(({ thing }) => thing === branch)?.values['code'];
  const place = location && register?.at('location', location, on)?.code;
  const inside = unit ? (itself ? `unit.code == "${unit}"` : `unit.within == "${unit}"`) : '';
  const narrowed = [STATUS_CONDITIONS[status], inside, place ? `location.code == "${place}"` : ''];
  const mayNumber = may.view('person');
  const mayContact = may.view('contact');
  const seen = useMemo(
    () =>
      new Set([
        'person_name.name',
        'person_name.formerNames',
        ...(mayNumber ? ['person.number'] : []),
        ...(mayContact ? ['contact.value'] : []),
      ]),
    [mayNumber, mayContact],
  );
  return useListView(listed, { narrowed, search, seen });
};

const usePlaceOptions = (on: string) => {
  const { t } = useTranslation();
  const register = useReferenceRegister();
  return useMemo(
    () => [
      { value: '', label: t('filter.anyPlace') },
      ...[...(register?.allOn('location', on as never) ?? [])]
        .map(({ thing, values }) => ({ value: String(thing), label: values.name }))
        .sort((a, b) => a.label.localeCompare(b.label)),
    ],
    [register, on, t],
  );
};

type LinesProps = {
  lines: PersonLine[];
  open: string;
  onEnd: () => void;
  isSearch: boolean;
  kept: Record<string, string>;
};

const Lines = ({ lines, open, onEnd, isSearch, kept }: LinesProps) => {
  const { t } = useTranslation();
  const to = useTo();
  const statusOf = useStatusSaid();
  const drafts = useAllKept(sectionDrafts);
  const movements = useAllKept(keptMovements);
  const items = useMemo(() => {
    const written = new Set([...(drafts ?? []), ...(movements ?? [])].map(({ about }) => about));
    const endOf = (line: PersonLine): React.ReactNode =>
      written.has(`person ${line.id}`) ? <span className="ochre">{t('draft.word')}</span> : statusOf(line);
    return grouped(
      lines,
      ({ sort }) => [...sort][0]?.toUpperCase() ?? '',
      (line): Item => ({
        key: String(line.id),
        path: pathOf('person', line.id),
        to: to(pathOf('person', line.id), kept),
        mark: <Monogram name={line.name} />,
        name: line.name,
        about: [line.title, line.unit].filter(Boolean).join(', '),
        end: endOf(line),
      }),
    );
  }, [lines, kept, drafts, movements, t, to, statusOf]);
  return (
    <RecordList
      label={t('divider.people')}
      items={items}
      open={open}
      onEnd={onEnd}
      empty={t(isSearch ? 'people.none' : 'people.noneHere')}
    />
  );
};
